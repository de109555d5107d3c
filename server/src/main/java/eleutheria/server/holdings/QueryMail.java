package eleutheria.server.holdings;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.queries.Query;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Letter;
import eleutheria.server.letters.Letters;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
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
  private final Letters letters;
  private final ServerSettings settings;

  QueryMail(
      World world,
      Answers answers,
      QueryStore store,
      Specs specs,
      Letters letters,
      ServerSettings settings) {
    this.world = world;
    this.answers = answers;
    this.store = store;
    this.specs = specs;
    this.letters = letters;
    this.settings = settings;
  }

  public void send(PersonId to, UUID id) {
    Optional<Query> query = store.find(id);
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (query.isEmpty() || address == null) {
      return;
    }
    String name = query.get().name();
    String every = query.get().every().word();
    String link = settings.baseAddress() + "/desk/queries/" + id;
    Letter letter;
    try {
      Answers.Prepared answer =
          answers.ready(world.now().authority(to), world.whole(), specs.read(query.get().spec()));
      letter = Kinds.query(name, answer.total(), every, link);
    } catch (Refusal refusal) {
      letter = Kinds.queryFailed(name, String.valueOf(refusal.getMessage()), every, link);
    }
    letters.send(address, person.get().name().greeted(), letter);
  }
}
