package eleutheria.server.unsent;

import static eleutheria.server.tables.Tables.UNSENT_FORM;

import eleutheria.core.facts.PersonId;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** A person's half-filled forms, by the name of the form. */
@RestController
class UnsentController {
  /** The oldest go when there are more. */
  private static final int MOST = 20;

  private static final int LONGEST_NAME = 80;

  /** Characters in one field, which may hold a list. */
  private static final int LONGEST_FIELD = 16_000;

  private final DSLContext db;
  private final Clock clock;
  private final JsonMapper json;

  UnsentController(DSLContext db, Clock clock, JsonMapper json) {
    this.db = db;
    this.clock = clock;
    this.json = json;
  }

  /**
   * @param fields what stands in each field; empty where nothing is kept
   */
  record UnsentForm(
      @NotNull @Size(max = 20)
          Map<@Size(max = 40) String, @Size(max = LONGEST_FIELD) String> fields) {}

  @GetMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm read(Viewer viewer, @PathVariable @Size(max = LONGEST_NAME) String name) {
    return db.select(UNSENT_FORM.FIELDS)
        .from(UNSENT_FORM)
        .where(UNSENT_FORM.PERSON_ID.eq(viewer.person().value()), UNSENT_FORM.NAME.eq(name))
        .fetchOptional(r -> json.readValue(r.value1(), UnsentForm.class))
        .orElse(new UnsentForm(Map.of()));
  }

  @PutMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm save(
      Viewer viewer,
      @PathVariable @Size(max = LONGEST_NAME) String name,
      @Valid @RequestBody UnsentForm form) {
    String fields = json.writeValueAsString(form);
    db.insertInto(UNSENT_FORM)
        .set(UNSENT_FORM.PERSON_ID, viewer.person().value())
        .set(UNSENT_FORM.NAME, name)
        .set(UNSENT_FORM.FIELDS, fields)
        .set(UNSENT_FORM.SAVED_AT, clock.instant())
        .onDuplicateKeyUpdate()
        .set(UNSENT_FORM.FIELDS, fields)
        .set(UNSENT_FORM.SAVED_AT, clock.instant())
        .execute();
    forget(viewer.person());
    return form;
  }

  private void forget(PersonId person) {
    List<String> names =
        db.select(UNSENT_FORM.NAME)
            .from(UNSENT_FORM)
            .where(UNSENT_FORM.PERSON_ID.eq(person.value()))
            .orderBy(UNSENT_FORM.SAVED_AT.desc())
            .fetch(UNSENT_FORM.NAME);
    if (names.size() > MOST) {
      db.deleteFrom(UNSENT_FORM)
          .where(
              UNSENT_FORM.PERSON_ID.eq(person.value()),
              UNSENT_FORM.NAME.in(names.subList(MOST, names.size())))
          .execute();
    }
  }

  @DeleteMapping("/api/my/unsent/{name}")
  @Needs(signedIn = true)
  UnsentForm sent(Viewer viewer, @PathVariable @Size(max = LONGEST_NAME) String name) {
    db.deleteFrom(UNSENT_FORM)
        .where(UNSENT_FORM.PERSON_ID.eq(viewer.person().value()), UNSENT_FORM.NAME.eq(name))
        .execute();
    return new UnsentForm(Map.of());
  }
}
