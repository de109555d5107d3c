package eleutheria.core.portal;

import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;

/** What tiles, collections and front pages are refused for alike. */
public final class PortalRules {
  static final int MOST_SUBJECTS = 200;
  static final int MOST_FIRST_DAYS = 366;

  private PortalRules() {}

  /** What is wrong with an audience. */
  public static List<Problem> audienceProblems(Moment moment, FactValue.Audience audience) {
    List<Problem> problems = new ArrayList<>();
    if (audience.firstDays() < 0 || audience.firstDays() > MOST_FIRST_DAYS) {
      problems.add(
          Problem.invalid(
              "audience.first-days",
              "firstDays",
              "The first days are between 1 and %d.".formatted(MOST_FIRST_DAYS)));
    }
    if (audience.subjects().size() > MOST_SUBJECTS) {
      problems.add(
          Problem.invalid(
              "audience.many",
              "audience",
              "An audience names at most %d; make a group of them.".formatted(MOST_SUBJECTS)));
    }
    for (FactValue.Subject subject : audience.subjects()) {
      switch (subject) {
        case FactValue.Subject.OfPerson s -> {
          if (moment.directory().person(s.person()).isEmpty()) {
            problems.add(Problem.absent("person"));
          }
        }
        case FactValue.Subject.OfGroup s -> {
          if (moment.directory().group(s.group()).isEmpty()) {
            problems.add(Problem.absent("group"));
          }
        }
        case FactValue.Subject.ByFilter s -> {
          if (FilterParser.parse(s.filter(), moment.directory().schema())
              instanceof FilterParser.Parsed.Bad bad) {
            problems.add(Problem.invalid("filter.wrong", "filter", bad.message()));
          }
        }
      }
    }
    return problems;
  }

  static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }
}
