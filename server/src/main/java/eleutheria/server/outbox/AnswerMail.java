package eleutheria.server.outbox;

import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.portal.Complaint;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.server.letters.Kinds;
import eleutheria.server.letters.Mailer;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.suggestions.SuggestionStore;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Emails to whoever has suggested an app or reported a problem: that there is an answer. */
@Component
class AnswerMail {
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final Mailer mailer;

  AnswerMail(SuggestionStore suggestions, ComplaintStore complaints, Mailer mailer) {
    this.suggestions = suggestions;
    this.complaints = complaints;
    this.mailer = mailer;
  }

  void sendSuggestion(PersonId to, SuggestionId id) {
    Optional<Suggestion> found = suggestions.find(id);
    if (found.isEmpty()) {
      return;
    }
    Suggestion suggestion = found.get();
    switch (suggestion.state()) {
      case Suggestion.State.Accepted s ->
          mailer.send(to, Kinds.accepted(suggestion.label(), suggestion.name(), mailer.link("/")));
      case Suggestion.State.Declined s ->
          mailer.send(
              to, Kinds.declined(suggestion.label(), suggestion.name(), mailer.link("/requests")));
      default -> {}
    }
  }

  void sendComplaint(PersonId to, ComplaintId id) {
    Optional<Complaint> found = complaints.find(id);
    if (found.isPresent() && !found.get().waits()) {
      mailer.send(
          to,
          Kinds.problemAnswered(
              found.get().label(), found.get().tileName(), mailer.link("/requests")));
    }
  }
}
