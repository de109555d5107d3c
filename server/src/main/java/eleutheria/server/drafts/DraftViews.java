package eleutheria.server.drafts;

import eleutheria.server.directory.PersonLine;
import eleutheria.server.web.ProblemView;
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
      Counts now,
      @Nullable Counts later,
      @Nullable Instant laterAt) {}

  /** Numbers of people, which are never added up. */
  record Counts(
      int gain,
      int lose,
      int keep,
      int ends,
      int back,
      int more,
      int less,
      int moved,
      int conflicts,
      int settled) {}

  /**
   * @param edits in their order
   * @param comments oldest first
   * @param clashing drafts of others that change the same
   * @param heldWhy why it holds itself; null if it does not
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
      @Nullable PutBackView putsBack,
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
      String act,
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
      @Nullable Instant putBackAt,
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
   * @param position the entry that it puts back
   * @param since how many later entries are about the same things
   */
  record PutBackView(long position, String name, int since, List<PutBackLine> lines) {}

  /**
   * @param fate applies, already_so, clashes or mirrored
   * @param count how many changes alike
   */
  record PutBackLine(String kind, String subject, String fate, int count) {}

  /**
   * What exactly a draft would do.
   *
   * @param at as of which moment that is true
   * @param people how many are active, all of whom were looked at
   * @param digest stands for what is shown here
   * @param grown whether somebody gains or loses who did not when the reader looked before
   * @param cut whether there is more outside the reader's reach
   * @param problems what stands in the way of publishing it oneself
   */
  record ConsequencesView(
      Instant at,
      int people,
      String digest,
      boolean grown,
      boolean cut,
      List<MomentView> moments,
      List<ProblemView.Item> problems) {}

  /**
   * @param publishing whether it is the publishing itself
   * @param conflicts breaches of separation rules that begin or end here
   * @param rows the first of them, the largest of each sign in front
   * @param more how many rows more there are
   */
  record MomentView(
      Instant at,
      boolean publishing,
      Counts counts,
      List<ConflictView> conflicts,
      List<RowView> rows,
      int more) {}

  /**
   * One breach.
   *
   * @param begins false where it ends
   * @param stops whether it must be answered before publishing
   */
  record ConflictView(
      String rule,
      String ruleName,
      PersonLine person,
      String one,
      String oneTitle,
      String other,
      String otherTitle,
      boolean begins,
      boolean stops,
      List<Integer> because) {}

  /**
   * One thing that changes for some people.
   *
   * @param sign gain, lose, keep, ends, back, more, less or moved
   * @param kind of the thing: entitlement, tile or collection
   * @param named the first of them by name, where they are few
   * @param units the units they work in, most first
   * @param because numbers of the edits
   * @param rest on what those who keep it stand
   * @param grown how many of them came since the reader looked before
   */
  record RowView(
      String sign,
      String kind,
      String id,
      String title,
      int people,
      List<PersonLine> named,
      List<String> units,
      List<Integer> because,
      @Nullable RestView rest,
      int grown) {}

  /**
   * @param sources by hand, on request …: from where the grounds are that remain
   * @param until when the first of those who keep it loses it by itself; null if nobody does
   */
  record RestView(List<String> sources, @Nullable Instant until) {}

  record PeopleView(int total, List<PersonRow> lines) {}

  /**
   * @param until when it ends by itself, of those who keep it; null if it does not
   */
  record PersonRow(
      PersonLine person, List<Integer> because, List<String> sources, @Nullable Instant until) {}
}
