package eleutheria.server.requests;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.ThreadDecisions;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Requests whose question nobody has answered in time: their clock goes on. */
@Component
class GoOnDue extends RequestDue {
  GoOnDue(RequestStore store) {
    super(store);
  }

  @Override
  public String kind() {
    return Later.REQUEST_GO_ON;
  }

  @Override
  Optional<Outcome.Done<AccessRequest>> decide(Moment moment, AccessRequest request, Instant due) {
    return ThreadDecisions.goesOn(moment, request, due);
  }

  @Override
  AccessRequest after(AccessRequest request, Instant at) {
    return ThreadDecisions.gone(request);
  }
}
