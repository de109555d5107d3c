package eleutheria.server.ledger;

import static eleutheria.core.ledger.JsonMembers.list;
import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;
import static eleutheria.server.tables.Tables.LEDGER_CHANGE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;
import static eleutheria.server.tables.Tables.LEDGER_PAYLOAD;
import static eleutheria.server.tables.Tables.THING;
import static java.util.Objects.requireNonNull;

import eleutheria.core.access.Reading;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.FactJson;
import eleutheria.core.ledger.FactKind;
import eleutheria.core.ledger.Payload;
import eleutheria.core.mandates.Power;
import eleutheria.server.state.LedgerStore;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Reads the ledger for people: names beside ids, cut to the reader's reach. */
@Component
public class LedgerReader {
  /** Who acted, where the reader may not see them. */
  private static final String SOMEBODY = "somebody";

  private static final int CHUNK = 200;

  /** So many things at the most are all named in a list. */
  private static final int FEW = 4;

  private final DSLContext db;
  private final LedgerStore store;
  private final World world;
  private final JsonMapper json;

  LedgerReader(DSLContext db, LedgerStore store, World world, JsonMapper json) {
    this.db = db;
    this.store = store;
    this.world = world;
    this.json = json;
  }

  /**
   * An entry in a list.
   *
   * @param actor {@code person:…}, {@code clock} or {@code setup}
   * @param reason null if none was given; empty if it was erased
   */
  public record EntryLine(
      long position,
      Instant instant,
      String actor,
      String actorName,
      ActName act,
      List<Named> objects,
      int objectsTotal,
      @Nullable String reason,
      int changes,
      Map<String, String> details,
      String hash,
      String previous) {}

  /** A thing by id and by its name now, or its last one. */
  record Named(String kind, String id, String name) {}

  /**
   * One change.
   *
   * @param erased whether a value was erased by law
   */
  record ChangeLine(
      FactKind kind,
      List<Named> objects,
      String what,
      @Nullable Side before,
      @Nullable Side after,
      boolean erased) {}

  record Side(String value, Instant from, @Nullable Instant until) {}

  /**
   * What to look for; everything null or empty is left open.
   *
   * @param from the first instant
   * @param until the first instant after
   */
  record Query(
      String find,
      @Nullable ActName act,
      @Nullable UUID object,
      @Nullable UUID actor,
      @Nullable Instant from,
      @Nullable Instant until) {}

  /** The newest entries before a position that fit the query and the reader's reach. */
  List<EntryLine> lines(
      Viewer viewer, Query query, long before, int limit, Predicate<EntryLine> also) {
    List<EntryLine> found = new ArrayList<>();
    long from = before;
    Condition condition = condition(query);
    while (found.size() < limit) {
      List<Record> rows =
          db
              .select(LEDGER_ENTRY.fields())
              .from(LEDGER_ENTRY)
              .where(LEDGER_ENTRY.POSITION.lt(from), condition)
              .orderBy(LEDGER_ENTRY.POSITION.desc())
              .limit(CHUNK)
              .fetch()
              .stream()
              .map(Record.class::cast)
              .toList();
      for (EntryLine line : describe(rows, viewer)) {
        if (found.size() < limit && also.test(line)) {
          found.add(line);
        }
      }
      if (rows.size() < CHUNK) {
        break;
      }
      from = rows.getLast().get(LEDGER_ENTRY.POSITION);
    }
    return found;
  }

