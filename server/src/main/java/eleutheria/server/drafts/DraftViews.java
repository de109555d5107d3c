package eleutheria.server.drafts;

import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.FactKind;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.writing.ConsequencesView;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What the web is told of drafts. */
final class DraftViews {
  private DraftViews() {}

  /** A draft in a list. */
  record DraftLine(
      String id,
      String name,
      String stage,
      PersonLine holder,
      boolean mine,
      boolean shared,
      Instant openedAt,
      @Nullable Instant publishAt,
      int edits) {}

  /**
   * @param open the draft that gathers the reader's edits, with its counts; null for none
   * @param mine those the reader holds
   * @param shared those that colleagues hold and share
   */
  record Tray(@Nullable OpenDraft open, List<DraftLine> mine, List<DraftLine> shared) {}

  /**
   * The open draft at the foot of the desk.
   *
   * @param clashes how many edits no longer fit
   * @param now what begins at publishing
   * @param later the first moment after it at which something begins; null if nothing does
   */
  record OpenDraft(
      DraftLine draft,
      int clashes,
      ConsequencesView.Counts now,
      ConsequencesView.@Nullable Counts later,
      @Nullable Instant laterAt) {}

  /**
   * @param edits in their order
   * @param comments oldest first
   * @param clashing drafts of others that change the same
   * @param heldWhy why it is on hold; null if it does not
   */
  record DraftView(
      DraftLine draft,
      PersonLine openedBy,
      long version,
      boolean editable,
      boolean gathers,
      List<EditView> edits,
      @Nullable PlanView plan,
      @Nullable String heldWhy,
      @Nullable Long publishedAt,
      @Nullable RevertView reverts,
      List<CommentView> comments,
      List<ClashView> clashing) {}

  /**
   * @param objects ids of the things it is about, so that their pages can tell of it
   * @param more how many wishes more it has than are told
   * @param fate applies, already_so or clashes
   * @param reason why it clashes; null if it does not
   * @param object what it clashes at
   */
  record EditView(
      int seq,
      String author,
      Instant madeAt,
      ActName act,
      List<String> objects,
      List<Phrases.Phrase> phrases,
      int more,
      String fate,
      @Nullable String reason,
      @Nullable String object) {}

  record PlanView(
      PersonLine publisher,
      String reason,
      @Nullable Instant at,
      @Nullable Instant revertAt,
      boolean tell) {}

  record CommentView(String author, Instant at, String text) {}

  /**
   * @param id of the other draft; null where the reader may not see it
   * @param edits numbers of the edits here that it meets
   */
  record ClashView(@Nullable String id, String name, PersonLine holder, List<Integer> edits) {}

  /**
   * What a draft that puts something back does of it.
   *
   * @param position the entry that it reverts
   * @param since how many later entries are about the same things
   */
  record RevertView(long position, String name, int since, List<RevertLine> lines) {}

  /**
   * @param fate applies, already_so, clashes or mirrored
   * @param count how many changes alike
   */
  record RevertLine(FactKind kind, String subject, String fate, int count) {}

  record PeopleView(int total, List<PersonRow> lines) {}

  /**
   * @param until when it ends by itself, of those who keep it; null if it does not
   */
  record PersonRow(
      PersonLine person, List<Integer> because, List<String> sources, @Nullable Instant until) {}
}
