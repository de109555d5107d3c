package eleutheria.core.access;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/** Giving and ending entitlements by an administrator. */
@NullMarked
public final class GrantDecisions {
  public static final int LONGEST_REASON = 500;

  private GrantDecisions() {}

  /**
   * Gives an entitlement to each subject, by one grant each.
   *
   * @param from first day in the organisation's zone; null for at once
   * @param until last day; null for no end
   */
  public static Outcome<Integer> give(
      Moment moment,
      EntitlementId id,
      List<FactValue.Subject> subjects,
      @Nullable LocalDate from,
      @Nullable LocalDate until,
      String reason) {
    AccessView access = AccessView.at(moment);
    Optional<Entitlement> entitlement = access.apps().entitlement(id);
    if (entitlement.isEmpty()) {
      return Outcome.refused(Problem.absent("entitlement"));
    }
    Application app = access.apps().applicationOf(entitlement.get());
    if (!moment.authority().reaches(Power.ACCESS_GIVE, app.id())) {
      return Outcome.refused(missing(Power.ACCESS_GIVE));
    }
    List<Problem> problems = new ArrayList<>();
    if (app.state() == ApplicationState.RETIRED || app.state() == ApplicationState.BLOCKED) {
      problems.add(
          Problem.invalid("grant.app", "", "%s is %s.".formatted(app.name(), app.state().word())));
    }
    Instant begins = from == null ? moment.at() : Moments.startOf(from, moment.zone());
    Instant ends = until == null ? Moments.FOREVER : Moments.endOf(until, moment.zone());
    if (from != null && from.isBefore(moment.today())) {
      problems.add(
          Problem.invalid("grant.past", "from", "The first day %s is past.".formatted(from)));
    } else if (begins.isBefore(moment.at())) {
      begins = moment.at();
    }
    if (!ends.isAfter(begins)) {
      problems.add(
          Problem.invalid(
              "grant.over", "until", "The last day %s is before the first.".formatted(until)));
    }
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid("grant.no-reason", "reason", "Give a reason; it is kept in the ledger."));
    }
    AppDecisions.length(problems, "reason", reason, LONGEST_REASON);
    Set<FactValue.Subject> all = new LinkedHashSet<>(subjects);
    if (all.isEmpty()) {
      problems.add(
          Problem.invalid("grant.nobody", "subjects", "Choose at least one person or group."));
    }
    all.forEach(subject -> problems.addAll(subjectProblems(moment, access, id, subject)));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    List<ObjectId> objects = new ArrayList<>(List.of(id, app.id()));
    for (FactValue.Subject subject : all) {
      GrantId grant = new GrantId(moment.ids().get());
      open(
          edits,
          grant,
          new FactValue.Given(subject, id, GrantSource.HAND),
          reason.strip(),
          begins,
          ends);
      objects.add(grant);
      name(objects, subject);
    }
    return Outcome.done(
        new Act(ActName.ACCESS_GIVE, objects, reason.strip(), java.util.Map.of()),
        edits.list(),
        all.size());
  }

  /** An entry about a grant is found by its person or group too. */
  private static void name(List<ObjectId> objects, FactValue.Subject subject) {
    switch (subject) {
      case FactValue.Subject.OfPerson s -> objects.add(s.person());
      case FactValue.Subject.OfGroup s -> objects.add(s.group());
      case FactValue.Subject.ByFilter s -> {}
    }
  }

  /** Adds the edits that open one grant. */
  public static void open(
      Edits edits,
      GrantId grant,
      FactValue.Given given,
      String reason,
      Instant begins,
      Instant ends) {
    edits.timeline(new FactKey.Grant(grant), List.of(new Spell(given, begins, ends)));
    edits.timeline(
        new FactKey.GrantReason(grant),
        List.of(new Spell(new FactValue.Text(reason), begins, ends)));
  }

  private static List<Problem> subjectProblems(
      Moment moment, AccessView access, EntitlementId id, FactValue.Subject subject) {
    List<Problem> problems = new ArrayList<>();
    String name = "";
    switch (subject) {
      case FactValue.Subject.OfPerson s -> {
        Optional<Person> person = moment.directory().person(s.person());
        if (person.isEmpty()) {
          problems.add(Problem.absent("person"));
        } else {
          name = person.get().name().displayed();
          if (person.get().status() == PersonStatus.DEPARTED) {
            problems.add(Problem.invalid("grant.departed", "subjects", name + " has departed."));
          }
        }
      }
      case FactValue.Subject.OfGroup s -> {
        Optional<Group> group = moment.directory().group(s.group());
        if (group.isEmpty()) {
          problems.add(Problem.absent("group"));
        } else {
          name = "“" + group.get().name() + "”";
        }
      }
      case FactValue.Subject.ByFilter s -> {
        name = "this filter";
        if (FilterParser.parse(s.filter(), moment.directory().schema())
            instanceof FilterParser.Parsed.Bad bad) {
          problems.add(Problem.invalid("filter.wrong", "filter", bad.message()));
        }
      }
    }
    for (Grant grant : access.grants(id)) {
      if (grant.given().subject().equals(subject) && grant.given().source() == GrantSource.HAND) {
        problems.add(
            Problem.invalid(
                "grant.there",
                "subjects",
                "%s has been granted it already, since %s; change the last day of that grant instead."
                    .formatted(name, grant.from().atZone(moment.zone()).toLocalDate())));
      }
    }
    return problems;
  }

  /** A direct place in a listed group, of a person or a group. */
  public record Place(GroupId group, ObjectId member) {}

  /**
   * Ends grants, and takes people and groups out of listed groups, at once and in one act.
   *
   * @return how many grants and places were ended
   */
  public static Outcome<Integer> end(
      Moment moment, List<GrantId> ids, List<Place> places, String reason) {
    AccessView access = AccessView.at(moment);
    List<Problem> problems = new ArrayList<>();
    List<ObjectId> objects = new ArrayList<>();
    Edits edits = moment.edits();
    if (ids.isEmpty() && places.isEmpty()) {
      problems.add(Problem.invalid("grant.none", "grants", "Choose at least one ground."));
    }
    for (GrantId id : new LinkedHashSet<>(ids)) {
      Optional<Grant> grant = access.grant(id);
      if (grant.isEmpty()) {
        problems.add(gone(moment, id));
        continue;
      }
      FactValue.Given given = grant.get().given();
      Entitlement entitlement = access.apps().entitlement(given.entitlement()).orElseThrow();
      if (!moment.authority().reaches(Power.ACCESS_END, entitlement.application())) {
        problems.add(missing(Power.ACCESS_END));
      }
      close(edits, id);
      objects.addAll(List.of(id, given.entitlement()));
      name(objects, given.subject());
    }
    List<Edit> all = new ArrayList<>(edits.list());
    for (Place place : new LinkedHashSet<>(places)) {
      switch (GroupDecisions.remove(moment, place.group(), place.member(), reason)) {
        case Outcome.Refused<GroupId> refused -> problems.addAll(refused.problems());
        case Outcome.Done<GroupId> done -> all.addAll(done.edits());
      }
      objects.addAll(List.of(place.group(), place.member()));
    }
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid("grant.no-reason", "reason", "Give a reason; it is kept in the ledger."));
    }
    AppDecisions.length(problems, "reason", reason, LONGEST_REASON);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems.stream().distinct().toList());
    }
    List<ObjectId> named = new ArrayList<>(new LinkedHashSet<>(objects));
    return Outcome.done(
        new Act(ActName.ACCESS_END, named, reason.strip(), java.util.Map.of()),
        all,
        new LinkedHashSet<>(ids).size() + new LinkedHashSet<>(places).size());
  }

  /** Adds the edits that end one grant now. */
  public static void close(Edits edits, GrantId id) {
    edits.end(new FactKey.Grant(id));
    edits.end(new FactKey.GrantReason(id));
  }

  /** Moves the end of a grant; {@code base} is the end that the editor saw. */
  public static Outcome<GrantId> setUntil(
      Moment moment,
      GrantId id,
      @Nullable LocalDate base,
      @Nullable LocalDate until,
      String reason) {
    AccessView access = AccessView.at(moment);
    Optional<Grant> found = access.grant(id);
    if (found.isEmpty()) {
      return Outcome.refused(gone(moment, id));
    }
    Grant grant = found.get();
    Entitlement entitlement = access.apps().entitlement(grant.given().entitlement()).orElseThrow();
    Instant wanted = until == null ? Moments.FOREVER : Moments.endOf(until, moment.zone());
    Instant seen = base == null ? Moments.FOREVER : Moments.endOf(base, moment.zone());
    Power power = wanted.isAfter(grant.until()) ? Power.ACCESS_GIVE : Power.ACCESS_END;
    if (!moment.authority().reaches(power, entitlement.application())) {
      return Outcome.refused(missing(power));
    }
    if (!seen.equals(grant.until())) {
      return Outcome.refused(
          Problem.stale("until", "Someone has moved the end meanwhile; look at it again."));
    }
    List<Problem> problems = new ArrayList<>();
    if (!wanted.isAfter(moment.at())) {
      problems.add(Problem.invalid("grant.over", "until", "That day is past."));
    }
    AppDecisions.length(problems, "reason", reason, LONGEST_REASON);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    for (FactKey key : List.of(new FactKey.Grant(id), new FactKey.GrantReason(id))) {
      moment
          .facts()
          .at(key, moment.at())
          .ifPresent(s -> edits.timeline(key, List.of(new Spell(s.value(), moment.at(), wanted))));
    }
    return Outcome.done(
        Act.of(ActName.ACCESS_UNTIL, id, entitlement.id()).because(reason.strip()),
        edits.list(),
        id);
  }

  private static Problem gone(Moment moment, GrantId id) {
    for (Spell spell : moment.facts().spells(new FactKey.Grant(id))) {
      if (!spell.until().isAfter(moment.at())) {
        return new Problem(
            Problem.Kind.STALE, "grant.ended", id.text(), "That grant has ended already.");
      }
      if (spell.from().isAfter(moment.at())) {
        return Problem.invalid(
            "grant.to-come", "grants", "That grant takes effect in a moment; try again then.");
      }
    }
    return Problem.absent("grant");
  }

  private static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }
}
