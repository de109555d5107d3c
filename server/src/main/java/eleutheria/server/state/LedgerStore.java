package eleutheria.server.state;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;
import static eleutheria.server.tables.Tables.LEDGER_CHANGE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_HEAD;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;
import static eleutheria.server.tables.Tables.LEDGER_PAYLOAD;
import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.ErasureDecisions;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.FactJson;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Payload;
import eleutheria.core.ledger.SealedEntry;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** The ledger as rows. */
@Repository
public class LedgerStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** An entry as it stands, with the payloads that are left. */
  public record Entry(long position, Instant instant, String json, String hash) {}

  /** The edits of one entry, to be followed. */
  record Followed(LedgerHead head, List<Edit> edits) {}

  public LedgerHead head(DSLContext db) {
    return head(db.selectFrom(LEDGER_HEAD).fetchSingle());
  }

  /** Takes the one lock that all acts queue for. */
  public LedgerHead lockHead(DSLContext db) {
    return head(db.selectFrom(LEDGER_HEAD).forUpdate().fetchSingle());
  }

  private static LedgerHead head(Record row) {
    return new LedgerHead(
        row.get(LEDGER_HEAD.POSITION), row.get(LEDGER_HEAD.HASH), row.get(LEDGER_HEAD.INSTANT));
  }

  public void append(DSLContext db, SealedEntry entry) {
    db.insertInto(
            LEDGER_ENTRY,
            LEDGER_ENTRY.POSITION,
            LEDGER_ENTRY.INSTANT,
            LEDGER_ENTRY.ACTOR,
            LEDGER_ENTRY.ACT,
            LEDGER_ENTRY.JSON,
            LEDGER_ENTRY.HASH)
        .values(
            entry.position(),
            entry.instant(),
            entry.actor().text(),
            entry.act().name().word(),
            entry.json(),
            entry.hash())
        .execute();
    Bulk.insert(
        db,
        LEDGER_OBJECT,
        List.of(LEDGER_OBJECT.OBJECT_ID, LEDGER_OBJECT.POSITION),
        entry.objects().stream().map(o -> new Object[] {o.value(), entry.position()}).toList());
    List<Object[]> changes = new ArrayList<>();
    for (int seq = 0; seq < entry.changes().size(); seq++) {
      SealedEntry.SealedChange change = entry.changes().get(seq);
      changes.add(new Object[] {entry.position(), seq, change.kind(), change.json()});
    }
    Bulk.insert(
        db,
        LEDGER_CHANGE,
        List.of(LEDGER_CHANGE.POSITION, LEDGER_CHANGE.SEQ, LEDGER_CHANGE.KIND, LEDGER_CHANGE.JSON),
        changes);
    Bulk.insert(
        db,
        LEDGER_PAYLOAD,
        List.of(
            LEDGER_PAYLOAD.POSITION,
            LEDGER_PAYLOAD.PLACE,
            LEDGER_PAYLOAD.SALT,
            LEDGER_PAYLOAD.TEXT),
        entry.payloads().stream()
            .map(p -> new Object[] {entry.position(), p.at(), p.salt(), p.text()})
            .toList());
    db.update(LEDGER_HEAD)
        .set(LEDGER_HEAD.POSITION, entry.position())
        .set(LEDGER_HEAD.HASH, entry.hash())
        .set(LEDGER_HEAD.INSTANT, entry.instant())
        .execute();
  }

  /**
   * The edits of all entries after a position, or nothing if a payload among them was erased, so
   * that the facts must be read anew.
   */
  Optional<List<Followed>> after(DSLContext db, long position) {
    List<Followed> followed = new ArrayList<>();
    for (Entry entry : entries(db, position, 1_000)) {
      List<Optional<Edit>> edits = read(db, entry.position());
      // What an act of erasing took away stands in no edit.
      if (edits.stream().anyMatch(Optional::isEmpty)
          || entry.json().contains("\"act\":\"" + ErasureDecisions.ACT.word() + "\"")) {
        return Optional.empty();
      }
      followed.add(
          new Followed(
              new LedgerHead(entry.position(), entry.hash(), entry.instant()),
              edits.stream().map(Optional::orElseThrow).toList()));
    }
    return Optional.of(followed);
  }

  /** The edits of one entry, without those of which a payload was erased. */
  public List<Edit> edits(DSLContext db, long position) {
    return read(db, position).stream().flatMap(Optional::stream).toList();
  }

  private List<Optional<Edit>> read(DSLContext db, long position) {
    Map<String, String> payloads = new HashMap<>();
    for (Payload payload : payloads(db, position)) {
      payloads.put(payload.at(), payload.text());
    }
    List<Optional<Edit>> edits = new ArrayList<>();
    List<String> changes = changes(db, position, 0, Integer.MAX_VALUE);
    for (int seq = 0; seq < changes.size(); seq++) {
      edits.add(edit(changes.get(seq), seq, payloads));
    }
    return edits;
  }

  private static Optional<Edit> edit(String json, int seq, Map<String, String> payloads) {
    Map<?, ?> change = JSON.readValue(json, Map.class);
    String kept = payloads.get(seq + ".key");
    FactKey key =
        FactJson.key(
            text(change, "kind"),
            object(change, "key"),
            kept == null ? null : JSON.readValue(kept, Object.class));
    if (key == null) {
      return Optional.empty();
    }
    Spell[] sides = new Spell[2];
    String[] names = {"before", "after"};
    for (int i = 0; i < 2; i++) {
      if (!(change.get(names[i]) instanceof Map<?, ?> side)) {
        continue;
      }
      @Nullable Object value = side.get("value");
      if (side.containsKey("sealed")) {
        String payload = payloads.get(seq + "." + names[i]);
        if (payload == null) {
          return Optional.empty();
        }
        value = JSON.readValue(payload, Object.class);
      }
      sides[i] =
          new Spell(
              FactJson.value(key, requireNonNull(value)),
              Moments.parse(text(side, "from")),
              Moments.parse(text(side, "until")));
    }
    return Optional.of(new Edit(key, sides[0], sides[1]));
  }

  /** Entries after a position, oldest first. */
  public List<Entry> entries(DSLContext db, long after, int most) {
    return db.selectFrom(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.POSITION.gt(after))
        .orderBy(LEDGER_ENTRY.POSITION)
        .limit(most)
        .fetch(LedgerStore::entry);
  }

  static Entry entry(Record row) {
    return new Entry(
        row.get(LEDGER_ENTRY.POSITION),
        row.get(LEDGER_ENTRY.INSTANT),
        row.get(LEDGER_ENTRY.JSON),
        row.get(LEDGER_ENTRY.HASH));
  }

  public List<String> changes(DSLContext db, long position, int from, int most) {
    return db.select(LEDGER_CHANGE.JSON)
        .from(LEDGER_CHANGE)
        .where(LEDGER_CHANGE.POSITION.eq(position))
        .orderBy(LEDGER_CHANGE.SEQ)
        .limit(from, most)
        .fetch(LEDGER_CHANGE.JSON);
  }

  /** The payloads of an entry that were not erased. */
  public List<Payload> payloads(DSLContext db, long position) {
    return db.selectFrom(LEDGER_PAYLOAD)
        .where(LEDGER_PAYLOAD.POSITION.eq(position), LEDGER_PAYLOAD.TEXT.isNotNull())
        .fetch(
            row ->
                new Payload(
                    row.get(LEDGER_PAYLOAD.PLACE),
                    row.get(LEDGER_PAYLOAD.SALT),
                    row.get(LEDGER_PAYLOAD.TEXT)));
  }

  /** The instant of the first act, or null before it. */
  @Nullable Instant begins(DSLContext db) {
    return db.select(LEDGER_ENTRY.INSTANT)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.POSITION.eq(1L))
        .fetchOne(LEDGER_ENTRY.INSTANT);
  }
}
