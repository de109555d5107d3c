package eleutheria.server.ledger;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.directory.ErasureDecisions;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.FactJson;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Payload;
import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.FactStore;
import eleutheria.server.state.LedgerStore;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Semaphore;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Checks the ledger: that the chain is whole, that every sealed value is there or was erased by an
 * act that says so, that the facts are what follows from all entries, and that what is sealed by
 * batch is as it was. It reads one state of the database from end to end, one check at a time.
 *
 * <p>Cost: every entry, change and fact once; all facts twice in memory.
 */
@Component
class LedgerCheck {
  private static final int CHUNK = 200;

  private final DSLContext db;
  private final LedgerStore store;
  private final FactStore facts;
  private final EventBatches batches;
  private final JsonMapper json;
  private final TransactionTemplate reading;
  private final Semaphore one = new Semaphore(1);

  LedgerCheck(
      DSLContext db,
      LedgerStore store,
      FactStore facts,
      EventBatches batches,
      JsonMapper json,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.store = store;
    this.facts = facts;
    this.batches = batches;
    this.json = json;
    this.reading = new TransactionTemplate(transactions);
    reading.setReadOnly(true);
    reading.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
  }

  /**
   * What checking came to.
   *
   * @param entries how many entries are whole
   * @param broken the first position that is not; null if all are
   * @param erased how many values were erased by law
   * @param facts how many facts differ from what follows from the entries
   * @param why what is wrong first; null if nothing is
   */
  record Checked(long entries, @Nullable Long broken, int erased, int facts, @Nullable String why) {
    boolean right() {
      return broken == null && facts == 0 && why == null;
    }
  }

  /**
   * @throws Refusal if another check is running
   */
  Checked check() {
    if (!one.tryAcquire()) {
      throw Refusal.of(Problem.stale("", "A check is already running. Try again when it is done."));
    }
    try {
      Checked checked = reading.execute(status -> new Run().all());
      if (checked == null) {
        throw new IllegalStateException("a transaction gave nothing");
      }
      return checked;
    } finally {
      one.release();
    }
  }

  private final class Run {
    private final Facts replayed = new Facts();
    // Values that are not there, "position:place", and those of which an act says why.
    private final Set<String> missing = new LinkedHashSet<>();
    private final Set<String> named = new HashSet<>();
    private final Set<FactKey> gone = new HashSet<>();
    private long position;
    private String previous = "0".repeat(64);

    Checked all() {
      while (true) {
        List<LedgerStore.Entry> entries = store.entries(db, position, CHUNK);
        if (entries.isEmpty()) {
          break;
        }
        for (LedgerStore.Entry entry : entries) {
          String wrong = next(entry);
          if (wrong != null) {
            return broken(wrong);
          }
        }
      }
      LedgerHead head = store.head(db);
      if (head.position() != position || !head.hash().equals(previous)) {
        return broken(
            head.position() > position
                ? "the last entries are missing"
                : "the head names another entry");
      }
      for (String value : missing) {
        if (!named.contains(value)) {
          position = Long.parseLong(value.substring(0, value.indexOf(':'))) - 1;
          return broken("a value beside it is missing, and no act of erasing names it");
        }
      }
      String batch = batches.broken();
      return batch == null ? compared() : new Checked(position, null, missing.size(), 0, batch);
    }

    private Checked broken(String why) {
      return new Checked(position, position + 1, missing.size(), 0, why);
    }