  private Condition condition(Query query) {
    Condition condition = DSL.noCondition();
    if (query.act() != null) {
      condition = condition.and(LEDGER_ENTRY.ACT.eq(query.act().word()));
    }
    if (query.object() != null) {
      condition = condition.and(about(List.of(query.object())));
    }
    if (query.actor() != null) {
      condition = condition.and(LEDGER_ENTRY.ACTOR.eq("person:" + query.actor()));
    }
    if (query.from() != null) {
      condition = condition.and(LEDGER_ENTRY.INSTANT.ge(query.from()));
    }
    if (query.until() != null) {
      condition = condition.and(LEDGER_ENTRY.INSTANT.lt(query.until()));
    }
    String find = query.find().strip();
    if (find.matches("\\d{1,18}")) {
      condition = condition.and(LEDGER_ENTRY.POSITION.eq(Long.parseLong(find)));
    } else if (!find.isEmpty()) {
      List<UUID> things = named(find);
      condition =
          condition.and(
              about(things)
                  .or(LEDGER_ENTRY.ACTOR.in(things.stream().map(id -> "person:" + id).toList()))
                  // Names of acts are ASCII, and so is their column.
                  .or(
                      ascii(find)
                          ? LEDGER_ENTRY.ACT.containsIgnoreCase(find)
                          : DSL.falseCondition())
                  .or(
                      LEDGER_ENTRY.POSITION.in(
                          DSL.select(LEDGER_PAYLOAD.POSITION)
                              .from(LEDGER_PAYLOAD)
                              .where(
                                  LEDGER_PAYLOAD.PLACE.eq("reason"),
                                  LEDGER_PAYLOAD.TEXT.containsIgnoreCase(find)))));
    }
    return condition;
  }

  private static boolean ascii(String text) {
    return text.chars().allMatch(c -> c < 128);
  }

  private static Condition about(List<UUID> things) {
    return LEDGER_ENTRY.POSITION.in(
        DSL.select(LEDGER_OBJECT.POSITION)
            .from(LEDGER_OBJECT)
            .where(LEDGER_OBJECT.OBJECT_ID.in(things)));
  }

  private List<UUID> named(String find) {
    String wanted = Folding.bare(find);
    DirectoryView directory = world.now();
    List<UUID> ids = new ArrayList<>();
    directory.people().stream()
        .filter(p -> Folding.bare(p.name().displayed()).contains(wanted))
        .limit(200)
        .forEach(p -> ids.add(p.id().value()));
    directory.groups().stream()
        .filter(g -> Folding.bare(g.name()).contains(wanted))
        .limit(200)
        .forEach(g -> ids.add(g.id().value()));
    return ids;
  }

  /** One entry, if it is within reach. */
  public Optional<EntryLine> line(Viewer viewer, long position) {
    List<Record> rows =
        db
            .select(LEDGER_ENTRY.fields())
            .from(LEDGER_ENTRY)
            .where(LEDGER_ENTRY.POSITION.eq(position))
            .fetch()
            .stream()
            .map(Record.class::cast)
            .toList();
    return describe(rows, viewer).stream().findFirst();
  }

  private List<EntryLine> describe(List<Record> rows, Viewer viewer) {
    List<Long> positions = rows.stream().map(r -> r.get(LEDGER_ENTRY.POSITION)).toList();
    Map<Long, String> reasons =
        db.select(LEDGER_PAYLOAD.POSITION, LEDGER_PAYLOAD.TEXT)
            .from(LEDGER_PAYLOAD)
            .where(LEDGER_PAYLOAD.PLACE.eq("reason"), LEDGER_PAYLOAD.POSITION.in(positions))
            .fetchMap(LEDGER_PAYLOAD.POSITION, LEDGER_PAYLOAD.TEXT);
    Map<Long, Integer> totals =
        db.select(LEDGER_OBJECT.POSITION, DSL.count())
            .from(LEDGER_OBJECT)
            .where(LEDGER_OBJECT.POSITION.in(positions))
            .groupBy(LEDGER_OBJECT.POSITION)
            .fetchMap(LEDGER_OBJECT.POSITION, DSL.count());
    Map<Long, List<ObjectId>> few =
        db.select(LEDGER_OBJECT.POSITION, THING.KIND, THING.ID)
            .from(LEDGER_OBJECT)
            .join(THING)
            .on(THING.ID.eq(LEDGER_OBJECT.OBJECT_ID))
            .where(
                LEDGER_OBJECT.POSITION.in(
                    positions.stream().filter(p -> totals.getOrDefault(p, 0) <= FEW).toList()))
            .fetchGroups(
                LEDGER_OBJECT.POSITION,
                r -> ObjectId.of(ObjectKind.of(r.get(THING.KIND)), r.get(THING.ID)));
    boolean limited = viewer.authority().units(Power.LEDGER_READ) != null;
    Map<Long, List<UUID>> objects =
        limited
            ? db.select(LEDGER_OBJECT.POSITION, LEDGER_OBJECT.OBJECT_ID)
                .from(LEDGER_OBJECT)
                .where(LEDGER_OBJECT.POSITION.in(positions))
                .fetchGroups(LEDGER_OBJECT.POSITION, LEDGER_OBJECT.OBJECT_ID)
            : Map.of();
    List<EntryLine> lines = new ArrayList<>();
    for (Record row : rows) {
      EntryLine line =
          describe(
              row,
              reasons.get(row.get(LEDGER_ENTRY.POSITION)),
              totals.getOrDefault(row.get(LEDGER_ENTRY.POSITION), 0),
              few.getOrDefault(row.get(LEDGER_ENTRY.POSITION), List.of()));
      boolean own = line.actor().equals(viewer.person().text());
      if (!limited || own || within(viewer, objects.getOrDefault(line.position(), List.of()))) {
        lines.add(line);
      }
    }
    return lines;
  }

