package eleutheria.server.unsent;

import static eleutheria.server.tables.Tables.UNSENT_FORM;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Half-filled forms, each by person and name. */
@Repository
class UnsentForms {
  /** The oldest go when a person has more. */
  private static final int MOST = 20;

  private final DSLContext db;
  private final JsonMapper json;

  UnsentForms(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  private record Kept(Map<String, String> fields) {}

  private static Condition those(PersonId person, String name) {
    return UNSENT_FORM.PERSON_ID.eq(person.value()).and(UNSENT_FORM.NAME.eq(name));
  }

  /** What stands in each field; empty where nothing is kept. */
  Map<String, String> find(PersonId person, String name) {
    return db.select(UNSENT_FORM.FIELDS)
        .from(UNSENT_FORM)
        .where(those(person, name))
        .fetchOptional(r -> json.readValue(r.value1(), Kept.class).fields())
        .orElse(Map.of());
  }

  void keep(PersonId person, String name, Map<String, String> fields, Instant at) {
    String text = json.writeValueAsString(new Kept(fields));
    db.insertInto(UNSENT_FORM)
        .set(UNSENT_FORM.PERSON_ID, person.value())
        .set(UNSENT_FORM.NAME, name)
        .set(UNSENT_FORM.FIELDS, text)
        .set(UNSENT_FORM.SAVED_AT, at)
        .onDuplicateKeyUpdate()
        .set(UNSENT_FORM.FIELDS, text)
        .set(UNSENT_FORM.SAVED_AT, at)
        .execute();
    dropOldest(person);
  }

  private void dropOldest(PersonId person) {
    List<String> names =
        db.select(UNSENT_FORM.NAME)
            .from(UNSENT_FORM)
            .where(UNSENT_FORM.PERSON_ID.eq(person.value()))
            .orderBy(UNSENT_FORM.SAVED_AT.desc(), UNSENT_FORM.NAME)
            .fetch(UNSENT_FORM.NAME);
    if (names.size() > MOST) {
      db.deleteFrom(UNSENT_FORM)
          .where(
              UNSENT_FORM.PERSON_ID.eq(person.value()),
              UNSENT_FORM.NAME.in(names.subList(MOST, names.size())))
          .execute();
    }
  }

  void forget(PersonId person, String name) {
    db.deleteFrom(UNSENT_FORM).where(those(person, name)).execute();
  }
}
