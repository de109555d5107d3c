package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;

/** Reporting a problem with a tile, and answering. */
public final class ComplaintDecisions {
  public static final int LONGEST_TEXT = 1_000;

  /** How many of one's own may wait at once. */
  public static final int MOST_WAITING = 20;

  private ComplaintDecisions() {}

  /**
   * @param number the next free number, taken under the lock
   * @param shown what the person is shown now
   * @param mine their other complaints
   */
  public static Outcome<Complaint> make(
      Moment moment,
      int number,
      PersonId person,
      TileId id,
      String text,
      FrontPage shown,
      Collection<Complaint> mine) {
    Tile tile =
        shown.sections().stream()
            .flatMap(section -> section.tiles().stream())
            .map(FrontPage.Shown::tile)
            .filter(each -> each.id().equals(id))
            .findFirst()
            .orElse(null);
    if (tile == null) {
      return Outcome.refused(Problem.absent("tile"));
    }
    List<Problem> problems = new ArrayList<>();
    if (text.isBlank()) {
      problems.add(Problem.invalid("complaint.no-text", "text", "Say what is wrong."));
    }
    AppDecisions.length(problems, "text", text, LONGEST_TEXT);
    if (mine.stream().filter(Complaint::waits).count() >= MOST_WAITING) {
      problems.add(
          Problem.invalid(
              "complaint.many",
              "",
              "%d of yours are waiting already; wait for an answer first."
                  .formatted(MOST_WAITING)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Complaint made =
        new Complaint(
            new ComplaintId(moment.ids().get()),
            number,
            person,
            id,
            tile.face().application(),
            tile.name(),
            text.strip(),
            moment.at(),
            null);
    return Outcome.done(
        Act.of(ActName.COMPLAINT_MAKE, made.id(), person, id, made.app())
            .because(text.strip())
            .with(Map.of("number", number)),
        List.of(),
        made);
  }

  /** Answers a complaint; whoever reported it can take it back instead. */
  public static Outcome<Complaint> answer(Moment moment, Complaint complaint, String text) {
    PersonId by = moment.authority().person();
    boolean own = complaint.by().equals(by);
    if (by == null
        || !own && !complaint.mayBeAnsweredBy(AccessView.at(moment), moment.authority())) {
      return Outcome.refused(Problem.absent("complaint"));
    }
    if (!complaint.waits()) {
      return Outcome.refused(
          Problem.stale("", "%s has been answered already.".formatted(complaint.label())));
    }
    List<Problem> problems = new ArrayList<>();
    if (text.isBlank() && !own) {
      problems.add(
          Problem.invalid("complaint.no-answer", "text", "Say what was done, to who reported it."));
    }
    AppDecisions.length(problems, "text", text, LONGEST_TEXT);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Complaint next =
        new Complaint(
            complaint.id(),
            complaint.number(),
            complaint.by(),
            complaint.tile(),
            complaint.app(),
            complaint.tileName(),
            complaint.text(),
            complaint.at(),
            new Complaint.Reply(by, moment.at(), text.strip()));
    return Outcome.done(
            Act.of(
                    own ? ActName.COMPLAINT_WITHDRAW : ActName.COMPLAINT_ANSWER,
                    complaint.id(),
                    complaint.by())
                .because(text.strip()),
            List.of(),
            next)
        .with(
            own ? List.of() : List.of(new Errand.TellOfComplaint(complaint.by(), complaint.id())));
  }
}
