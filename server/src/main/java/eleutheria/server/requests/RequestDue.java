package eleutheria.server.requests;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.server.clock.DueKind;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;

/** What the clock does to one request. Each act sets one such moment, so there is one subject. */
abstract class RequestDue implements DueKind {
  private final RequestStore store;

  RequestDue(RequestStore store) {
    this.store = store;
  }

  abstract Optional<Outcome.Done<AccessRequest>> decide(
      Moment moment, AccessRequest request, Instant due);

  /** The request that follows, as it was decided. */
  abstract AccessRequest after(AccessRequest request, Instant at);

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    Optional<AccessRequest> request = store.find(RequestId.parse(subjects.getFirst()));
    return request
        .flatMap(r -> decide(moment, r, due))
        .map(
            done ->
                Outcome.done(done.act(), done.edits(), done.result().id().value().toString())
                    .with(done.errands())
                    .by(done.right()));
  }

  @Override
  public void beside(DSLContext tx, String result, Acts.Written entry) {
    AccessRequest request = store.find(RequestId.parse(result)).orElseThrow();
    RequestStore.save(tx, after(request, entry.at()), entry);
  }
}
