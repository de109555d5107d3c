package eleutheria.server.holdings;

import eleutheria.core.facts.PersonId;
import eleutheria.core.queries.Query;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Letter;
import eleutheria.server.letters.Mailer;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.World;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/**
 * The mail with a saved query's answer: how many lines it has, and the way there. The lines
 * themselves stay where reach and sign-in guard them.
 */
@Component
public class QueryMail {
  private final World world;
  private final Answers answers;
  private final QueryStore store;
  private final Specs specs;
  private final Mailer mailer;

  QueryMail(World world, Answers answers, QueryStore store, Specs specs, Mailer mailer) {
    this.world = world;
    this.answers = answers;
    this.store = store;
    this.specs = specs;
    this.mailer = mailer;
  }

  public void send(PersonId to, UUID id) {
    Optional<Query> query = store.find(id);
    Optional<Mailer.Recipient> recipient = mailer.recipient(to);
    if (query.isEmpty() || recipient.isEmpty()) {
      return;
    }
    String name = query.get().name();
    String every = query.get().every().word();
    String link = mailer.link("/desk/queries/" + id);
    Letter letter;
    try {
      Answers.Prepared answer =
          answers.ready(world.now().authority(to), world.whole(), specs.read(query.get().spec()));
      letter = Kinds.query(name, answer.total(), every, link);
    } catch (Refusal refusal) {
      letter = Kinds.queryFailed(name, String.valueOf(refusal.getMessage()), every, link);
    }
    mailer.send(recipient.get(), letter);
  }
}