  /** All people in it are within reach, and there is one. */
  private boolean within(Viewer viewer, List<UUID> objects) {
    DirectoryView directory = world.now();
    boolean any = false;
    for (UUID id : objects) {
      var person = directory.person(new PersonId(id));
      if (person.isPresent()) {
        any = true;
        if (!viewer.authority().reaches(Power.LEDGER_READ, person.get().value(Attributes.UNIT))) {
          return false;
        }
      }
    }
    return any;
  }

  private EntryLine describe(Record row, @Nullable String reason, int total, List<ObjectId> few) {
    long position = row.get(LEDGER_ENTRY.POSITION);
    Map<?, ?> entry = json.readValue(row.get(LEDGER_ENTRY.JSON), Map.class);
    String actor = row.get(LEDGER_ENTRY.ACTOR);
    List<Named> named = new ArrayList<>();
    list(entry, "objects").forEach(o -> named.add(name(ObjectId.parse((String) o))));
    few.stream().map(this::name).filter(n -> !named.contains(n)).forEach(named::add);
    Map<String, String> details = new LinkedHashMap<>();
    object(entry, "details")
        .forEach((key, value) -> details.put((String) key, String.valueOf(value)));
    return new EntryLine(
        position,
        row.get(LEDGER_ENTRY.INSTANT),
        actor,
        actor.startsWith("person:") ? name(ObjectId.parse(actor)).name() : actor,
        ActName.of(row.get(LEDGER_ENTRY.ACT)),
        named.stream().limit(5).map(n -> numbered(n, details)).toList(),
        Math.max(total, named.size()),
        reason(entry, reason),
        number(entry, "changes").intValue(),
        details,
        row.get(LEDGER_ENTRY.HASH),
        text(entry, "previous"));
  }

  /** A request is called by its number, which the act has among its details. */
  private static Named numbered(Named named, Map<String, String> details) {
    return named.kind().equals(ObjectKind.REQUEST.word()) && details.containsKey("request")
        ? new Named(named.kind(), named.id(), details.get("request"))
        : named;
  }

  private @Nullable String reason(Map<?, ?> entry, @Nullable String payload) {
    if (!entry.containsKey("reason")) {
      return null;
    }
    return payload == null ? "" : json.readValue(payload, String.class);
  }

  /** What a thing is called now, or was called last. */
  Named name(ObjectId id) {
    return new Named(id.kind().word(), id.value().toString(), naming(names -> names.of(id)));
  }

  private String naming(Function<ThingNames, String> query) {
    return world.look((facts, now) -> query.apply(new ThingNames(facts)));
  }

