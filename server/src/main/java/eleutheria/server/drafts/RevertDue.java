package eleutheria.server.drafts;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.DraftId;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.clock.DueKind;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Drafts that were published until a day. */
@Component
class RevertDue implements DueKind {
  static final String KIND = "draft-revert";

  private final DraftActs drafts;
  // Between decision and writing, which follow each other in one transaction of the one due job.
  private @Nullable DraftId fresh;

  RevertDue(DraftActs drafts) {
    this.drafts = drafts;
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    DraftId id = drafts.freshId(moment.at());
    fresh = id;
    return drafts.revertDue(moment, new DraftId(UUID.fromString(subjects.getFirst())), id);
  }

  @Override
  public void beside(DSLContext tx, String result, Acts.Written entry) {
    drafts.cameOf(tx, Objects.requireNonNull(fresh), result, entry);
  }
}
