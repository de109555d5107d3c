package eleutheria.server.requests;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Requests that nobody acted on in time. */
@Component
class LapseDue extends RequestDue {
  LapseDue(RequestStore store) {
    super(store);
  }

  @Override
  public String kind() {
    return Later.REQUEST_LAPSE;
  }

  @Override
  Optional<Outcome.Done<AccessRequest>> decide(Moment moment, AccessRequest request, Instant due) {
    return RequestDecisions.lapse(moment, request, due);
  }

  @Override
  AccessRequest after(AccessRequest request, Instant at) {
    return RequestDecisions.lapsed(request, at);
  }
}
