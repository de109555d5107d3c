package eleutheria.server.access;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.EndsSoon;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.GrantId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.server.clock.DueKind;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.springframework.stereotype.Component;

/** Tells people some days before that something they asked for ends by itself. */
@NullMarked
@Component
class EndsSoonDue implements DueKind {
  private final RequestStore requests;

  EndsSoonDue(RequestStore requests) {
    this.requests = requests;
  }

  @Override
  public String kind() {
    return Later.ENDS_SOON;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    List<AccessRequest> open = requests.open();
    List<Errand.TellOfEnd> errands =
        EndsSoon.tell(
            AccessView.at(moment),
            due,
            subjects.stream().map(GrantId::parse).toList(),
            (person, entitlement) ->
                open.stream()
                    .anyMatch(
                        r -> r.person().equals(person) && r.entitlement().equals(entitlement)));
    if (errands.isEmpty()) {
      return Optional.empty();
    }
    Errand.TellOfEnd first = errands.getFirst();
    return Optional.of(
        Outcome.done(
                Act.of(ActName.ACCESS_ENDS_SOON, first.grant(), first.person()), List.of(), kind())
            .with(List.copyOf(errands)));
  }
}
