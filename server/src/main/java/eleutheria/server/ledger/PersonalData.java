package eleutheria.server.ledger;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.server.tables.Tables.ACCESS_REQUEST;
import static eleutheria.server.tables.Tables.ACCOUNT;
import static eleutheria.server.tables.Tables.ATTRIBUTE;
import static eleutheria.server.tables.Tables.GRANT_REASON;
import static eleutheria.server.tables.Tables.LEDGER_CHANGE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;
import static eleutheria.server.tables.Tables.LEDGER_PAYLOAD;
import static eleutheria.server.tables.Tables.NAMING;
import static eleutheria.server.tables.Tables.OWN_LINK;
import static eleutheria.server.tables.Tables.OWN_PORTAL;
import static eleutheria.server.tables.Tables.REQUEST_MESSAGE;
import static eleutheria.server.tables.Tables.REQUEST_READ;
import static eleutheria.server.tables.Tables.SOURCE_LINK;
import static eleutheria.server.tables.Tables.THING;
import static eleutheria.server.tables.Tables.UNSENT_FORM;
import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.ErasureDecisions;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.FactJson;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * What is personal of somebody, in the ledger's payloads and in the facts: names, personal
 * attributes, the keys by which sources know them, why they were given what, and the reasons of
 * entries that are about them alone.
 */
@Component
public class PersonalData {
  private static final String ZEROS = "0".repeat(32);

  private final DSLContext db;
  private final JsonMapper json;

  PersonalData(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  /**
   * What there is to erase.
   *
   * @param places by entry, the places of its payloads
   * @param keys the facts whose values they are
   */
  public record Found(Map<Long, Set<String>> places, Set<FactKey> keys, boolean links) {
    /** As an act names them: {@code position:place}. */
    public List<String> named() {
      List<String> named = new ArrayList<>();
      places.forEach((position, all) -> all.forEach(place -> named.add(position + ":" + place)));
      return named;
    }
  }

  /** Everything of a person that is not erased yet. */
  public Found of(Facts facts, PersonId person) {
    Set<FactKey> reasons = reasons(facts, person);
    Set<UUID> things = new HashSet<>(Set.of(person.value()));
    reasons.forEach(key -> things.add(key.objects().getFirst().value()));
    Map<Long, Set<String>> there = payloads(positions(things));
    Map<Long, Set<String>> places = new LinkedHashMap<>();
    Set<FactKey> keys = new HashSet<>();
    Map<Long, Set<String>> ofLinks = new LinkedHashMap<>();
    boolean[] clear = {false};
    db.select(LEDGER_CHANGE.POSITION, LEDGER_CHANGE.SEQ, LEDGER_CHANGE.KIND, LEDGER_CHANGE.JSON)
        .from(LEDGER_CHANGE)
        .where(
            LEDGER_CHANGE.POSITION.in(there.keySet()),
            LEDGER_CHANGE.KIND.in("name", "attribute", "link", "grant-reason"))
        .forEach(
            row -> {
              Map<?, ?> change = json.readValue(row.value4(), Map.class);
              Map<?, ?> keyed = object(change, "key");
              Set<String> left = requireNonNull(there.get(row.value1()));
              if (row.value3().equals("link")) {
                if (row.value4().contains(person.text())) {
                  clear[0] |= !keyed.containsKey("sealed");
                  take(left, row.value2() + ".key", row.value1(), ofLinks);
                }
                return;
              }
              FactKey key = FactJson.key(row.value3(), keyed);
              boolean theirs = reasons.contains(key) || person.equals(key.objects().getFirst());
              if (theirs) {
                boolean any = take(left, row.value2() + ".before", row.value1(), places);
                any |= take(left, row.value2() + ".after", row.value1(), places);
                if (any) {
                  keys.add(key);
                }
              }
            });
    // Keys that stand in clear in older entries cannot be erased, and go on to tell whom they mean.
    if (!clear[0]) {
      ofLinks.forEach(
          (position, all) -> places.computeIfAbsent(position, p -> new TreeSet<>()).addAll(all));
    }
    aloneAbout(person, there.keySet())
        .forEach(position -> take(requireNonNull(there.get(position)), "reason", position, places));
    return new Found(places, keys, !clear[0] && !ofLinks.isEmpty());
  }

  private static boolean take(
      Set<String> left, String place, long position, Map<Long, Set<String>> into) {
    if (!left.contains(place)) {
      return false;
    }
    into.computeIfAbsent(position, p -> new TreeSet<>()).add(place);
    return true;
  }

  private static Set<FactKey> reasons(Facts facts, PersonId person) {
    Set<FactKey> found = new HashSet<>();
    for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
      if (facts.spells(key).stream()
          .anyMatch(
              s ->
                  s.value() instanceof FactValue.Given given
                      && given.subject().equals(new FactValue.Subject.OfPerson(person)))) {
        found.add(new FactKey.GrantReason(key.subject()));
      }
    }
    return found;
  }

  private Set<Long> positions(Set<UUID> things) {
    return new TreeSet<>(
        db.selectDistinct(LEDGER_OBJECT.POSITION)
            .from(LEDGER_OBJECT)
            .where(LEDGER_OBJECT.OBJECT_ID.in(things))
            .fetch(LEDGER_OBJECT.POSITION));
  }

