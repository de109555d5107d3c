package eleutheria.server.drafts;

import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftStage;
import eleutheria.server.web.Viewer;
import java.util.List;
import org.springframework.stereotype.Component;

/** The drafts on somebody's docket. */
@Component
public class WaitingDrafts {
  private static final int MOST = 100;

  private final DraftStore store;
  private final DraftReader reader;

  WaitingDrafts(DraftStore store, DraftReader reader) {
    this.store = store;
    this.reader = reader;
  }

  /** Those that wait for a yes which this viewer could give, and theirs that hold themselves. */
  public List<Draft> of(Viewer viewer) {
    return store.at(List.of(DraftStage.WAITING, DraftStage.HELD), MOST).stream()
        .filter(
            draft ->
                draft.stage() == DraftStage.HELD
                    ? draft.holder().equals(viewer.person())
                    : draft.plan() != null
                        && !draft.plan().publisher().equals(viewer.person())
                        && reader.mayPublish(viewer, draft))
        .toList();
  }
}
