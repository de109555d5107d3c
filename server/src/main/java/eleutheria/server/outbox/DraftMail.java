package eleutheria.server.outbox;

import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import eleutheria.server.drafts.MovedPeople;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.settings.Organisation;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Tells everyone whose access a draft has moved, in one mail each. */
@Component
class DraftMail {
  static final String EACH = "draft-each";
  static final String AHEAD = "draft-ahead-each";
  private static final DateTimeFormatter WHEN =
      DateTimeFormatter.ofPattern("d MMMM uuuu, HH:mm", Locale.UK);

  private final DSLContext db;
  private final MovedPeople moved;
  private final Mailer mailer;
  private final Organisation organisation;

  DraftMail(DSLContext db, MovedPeople moved, Mailer mailer, Organisation organisation) {
    this.db = db;
    this.moved = moved;
    this.mailer = mailer;
    this.organisation = organisation;
  }

  /** Leaves an errand for each of them; whoever published it knows. */
  void spread(PersonId publisher, DraftId draft, long position, Instant now) {
    spread(EACH, moved.of(draft), publisher, draft, position, now);
  }

  /** The same for a draft that is set for a moment, as long as it is. */
  void spreadAhead(PersonId publisher, DraftId draft, long position, Instant now) {
    spread(AHEAD, moved.ahead(draft, position), publisher, draft, position, now);
  }

  private void spread(
      String kind,
      Set<PersonId> people,
      PersonId publisher,
      DraftId draft,
      long position,
      Instant now) {
    List<Object[]> rows =
        people.stream()
            .filter(person -> !person.equals(publisher))
            .map(p -> new Object[] {position, kind, p.value(), draft.value(), now})
            .toList();
    var batch =
        db.batch(
            db.insertInto(
                    OUTBOX,
                    OUTBOX.POSITION,
                    OUTBOX.KIND,
                    OUTBOX.PERSON_ID,
                    OUTBOX.SUBJECT_ID,
                    OUTBOX.NEXT_AT)
                .values((Long) null, null, null, null, null));
    rows.forEach(batch::bind);
    if (!rows.isEmpty()) {
      batch.execute();
    }
  }

  void send(PersonId to, DraftId draft) {
    send(to, moved.of(draft, to), null);
  }

  /** Before it happens; nothing is sent of a draft that is no longer set for its moment. */
  void sendAhead(PersonId to, DraftId draft, long position) {
    moved
        .ahead(draft, position, to)
        .ifPresent(
            ahead ->
                send(to, ahead.moved(), WHEN.withZone(organisation.zone()).format(ahead.at())));
  }

  private void send(PersonId to, MovedPeople.Moved told, @Nullable String from) {
    if (!told.gained().isEmpty() || !told.lost().isEmpty()) {
      mailer.send(
          to, Kinds.accessChanged(told.gained(), told.lost(), from, mailer.link("/holdings")));
    }
  }
}