  /** The newest entries that changed something about a person, each with those changes alone. */
  List<LedgerController.HistoryLine> history(Viewer viewer, PersonId id, int most) {
    UUID person = id.value();
    Reading reading = new Reading(viewer.authority(), world.now());
    List<Record> rows =
        db
            .select(LEDGER_ENTRY.fields())
            .from(LEDGER_ENTRY)
            .where(about(List.of(person)))
            .orderBy(LEDGER_ENTRY.POSITION.desc())
            .limit(most)
            .fetch()
            .stream()
            .map(Record.class::cast)
            .toList();
    List<Long> positions = rows.stream().map(r -> r.get(LEDGER_ENTRY.POSITION)).toList();
    Map<Long, Map<Integer, String>> changes = changesAbout(person, positions);
    Map<Long, Map<String, String>> payloads = payloads(positions, changes);
    List<LedgerController.HistoryLine> lines = new ArrayList<>();
    for (Record row : rows) {
      long position = row.get(LEDGER_ENTRY.POSITION);
      Map<String, String> beside = payloads.getOrDefault(position, Map.of());
      EntryLine line = describe(row, beside.get("reason"), 0, List.of());
      List<ChangeLine> own = new ArrayList<>();
      changes
          .getOrDefault(position, Map.of())
          .forEach(
              (seq, text) -> {
                if (ofOthers(text, id).stream().allMatch(reading::seesPerson)) {
                  own.add(change(text, seq, beside));
                }
              });
      lines.add(
          new LedgerController.HistoryLine(
              position,
              line.instant(),
              actor(reading, line),
              line.act(),
              tells(reading, line, id) ? line.reason() : null,
              own));
    }
    return lines;
  }

  /** What entries changed about somebody, by position and place in the entry. */
  private Map<Long, Map<Integer, String>> changesAbout(UUID person, List<Long> positions) {
    Map<Long, Map<Integer, String>> changes = new HashMap<>();
    db.select(LEDGER_CHANGE.POSITION, LEDGER_CHANGE.SEQ, LEDGER_CHANGE.JSON)
        .from(LEDGER_CHANGE)
        .where(LEDGER_CHANGE.POSITION.in(positions), LEDGER_CHANGE.JSON.contains(person.toString()))
        .orderBy(LEDGER_CHANGE.POSITION, LEDGER_CHANGE.SEQ)
        .forEach(
            r ->
                changes
                    .computeIfAbsent(r.value1(), p -> new TreeMap<>())
                    .put(r.value2(), r.value3()));
    return changes;
  }

  /** Reasons, and what stands beside the changes and can be erased. */
  private Map<Long, Map<String, String>> payloads(
      List<Long> positions, Map<Long, Map<Integer, String>> changes) {
    Set<String> places = new TreeSet<>(Set.of("reason"));
    for (Map<Integer, String> of : changes.values()) {
      for (int seq : of.keySet()) {
        places.addAll(List.of(seq + ".key", seq + ".before", seq + ".after"));
      }
    }
    Map<Long, Map<String, String>> payloads = new HashMap<>();
    db.select(LEDGER_PAYLOAD.POSITION, LEDGER_PAYLOAD.PLACE, LEDGER_PAYLOAD.TEXT)
        .from(LEDGER_PAYLOAD)
        .where(
            LEDGER_PAYLOAD.POSITION.in(positions),
            LEDGER_PAYLOAD.PLACE.in(places),
            LEDGER_PAYLOAD.TEXT.isNotNull())
        .forEach(
            r ->
                payloads
                    .computeIfAbsent(r.value1(), p -> new HashMap<>())
                    .put(r.value2(), r.value3()));
    return payloads;
  }

  /** People beside one whom a change is about. */
  private List<PersonId> ofOthers(String text, PersonId one) {
    Map<?, ?> change = json.readValue(text, Map.class);
    FactKey key = requireNonNull(FactJson.key(text(change, "kind"), object(change, "key"), ""));
    return key.objects().stream()
        .flatMap(
            o -> o instanceof PersonId other && !other.equals(one) ? Stream.of(other) : Stream.of())
        .toList();
  }

