package eleutheria.server.portal;

import static eleutheria.core.ledger.JsonMembers.list;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.server.tables.Tables.OWN_PORTAL;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.OwnPortal;
import eleutheria.server.converters.UuidConverter;
import eleutheria.server.problems.Refusal;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Map;
import java.util.SequencedSet;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSON;
import org.jooq.impl.DSL;
import org.springframework.jdbc.core.JdbcOperations;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** How people have set up their own portals, a row each. */
@Component
public class OwnPortals {
  private static final JsonMapper MAPPER = JsonMapper.shared();

  private static final UuidConverter UUIDS = new UuidConverter();

  private final DSLContext db;
  private final JdbcOperations jdbc;
  private final String version;

  OwnPortals(DSLContext db, JdbcOperations jdbc) {
    this.db = db;
    this.jdbc = jdbc;
    this.version =
        db.render(
            db.select(OWN_PORTAL.VERSION)
                .from(OWN_PORTAL)
                .where(OWN_PORTAL.PERSON_ID.eq(DSL.param("person", OWN_PORTAL.PERSON_ID))));
  }

  /**
   * What grows with whatever changes of what only this person is shown; 0 where nothing ever has.
   * It is asked for with every front page, so its statement is made once and for all.
   */
  long version(PersonId person) {
    return jdbc.query(
        version, found -> found.next() ? found.getLong(1) : 0L, (Object) UUIDS.to(person.value()));
  }

  OwnPortal of(PersonId person) {
    return db.select(OWN_PORTAL.SAID)
        .from(OWN_PORTAL)
        .where(OWN_PORTAL.PERSON_ID.eq(person.value()))
        .fetchOptional(r -> read(r.value1().data()))
        .orElse(OwnPortal.NEW);
  }

  /** Makes a wish true; two at once are made one after the other. */
  OwnPortal wish(PersonId person, OwnPortal.Wish wish) {
    return db.transactionResult(
        tx -> {
          // Holds the row until the wish is written, so that nobody keeps an answer without it.
          touch(tx.dsl(), person);
          OwnPortal now =
              tx.dsl()
                  .select(OWN_PORTAL.SAID)
                  .from(OWN_PORTAL)
                  .where(OWN_PORTAL.PERSON_ID.eq(person.value()))
                  .fetchSingle(r -> read(r.value1().data()));
          now.problem(wish)
              .ifPresent(
                  problem -> {
                    throw Refusal.of(problem);
                  });
          OwnPortal next = now.with(wish);
          tx.dsl()
              .update(OWN_PORTAL)
              .set(OWN_PORTAL.SAID, write(next))
              .where(OWN_PORTAL.PERSON_ID.eq(person.value()))
              .execute();
          return next;
        });
  }

  /** Says that something which only this person is shown has changed. */
  public void touch(PersonId person) {
    touch(db, person);
  }

  private static void touch(DSLContext tx, PersonId person) {
    tx.insertInto(OWN_PORTAL)
        .set(OWN_PORTAL.PERSON_ID, person.value())
        .set(OWN_PORTAL.VERSION, 1L)
        .set(OWN_PORTAL.SAID, write(OwnPortal.NEW))
        .onDuplicateKeyUpdate()
        .set(OWN_PORTAL.VERSION, OWN_PORTAL.VERSION.plus(1))
        .execute();
  }

  private static JSON write(OwnPortal own) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("pinned", own.pinned().stream().map(tile -> tile.value().toString()).toList());
    json.put(
        "hidden", own.hidden().stream().map(collection -> collection.value().toString()).toList());
    json.put(
        "forms",
        own.forms().entrySet().stream()
            .collect(Collectors.toMap(each -> word(each.getKey()), Map.Entry::getValue)));
    json.put("hushed", own.hushed());
    json.put("tips", own.tips().stream().map(OwnPortals::word).toList());
    return JSON.json(MAPPER.writeValueAsString(json));
  }

  private static OwnPortal read(String text) {
    Map<?, ?> json = MAPPER.readValue(text, Map.class);
    Map<OwnPortal.Device, String> forms = new LinkedHashMap<>();
    object(json, "forms")
        .forEach(
            (device, form) ->
                forms.put(
                    OwnPortal.Device.valueOf(device.toString().toUpperCase(Locale.ROOT)),
                    form.toString()));
    return new OwnPortal(
        all(json, "pinned", TileId::parse),
        all(json, "hidden", CollectionId::parse),
        forms,
        all(json, "hushed", word -> word),
        Set.copyOf(all(json, "tips", tip -> OwnPortal.Tip.valueOf(tip.toUpperCase(Locale.ROOT)))));
  }

  private static <T> SequencedSet<T> all(Map<?, ?> json, String name, Function<String, T> each) {
    SequencedSet<T> found = new LinkedHashSet<>();
    list(json, name).forEach(one -> found.add(each.apply(one.toString())));
    return found;
  }

  static String word(Enum<?> one) {
    return one.name().toLowerCase(Locale.ROOT);
  }
}
