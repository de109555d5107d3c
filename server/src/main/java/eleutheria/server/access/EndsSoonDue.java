package eleutheria.server.access;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Grant;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.ledger.DueKind;
import eleutheria.server.ledger.Later;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.springframework.stereotype.Component;

/** Tells people some days before that something they asked for ends by itself. */
@NullMarked
@Component
class EndsSoonDue implements DueKind {
  @Override
  public String kind() {
    return Later.ENDS_SOON;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    AccessView access = AccessView.at(moment);
    List<Errand> errands = new ArrayList<>();
    for (String subject : subjects) {
      Optional<Grant> grant = access.grant(GrantId.parse(subject));
      if (grant.isPresent()
          && grant.get().until().equals(due.plus(Later.WARNING))
          && grant.get().given().subject() instanceof FactValue.Subject.OfPerson to
          // Where something else holds it on, nothing ends for them.
          && grant
              .get()
              .until()
              .equals(access.ends(to.person(), grant.get().given().entitlement()))) {
        errands.add(new Errand.TellOfEnd(to.person(), grant.get().id()));
      }
    }
    if (errands.isEmpty()) {
      return Optional.empty();
    }
    Errand.TellOfEnd first = (Errand.TellOfEnd) errands.getFirst();
    PersonId person = first.person();
    return Optional.of(
        Outcome.done(Act.of("access.ends-soon", first.grant(), person), List.of(), kind())
            .with(errands));
  }
}
