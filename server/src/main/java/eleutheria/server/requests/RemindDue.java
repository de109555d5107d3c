package eleutheria.server.requests;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Requests that wait and lapse before long: whoever decides is reminded. */
@Component
class RemindDue extends RequestDue {
  RemindDue(RequestStore store) {
    super(store);
  }

  @Override
  public String kind() {
    return Later.REQUEST_REMIND;
  }

  @Override
  Optional<Outcome.Done<AccessRequest>> decide(Moment moment, AccessRequest request, Instant due) {
    return RequestDecisions.remind(moment, request, due);
  }

  @Override
  AccessRequest after(AccessRequest request, Instant at) {
    return request;
  }
}
