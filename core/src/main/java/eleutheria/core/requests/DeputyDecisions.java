package eleutheria.core.requests;

import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.SortedSet;
import org.jspecify.annotations.Nullable;

/**
 * Naming who decides for somebody while they are away, and ending that. Whoever has a deputy still
 * decides themselves.
 *
 * <p>People name their own, among those whom they know; in need an administrator does who may step
 * in everywhere, and never themselves, since stepping in needs a reason each time. A deputy's span
 * always ends. What a deputy decides is told by {@link Deciders}.
 */
public final class DeputyDecisions {
  /** How many days it lasts at most, the first and the last included. */
  public static final int LONGEST = 366;

  /** How many one may have, those to come included. */
  public static final int MOST = 10;

  private DeputyDecisions() {}

  /** Whom somebody may name: their colleagues who are at work. In order of name. */
  public static List<PersonId> candidates(DirectoryView directory, PersonId person) {
    return Colleagues.of(directory, person).stream()
        .filter(one -> Deciders.works(directory, one))
        .toList();
  }

  /** Whether whoever acts may name and end deputies of others. */
  public static boolean administers(Moment moment) {
    return moment.authority().hasEverywhere(Power.REQUESTS_STEP_IN);
  }

  /**
   * @param from the first day; null for now
   * @param until the last day
   */
  public static Outcome<PersonId> name(
      Moment moment,
      PersonId person,
      PersonId deputy,
      @Nullable LocalDate from,
      LocalDate until,
      SortedSet<Duty> duties) {
    DirectoryView directory = moment.directory();
    PersonId actor = moment.authority().person();
    boolean own = person.equals(actor);
    if (!own && !administers(moment)) {
      return Outcome.refused(Problem.absent("person"));
    }
    if (!Deciders.works(directory, person)) {
      return Outcome.refused(Problem.absent("person"));
    }
    List<Problem> problems = new ArrayList<>();
    if (deputy.equals(actor)) {
      problems.add(
          Problem.forbidden(
              "deputy.own",
              own ? "Nobody is their own deputy." : "Someone else has to make you a deputy."));
    } else if (deputy.equals(person)) {
      problems.add(Problem.invalid("deputy.own", "deputy", "Nobody is their own deputy."));
    } else if (own
        ? !candidates(directory, person).contains(deputy)
        : !Deciders.works(directory, deputy)) {
      // Whom else there may be is not told: nobody is found by trying.
      problems.add(Problem.invalid("deputy.who", "deputy", "This person cannot be the deputy."));
    }
    List<Deputies.Span> before = Deputies.of(moment.facts(), person, moment.at());
    if (before.stream().anyMatch(span -> span.deputy().equals(deputy))) {
      problems.add(Problem.stale("deputy", "This person is the deputy already; end that first."));
    } else if (before.size() >= MOST) {
      problems.add(
          Problem.invalid("deputy.many", "", "There can be %d deputies at most.".formatted(MOST)));
    }
    if (duties.isEmpty()) {
      problems.add(
          Problem.invalid("deputy.duties", "duties", "Say which requests the deputy decides."));
    }
    LocalDate first = from == null ? moment.today() : from;
    if (first.isBefore(moment.today())) {
      problems.add(Problem.invalid("deputy.from", "from", "The day %s is past.".formatted(first)));
    }
    if (until.isBefore(first)) {
      problems.add(
          Problem.invalid("deputy.until", "until", "The last day is before the first day."));
    } else if (until.isAfter(first.plusDays(LONGEST - 1))) {
      problems.add(
          Problem.invalid(
              "deputy.long", "until", "This can be %d days at most.".formatted(LONGEST)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Instant begin =
        first.equals(moment.today()) ? moment.at() : Moments.startOf(first, moment.zone());
    Edits edits = moment.edits();
    edits.timeline(
        new FactKey.Deputy(person, deputy),
        List.of(
            new Spell(new FactValue.Duties(duties), begin, Moments.endOf(until, moment.zone()))));
    List<Errand> errands = new ArrayList<>();
    errands.add(new Errand.TellOfDeputy(deputy, person, deputy));
    if (!own) {
      errands.add(new Errand.TellOfDeputy(person, person, deputy));
    }
    return Outcome.done(Act.of(ActName.DEPUTY_NAME, person, deputy), edits.list(), deputy)
        .with(errands)
        .by(Outcome.Right.BY_RULE);
  }

  /** Whoever has the deputy ends it, or the deputy, or an administrator. */
  public static Outcome<PersonId> end(Moment moment, PersonId person, PersonId deputy) {
    PersonId actor = moment.authority().person();
    if (!person.equals(actor) && !deputy.equals(actor) && !administers(moment)) {
      return Outcome.refused(Problem.absent("deputy"));
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.Deputy(person, deputy));
    if (edits.list().isEmpty()) {
      return Outcome.refused(Problem.absent("deputy"));
    }
    return Outcome.done(Act.of(ActName.DEPUTY_END, person, deputy), edits.list(), deputy)
        .by(Outcome.Right.BY_RULE);
  }
}
