package eleutheria.server.outbox;

import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.drafts.MovedPeople;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.ServerSettings;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Tells everyone whose access a draft has moved, in one mail each. */
@Component
class DraftMail {
  static final String EACH = "draft-each";

  private final DSLContext db;
  private final MovedPeople moved;
  private final World world;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  DraftMail(
      DSLContext db, MovedPeople moved, World world, JavaMailSender mail, ServerSettings settings) {
    this.db = db;
    this.moved = moved;
    this.world = world;
    this.mail = mail;
    this.settings = settings;
  }

  /** Leaves an errand for each of them; whoever published it knows. */
  void spread(PersonId publisher, DraftId draft, long position, Instant now) {
    List<Object[]> rows =
        moved.of(draft).stream()
            .filter(person -> !person.equals(publisher))
            .map(p -> new Object[] {position, EACH, p.value(), draft.value(), now})
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
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address == null) {
      return;
    }
    MovedPeople.Moved told = moved.of(draft, to);
    StringBuilder text =
        new StringBuilder("Hello %s,\n".formatted(person.get().name().displayed()));
    part(text, "From now on you can open:", told.gained());
    part(text, "You can no longer open:", told.lost());
    text.append("\nWhat you hold, and whom to ask: ")
        .append(settings.baseAddress())
        .append("/holdings\n");
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    message.setSubject(
        told.lost().isEmpty()
            ? "You have access to " + first(told.gained())
            : told.gained().isEmpty()
                ? "Your access to " + first(told.lost()) + " has ended"
                : "Your access has changed");
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
