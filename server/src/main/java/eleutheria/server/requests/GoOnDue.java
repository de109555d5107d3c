package eleutheria.server.requests;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.ThreadDecisions;
import eleutheria.server.clock.DueKind;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Requests whose question nobody has answered in time: their clock goes on. */
@Component
class GoOnDue implements DueKind {
  private final RequestStore store;

  GoOnDue(RequestStore store) {
    this.store = store;
  }

  @Override
  public String kind() {
    return Later.REQUEST_GO_ON;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    Optional<AccessRequest> request = store.find(RequestId.parse(subjects.getFirst()));
    return request
        .flatMap(r -> ThreadDecisions.goesOn(moment, r, due))
        .map(
            done ->
                Outcome.done(
                        done.act(), done.edits(), done.result().request().id().value().toString())
                    .with(done.errands())
                    .by(done.right()));
  }

  @Override
  public void beside(DSLContext tx, String result, Acts.Written entry) {
    AccessRequest request = store.find(RequestId.parse(result)).orElseThrow();
    RequestStore.save(tx, ThreadDecisions.gone(request), entry.position());
  }
}
