package eleutheria.core.access;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/** Making separation rules, and accepting a breach until a day. */
@NullMarked
public final class SeparationDecisions {
  public static final int LONGEST_NAME = 120;
  public static final int LONGEST_TEXT = 500;

  /** The most entitlements in a set. */
  public static final int MOST = 100;

  /** An exception lasts so many days at the most. */
  public static final int LONGEST_EXCEPTION = 366;

  private SeparationDecisions() {}

  /**
   * Sets a rule, a new one or another wording of one that is there.
   *
   * @param id null for a new one
   * @param base what the editor saw; null for a new one
   * @param from first day in the organisation's zone; null for at once
   */
  public static Outcome<RuleId> set(
      Moment moment,
      @Nullable RuleId id,
      FactValue.@Nullable Separation base,
      FactValue.Separation wanted,
      @Nullable LocalDate from,
      String reason) {
    if (!moment.authority().hasEverywhere(Power.ACCESS_RULES)) {
      return Outcome.refused(missing(Power.ACCESS_RULES));
    }
    SeparationRules rules = SeparationRules.of(moment.facts(), moment.at());
    List<Problem> problems = new ArrayList<>();
    if (id != null) {
      Optional<Spell> now = moment.facts().at(new FactKey.SeparationRule(id), moment.at());
      if (now.isEmpty()) {
        return Outcome.refused(Problem.absent("separation rule"));
      }
      if (!now.get().value().equals(base)) {
        return Outcome.refused(Problem.stale("", "Someone has changed this rule meanwhile."));
      }
    }
    String name = wanted.name().strip();
    if (name.isEmpty()) {
      problems.add(Problem.invalid("rule.no-name", "name", "Give the rule a name."));
    }
    length(problems, "name", name, LONGEST_NAME);
    if (rules.rules().stream()
        .anyMatch(
            r -> !r.id().equals(id) && Folding.fold(r.terms().name()).equals(Folding.fold(name)))) {
      problems.add(
          Problem.invalid("rule.name-taken", "name", "There is a rule “" + name + "” already."));
    }
    if (wanted.why().isBlank()) {
      problems.add(
          Problem.invalid("rule.no-why", "why", "Say what one person could do with both."));
    }
    length(problems, "why", wanted.why(), LONGEST_TEXT);
    length(problems, "reason", reason, LONGEST_TEXT);
    sets(moment, problems, wanted);
    Instant begins = from == null ? moment.at() : Moments.startOf(from, moment.zone());
    if (from != null && from.isBefore(moment.today())) {
      problems.add(
          Problem.invalid("rule.past", "from", "The first day %s is past.".formatted(from)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    RuleId rule = id == null ? new RuleId(moment.ids().get()) : id;
    FactValue.Separation clean =
        new FactValue.Separation(name, wanted.why().strip(), wanted.one(), wanted.other());
    Edits edits = moment.edits();
    Spell later =
        new Spell(clean, begins.isBefore(moment.at()) ? moment.at() : begins, Moments.FOREVER);
    edits.timeline(
        new FactKey.SeparationRule(rule),
        base != null && later.from().isAfter(moment.at())
            ? List.of(new Spell(base, moment.at(), later.from()), later)
            : List.of(later));
    return Outcome.done(
        Act.of(id == null ? ActName.RULE_MAKE : ActName.RULE_CHANGE, rule).because(reason.strip()),
        edits.list(),
        rule);
  }

  private static void sets(Moment moment, List<Problem> problems, FactValue.Separation wanted) {
    AccessView access = AccessView.at(moment);
    for (boolean first : new boolean[] {true, false}) {
      Set<EntitlementId> set = first ? wanted.one() : wanted.other();
      String field = first ? "one" : "other";
      if (set.isEmpty()) {
        problems.add(
            Problem.invalid("rule.empty", field, "Choose at least one entitlement on each side."));
      } else if (set.size() > MOST) {
        problems.add(
            Problem.invalid("rule.many", field, "At most %d entitlements.".formatted(MOST)));
      }
    }
    if (Stream.concat(wanted.one().stream(), wanted.other().stream())
        .anyMatch(e -> access.apps().entitlement(e).isEmpty())) {
      problems.add(Problem.absent("entitlement"));
    }
    wanted.one().stream()
        .filter(wanted.other()::contains)
        .findFirst()
        .flatMap(e -> access.apps().entitlement(e))
        .ifPresent(
            e ->
                problems.add(
                    Problem.invalid(
                        "rule.overlap",
                        "other",
                        "%s is on both sides; nobody could hold it.".formatted(e.title()))));
  }

  /** Ends a rule; its exceptions end with it. */
  public static Outcome<RuleId> end(Moment moment, RuleId id, String reason) {
    if (!moment.authority().hasEverywhere(Power.ACCESS_RULES)) {
      return Outcome.refused(missing(Power.ACCESS_RULES));
    }
    if (moment.facts().from(new FactKey.SeparationRule(id), moment.at()).isEmpty()) {
      return Outcome.refused(Problem.absent("separation rule"));
    }
    List<Problem> problems = new ArrayList<>();
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid("rule.no-reason", "reason", "Give a reason; it is kept in the ledger."));
    }
    length(problems, "reason", reason, LONGEST_TEXT);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.SeparationRule(id));
    for (FactKey key : moment.facts().about(id)) {
      if (key instanceof FactKey.Excepted && !moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    return Outcome.done(Act.of(ActName.RULE_END, id).because(reason.strip()), edits.list(), id);
  }

  /**
   * Accepts that one person holds one pair, until the end of a day.
   *
   * @param until the last day, at most a year ahead
   */
  public static Outcome<RuleId> except(
      Moment moment, Conflict conflict, LocalDate until, String reason) {
    return except(moment, new Acceptance(conflict, until), moment.at(), reason);
  }

  /**
   * A breach that somebody accepts.
   *
   * @param until the last day
   */
  public record Acceptance(Conflict conflict, LocalDate until) {}

  /**
   * The same from a moment on, at which what is accepted begins.
   *
   * @param from now, or seconds from now
   */
  public static Outcome<RuleId> except(
      Moment moment, Acceptance acceptance, Instant from, String reason) {
    Conflict conflict = acceptance.conflict();
    LocalDate until = acceptance.until();
    Optional<SeparationRules.Rule> rule =
        SeparationRules.of(moment.facts(), moment.at()).rule(conflict.rule());
    Optional<Person> person = moment.directory().person(conflict.person());
    if (rule.isEmpty() || person.isEmpty()) {
      return Outcome.refused(Problem.absent("separation rule"));
    }
    if (!moment.authority().reaches(Power.ACCESS_EXCEPT, person.get().value(Attributes.UNIT))) {
      return Outcome.refused(missing(Power.ACCESS_EXCEPT));
    }
    List<Problem> problems = new ArrayList<>();
    if (conflict.person().equals(moment.authority().person())) {
      problems.add(
          Problem.forbidden(
              "own-gain", "You cannot except yourself from a rule; ask someone else."));
    }
    if (!rule.get().terms().one().contains(conflict.one())
        || !rule.get().terms().other().contains(conflict.other())) {
      problems.add(Problem.invalid("rule.pair", "", "The rule does not keep these two apart."));
    }
    Instant end = Moments.endOf(until, moment.zone());
    if (!end.isAfter(moment.at())) {
      problems.add(Problem.invalid("exception.over", "until", "That day is past."));
    } else if (until.isAfter(moment.today().plusDays(LONGEST_EXCEPTION))) {
      problems.add(
          Problem.invalid(
              "exception.long",
              "until",
              "An exception lasts at most a year; then it is looked at again."));
    }
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid(
              "exception.no-reason", "reason", "Give a reason; it is kept with the exception."));
    }
    length(problems, "reason", reason, LONGEST_TEXT);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.timeline(
        new FactKey.Excepted(conflict.rule(), conflict.person(), conflict.one(), conflict.other()),
        List.of(new Spell(FactValue.Present.PRESENT, from, end)));
    return Outcome.done(
        Act.of(ActName.RULE_EXCEPT, conflict.rule(), conflict.person()).because(reason.strip()),
        edits.list(),
        conflict.rule());
  }

  private static void length(List<Problem> problems, String field, String text, int most) {
    if (text.length() > most) {
      problems.add(Problem.invalid("too-long", field, "At most %d characters.".formatted(most)));
    }
  }

  private static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }
}
