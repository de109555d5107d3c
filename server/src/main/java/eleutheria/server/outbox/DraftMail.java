package eleutheria.server.outbox;

import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.drafts.MovedPeople;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
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
  private final World world;
  private final JavaMailSender mail;
  private final ServerSettings settings;
  private final Organisation organisation;

  DraftMail(
      DSLContext db,
      MovedPeople moved,
      World world,
      JavaMailSender mail,
      ServerSettings settings,
      Organisation organisation) {
    this.db = db;
    this.moved = moved;
    this.world = world;
    this.mail = mail;
    this.settings = settings;
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
    MovedPeople.Moved told = moved.of(draft, to);
    send(
        to,
        told,
        "You can now open:",
        "You can no longer open:",
        told.lost().isEmpty()
            ? "You have access to " + first(told.gained())
            : told.gained().isEmpty()
                ? "Your access to " + first(told.lost()) + " has ended"
                : "Your access has changed");
  }

  /** Before it happens; nothing is sent of a draft that is no longer set for its moment. */
  void sendAhead(PersonId to, DraftId draft, long position) {
    Optional<MovedPeople.Ahead> ahead = moved.ahead(draft, position, to);
    if (ahead.isEmpty()) {
      return;
    }
    MovedPeople.Moved told = ahead.get().moved();
    String then = WHEN.withZone(organisation.zone()).format(ahead.get().at());
    send(
        to,
        told,
        "From %s you can open:".formatted(then),
        "From %s you can no longer open:".formatted(then),
        told.lost().isEmpty()
            ? "You will have access to " + first(told.gained())
            : told.gained().isEmpty()
                ? "Your access to " + first(told.lost()) + " will end"
                : "Your access will change");
  }

  private void send(
      PersonId to, MovedPeople.Moved told, String gained, String lost, String subject) {
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address == null || (told.gained().isEmpty() && told.lost().isEmpty())) {
      return;
    }
    StringBuilder text =
        new StringBuilder("Hello %s,\n".formatted(person.get().name().displayed()));
    part(text, gained, told.gained());
    part(text, lost, told.lost());
    text.append("\nYour access, and whom to ask: ")
        .append(settings.baseAddress())
        .append("/holdings\n");
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    message.setSubject(subject);
    message.setText(text.toString());
    mail.send(message);
  }

  private static String first(List<String> titles) {
    return titles.isEmpty()
        ? "nothing new"
        : titles.size() == 1
            ? titles.getFirst()
            : "%s and %d more".formatted(titles.getFirst(), titles.size() - 1);
  }

  private static void part(StringBuilder text, String head, List<String> titles) {
    if (!titles.isEmpty()) {
      text.append("\n").append(head).append("\n");
      titles.forEach(title -> text.append("  ").append(title).append("\n"));
    }
  }
}
