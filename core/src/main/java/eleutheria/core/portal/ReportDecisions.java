package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ReportId;
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
public final class ReportDecisions {
  public static final int LONGEST_TEXT = 1_000;

  /** How many of one's own may wait at once. */
  public static final int MOST_WAITING = 20;

  private ReportDecisions() {}

  /**
   * @param number the next free number, taken under the lock
   * @param shown what the person is shown now
   * @param mine their other reports
   */
  public static Outcome<Report> report(
      Moment moment,
      int number,
      PersonId person,
      TileId id,
      String text,
      FrontPage shown,
      Collection<Report> mine) {
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
      problems.add(Problem.invalid("report.no-text", "text", "Say what is wrong."));
    }
    AppDecisions.length(problems, "text", text, LONGEST_TEXT);
    if (mine.stream().filter(Report::waits).count() >= MOST_WAITING) {
      problems.add(
          Problem.invalid(
              "report.many",
              "",
              "%d of yours wait already; wait for an answer first.".formatted(MOST_WAITING)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Report made =
        new Report(
            new ReportId(moment.ids().get()),
            number,
            person,
            id,
            tile.face().application(),
            tile.name(),
            text.strip(),
            moment.at(),
            null);
    return Outcome.done(
        Act.of(ActName.PORTAL_REPORT, made.id(), person, id, made.app())
            .because(text.strip())
            .with(Map.of("number", number)),
        List.of(),
        made);
  }

  /** Answers a report; whoever reported it can take it back instead. */
  public static Outcome<Report> answer(Moment moment, Report report, String text) {
    PersonId by = moment.authority().person();
    boolean own = report.by().equals(by);
    if (by == null || !own && !report.mayBeAnsweredBy(AccessView.at(moment), moment.authority())) {
      return Outcome.refused(Problem.absent("report"));
    }
    if (!report.waits()) {
      return Outcome.refused(
          Problem.stale("", "%s has been answered already.".formatted(report.label())));
    }
    List<Problem> problems = new ArrayList<>();
    if (text.isBlank() && !own) {
      problems.add(
          Problem.invalid("report.no-answer", "text", "Say what was done, to who reported it."));
    }
    AppDecisions.length(problems, "text", text, LONGEST_TEXT);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Report next =
        new Report(
            report.id(),
            report.number(),
            report.by(),
            report.tile(),
            report.app(),
            report.tileName(),
            report.text(),
            report.at(),
            new Report.Answer(by, moment.at(), text.strip()));
    return Outcome.done(
            Act.of(
                    own ? ActName.PORTAL_REPORT_WITHDRAW : ActName.PORTAL_REPORT_ANSWER,
                    report.id(),
                    report.by())
                .because(text.strip()),
            List.of(),
            next)
        .with(own ? List.of() : List.of(new Errand.TellOfReport(report.by(), report.id())));
  }
}