  private Map<Long, Set<String>> payloads(Set<Long> positions) {
    Map<Long, Set<String>> found = new LinkedHashMap<>();
    db.select(LEDGER_PAYLOAD.POSITION, LEDGER_PAYLOAD.PLACE)
        .from(LEDGER_PAYLOAD)
        .where(LEDGER_PAYLOAD.POSITION.in(positions), LEDGER_PAYLOAD.TEXT.isNotNull())
        .orderBy(LEDGER_PAYLOAD.POSITION, LEDGER_PAYLOAD.PLACE)
        .forEach(
            row -> found.computeIfAbsent(row.value1(), p -> new HashSet<>()).add(row.value2()));
    return found;
  }

  /** Those of some entries that are about this person and no other. */
  private Set<Long> aloneAbout(PersonId person, Set<Long> positions) {
    return new TreeSet<>(
        db.select(LEDGER_OBJECT.POSITION)
            .from(LEDGER_OBJECT)
            .join(THING)
            .on(THING.ID.eq(LEDGER_OBJECT.OBJECT_ID))
            .join(LEDGER_ENTRY)
            .on(LEDGER_ENTRY.POSITION.eq(LEDGER_OBJECT.POSITION))
            .where(
                // Why it was erased stays.
                LEDGER_ENTRY.ACT.ne(ErasureDecisions.ACT.word()),
                LEDGER_OBJECT.POSITION.in(positions),
                THING.KIND.eq(ObjectKind.PERSON.word()))
            .groupBy(LEDGER_OBJECT.POSITION)
            .having(DSL.count().eq(1), DSL.max(LEDGER_OBJECT.OBJECT_ID).eq(person.value()))
            .fetch(LEDGER_OBJECT.POSITION));
  }

  /** Erases it, payloads with their salts, and the facts of every day. */
  public static void erase(DSLContext tx, PersonId person, Found found) {
    found
        .places()
        .forEach(
            (position, places) ->
                tx.update(LEDGER_PAYLOAD)
                    .setNull(LEDGER_PAYLOAD.TEXT)
                    .set(LEDGER_PAYLOAD.SALT, ZEROS)
                    .where(LEDGER_PAYLOAD.POSITION.eq(position), LEDGER_PAYLOAD.PLACE.in(places))
                    .execute());
    for (FactKey key : found.keys()) {
      switch (key) {
        case FactKey.Naming k ->
            tx.deleteFrom(NAMING).where(NAMING.PERSON_ID.eq(k.subject().value())).execute();
        case FactKey.Attribute k ->
            tx.deleteFrom(ATTRIBUTE)
                .where(
                    ATTRIBUTE.PERSON_ID.eq(k.subject().value()),
                    ATTRIBUTE.NAME.eq(k.name()),
                    ATTRIBUTE.SLOT.eq(k.slot()))
                .execute();
        case FactKey.GrantReason k ->
            tx.deleteFrom(GRANT_REASON)
                .where(GRANT_REASON.GRANT_ID.eq(k.subject().value()))
                .execute();
        default -> throw new IllegalStateException("not personal: " + key);
      }
    }
    // What is theirs alone, and what was written when they asked for something, or
    // somebody else asked for them.
    tx.deleteFrom(ACCOUNT).where(ACCOUNT.PERSON_ID.eq(person.value())).execute();
    tx.deleteFrom(OWN_PORTAL).where(OWN_PORTAL.PERSON_ID.eq(person.value())).execute();
    tx.deleteFrom(OWN_LINK).where(OWN_LINK.PERSON_ID.eq(person.value())).execute();
    tx.deleteFrom(UNSENT_FORM).where(UNSENT_FORM.PERSON_ID.eq(person.value())).execute();
    tx.update(ACCESS_REQUEST)
        .set(ACCESS_REQUEST.REASON, "")
        .set(ACCESS_REQUEST.FORM, "[]")
        .where(askedBy(person))
        .execute();
    // What was said about what they asked for or would get, and what they said about other people's
    // wishes.
    tx.update(REQUEST_MESSAGE)
        .set(REQUEST_MESSAGE.TEXT, "")
        .where(
            REQUEST_MESSAGE
                .AUTHOR_ID
                .eq(person.value())
                .or(
                    REQUEST_MESSAGE.REQUEST_ID.in(
                        DSL.select(ACCESS_REQUEST.ID).from(ACCESS_REQUEST).where(askedBy(person)))))
        .execute();
    tx.deleteFrom(REQUEST_READ).where(REQUEST_READ.PERSON_ID.eq(person.value())).execute();
    if (found.links()) {
      tx.deleteFrom(SOURCE_LINK).where(SOURCE_LINK.OBJECT_ID.eq(person.value())).execute();
    }
  }

  private static Condition askedBy(PersonId person) {
    return ACCESS_REQUEST
        .ASKER_ID
        .eq(person.value())
        .or(ACCESS_REQUEST.PERSON_ID.eq(person.value()));
  }
}