    /** Takes up an entry; gives what is wrong with it, or null. */
    private @Nullable String next(LedgerStore.Entry entry) {
      if (entry.position() != position + 1) {
        return "this entry is missing";
      }
      Map<?, ?> map = json.readValue(entry.json(), Map.class);
      if (!previous.equals(map.get("previous"))) {
        return "it does not follow the one before";
      }
      if (!LedgerChain.hash(entry.json()).equals(entry.hash())) {
        return "the entry was changed";
      }
      List<String> changes = store.changes(db, entry.position(), 0, Integer.MAX_VALUE);
      if (!LedgerChain.root(changes).equals(map.get("root"))) {
        return "its changes were changed";
      }
      Map<String, Payload> payloads = new HashMap<>();
      store.payloads(db, entry.position()).forEach(p -> payloads.put(p.at(), p));
      String wrong = sealed("reason", map.get("reason"), entry.position(), payloads);
      for (int seq = 0; seq < changes.size() && wrong == null; seq++) {
        wrong = change(changes.get(seq), seq, entry.position(), payloads);
      }
      if (wrong != null) {
        return wrong;
      }
      if (ErasureDecisions.ACT.word().equals(map.get("act"))
          && map.get("details") instanceof Map<?, ?> details
          && details.get(ErasureDecisions.ERASED) instanceof String erased) {
        named.addAll(List.of(erased.split(" ")));
      }
      wrong = replay(entry);
      if (wrong != null) {
        return wrong;
      }
      position = entry.position();
      previous = entry.hash();
      return null;
    }

    private @Nullable String change(String text, int seq, long at, Map<String, Payload> payloads) {
      Map<?, ?> change = json.readValue(text, Map.class);
      Map<?, ?> key = object(change, "key");
      String wrong = sealed(seq + ".key", key.get("sealed"), at, payloads);
      boolean lost = missing.contains(at + ":" + seq + ".key");
      for (String side : List.of("before", "after")) {
        if (wrong == null && change.get(side) instanceof Map<?, ?> spell) {
          wrong = sealed(seq + "." + side, spell.get("sealed"), at, payloads);
          lost |= missing.contains(at + ":" + seq + "." + side);
        }
      }
      if (lost && !key.containsKey("sealed")) {
        gone.add(FactJson.key(text(change, "kind"), key));
      }
      return wrong;
    }

    private @Nullable String sealed(
        String place, @Nullable Object hash, long at, Map<String, Payload> payloads) {
      if (!(hash instanceof String wanted)) {
        return payloads.containsKey(place)
            ? "a value stands beside it that it does not name"
            : null;
      }
      Payload payload = payloads.get(place);
      if (payload == null) {
        missing.add(at + ":" + place);
        return null;
      }
      return LedgerChain.sealed(HexFormat.of().parseHex(payload.salt()), payload.text())
              .equals(wanted)
          ? null
          : "a value beside it was changed";
    }

    private @Nullable String replay(LedgerStore.Entry entry) {
      List<Edit> edits =
          store.edits(db, entry.position()).stream()
              .filter(edit -> !gone.contains(edit.key()))
              .toList();
      return switch (replayed.apply(edits, entry.instant())) {
        case Applied.Moves moves -> {
          replayed.take(moves.moves());
          yield null;
        }
        case Applied.Clashes clashes -> "it does not follow from the facts before it";
      };
    }

    /** The facts as they stand in their tables, beside what follows from the entries. */
    private Checked compared() {
      Facts there = facts.load(db);
      int[] differ = {0};
      String[] first = {null};
      Map<FactKey, List<Spell>> wanted = new HashMap<>();
      replayed.forEach(
          (key, spells) -> {
            if (!gone.contains(key)) {
              wanted.put(key, List.copyOf(spells));
            }
          });
      there.forEach(
          (key, spells) -> {
            if (!spells.equals(Optional.ofNullable(wanted.remove(key)).orElse(List.of()))) {
              differ[0]++;
              first[0] = first[0] == null ? told(key) : first[0];
            }
          });
      wanted.forEach(
          (key, spells) -> {
            if (!spells.isEmpty()) {
              differ[0]++;
              first[0] = first[0] == null ? told(key) : first[0];
            }
          });
      return new Checked(
          position,
          null,
          missing.size(),
          differ[0],
          differ[0] == 0
              ? null
              : "%s in the database %s not follow from the ledger; the first is %s"
                  .formatted(
                      differ[0] == 1 ? "1 fact" : differ[0] + " facts",
                      differ[0] == 1 ? "does" : "do",
                      first[0]));
    }

    /** A kind and the thing it is about: never a value. */
    private static String told(FactKey key) {
      return FactJson.kind(key) + (key.subject() == null ? "" : " of " + key.subject().text());
    }
  }
}
