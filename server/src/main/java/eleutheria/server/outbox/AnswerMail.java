package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.portal.Complaint;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Letter;
import eleutheria.server.letters.Letters;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.suggestions.SuggestionStore;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Emails to whoever has suggested an app or reported a problem: that there is an answer. */
@Component
class AnswerMail {
  private final World world;
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final Letters letters;
  private final ServerSettings settings;

  AnswerMail(
      World world,
      SuggestionStore suggestions,
      ComplaintStore complaints,
      Letters letters,
      ServerSettings settings) {
    this.world = world;
    this.suggestions = suggestions;
    this.complaints = complaints;
    this.letters = letters;
    this.settings = settings;
  }

  void sendSuggestion(PersonId to, SuggestionId id) {
    Optional<Suggestion> found = suggestions.find(id);
    if (found.isEmpty()) {
      return;
    }
    Suggestion suggestion = found.get();
    switch (suggestion.state()) {
      case Suggestion.State.Accepted s ->
          send(to, Kinds.accepted(suggestion.label(), suggestion.name(), address("/")));
      case Suggestion.State.Declined s ->
          send(to, Kinds.declined(suggestion.label(), suggestion.name(), address("/requests")));
      default -> {}
    }
  }

  void sendComplaint(PersonId to, ComplaintId id) {
    Optional<Complaint> found = complaints.find(id);
    if (found.isPresent() && !found.get().waits()) {
      send(
          to,
          Kinds.problemAnswered(found.get().label(), found.get().tileName(), address("/requests")));
    }
  }

  private String address(String path) {
    return settings.baseAddress() + path;
  }

  private void send(PersonId to, Letter letter) {
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address != null) {
      letters.send(address, person.get().name().greeted(), letter);
    }
  }
}