  /** Whoever acted is named to those who may see them. */
  private static String actor(Reading reading, EntryLine line) {
    return line.actor().startsWith("person:")
            && !reading.seesPerson((PersonId) ObjectId.parse(line.actor()))
            && !reading.authority().hasEverywhere(Power.LEDGER_READ)
        ? SOMEBODY
        : line.actorName();
  }

  /** Why somebody asked for something is between them and who decides, and in the ledger. */
  private static boolean tells(Reading reading, EntryLine line, PersonId person) {
    return !line.act().word().startsWith("request.") || reading.reaches(Power.LEDGER_READ, person);
  }

  /** A page of an entry's changes, as people read them. */
  List<ChangeLine> changes(long position, int from, int most) {
    Map<String, String> payloads = new HashMap<>();
    for (Payload payload : store.payloads(db, position)) {
      payloads.put(payload.at(), payload.text());
    }
    List<String> changes = store.changes(db, position, from, most);
    List<ChangeLine> lines = new ArrayList<>();
    for (int i = 0; i < changes.size(); i++) {
      lines.add(change(changes.get(i), from + i, payloads));
    }
    return lines;
  }

  private ChangeLine change(String text, int seq, Map<String, String> payloads) {
    Map<?, ?> change = json.readValue(text, Map.class);
    String kind = text(change, "kind");
    boolean[] erased = {false};
    Map<?, ?> keyed = object(change, "key");
    String kept = payloads.get(seq + ".key");
    erased[0] = keyed.containsKey("sealed") && kept == null;
    FactKey key =
        requireNonNull(
            FactJson.key(kind, keyed, kept == null ? "" : json.readValue(kept, Object.class)));
    boolean person = isPerson(key);
    Side before = side(change, key, "before", seq, payloads, erased, person);
    Side after = side(change, key, "after", seq, payloads, erased, person);
    String what =
        switch (key) {
          case FactKey.Attribute attribute -> label(attribute.name());
          case FactKey.Defined defined -> label(defined.attribute());
          case FactKey.Link link -> link.key();
          case FactKey.Route route -> naming(names -> names.scope(route.scope()));
          case FactKey.RequestForm form -> naming(names -> names.scope(form.scope()));
          default -> "";
        };
    return new ChangeLine(
        FactKind.of(key),
        key.objects().stream().map(this::name).toList(),
        what,
        before,
        after,
        erased[0]);
  }

  private boolean isPerson(FactKey key) {
    return key instanceof FactKey.Attribute attribute
        && world.now().definitions().get(attribute.name()) instanceof FactValue.Definition d
        && d.type() == ValueType.PERSON;
  }

  private String label(String attribute) {
    FactValue.Definition definition = world.now().definitions().get(attribute);
    return definition == null ? attribute : definition.label();
  }

  private @Nullable Side side(
      Map<?, ?> change,
      FactKey key,
      String side,
      int seq,
      Map<String, String> payloads,
      boolean[] erased,
      boolean person) {
    if (!(change.get(side) instanceof Map<?, ?> map)) {
      return null;
    }
    Object value = map.get("value");
    boolean gone = false;
    if (map.containsKey("sealed")) {
      String payload = payloads.get(seq + "." + side);
      if (payload == null) {
        erased[0] = true;
        gone = true;
      } else {
        value = json.readValue(payload, Object.class);
      }
    }
    Instant until = Instant.parse((String) map.get("until"));
    return new Side(
        person && value instanceof String id && !erased[0]
            ? name(PersonId.parse(id)).name()
            : gone ? "erased" : told(key, value),
        Instant.parse((String) map.get("from")),
        until.equals(eleutheria.core.facts.Moments.FOREVER) ? null : until);
  }

  private String told(FactKey key, @Nullable Object value) {
    return value == null
        ? ""
        : naming(names -> new FactWords(names).tell(key, FactJson.value(key, value)));
  }
}
