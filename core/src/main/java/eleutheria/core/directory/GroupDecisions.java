package eleutheria.core.directory;

import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Lookup;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What may be done with groups, and by whom. Whoever changes who is in a group must reach everyone
 * whom the change moves; its owner reaches everyone, for the members of a listed group.
 */
public final class GroupDecisions {
  /** The longest name, in characters. */
  public static final int LONGEST_NAME = 120;

  private GroupDecisions() {}

  public static Outcome<GroupId> make(
      Moment moment, String name, FactValue.Form form, String reason) {
    if (!moment.authority().has(Power.GROUPS_EDIT)) {
      return Outcome.refused(missing(Power.GROUPS_EDIT));
    }
    GroupId id = new GroupId(moment.ids().get());
    List<Problem> problems = new ArrayList<>(nameProblems(moment, id, name));
    if (form instanceof FactValue.Form.Mirrored) {
      problems.add(
          Problem.invalid(
              "group.mirrored", "form", "A mirrored group comes with a file of its source."));
    }
    if (form instanceof FactValue.Form.ByFilter byFilter) {
      problems.addAll(filterProblems(moment, Set.of(), byFilter.filter()));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.GroupName(id), new FactValue.Text(name.strip()));
    edits.put(new FactKey.GroupForm(id), form);
    return Outcome.done(Act.of(ActName.GROUP_MAKE, id).because(reason), edits.list(), id);
  }

  public static Outcome<GroupId> rename(Moment moment, GroupId id, String base, String name) {
    Optional<Group> found = moment.directory().group(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("group"));
    }
    if (!moment.authority().has(Power.GROUPS_EDIT)) {
      return Outcome.refused(missing(Power.GROUPS_EDIT));
    }
    Group group = found.get();
    if (!group.name().equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has named it “" + group.name() + "” meanwhile."));
    }
    List<Problem> problems = nameProblems(moment, id, name);
    // A name is read by everybody in it; whoever reaches a part of them leaves it alone.
    long outside = outside(moment, moment.directory().members(id));
    if (outside > 0) {
      problems.add(
          Problem.forbidden(
              "reach",
              "%s in it %s outside your reach, so you cannot rename it."
                  .formatted(
                      outside == 1 ? "1 person" : outside + " people",
                      outside == 1 ? "is" : "are")));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.GroupName(id), new FactValue.Text(name.strip()));
    return Outcome.done(Act.of(ActName.GROUP_RENAME, id), edits.list(), id);
  }

  /**
   * @param until the last day of the membership in the organisation's zone; null for no end
   * @return how many were not in it before
   */
  public static Outcome<Integer> add(
      Moment moment, GroupId id, List<ObjectId> members, @Nullable LocalDate until, String reason) {
    Lookup<Group> listed = listed(moment, id);
    if (listed instanceof Lookup.Refused<Group>) {
      return Outcome.refused(listed.problems());
    }
    Instant end = until == null ? Moments.FOREVER : Moments.endOf(until, moment.zone());
    List<Problem> problems = new ArrayList<>();
    if (!end.isAfter(moment.at())) {
      problems.add(
          Problem.invalid("membership.over", "until", "The last day " + until + " is past."));
    }
    if (members.isEmpty()) {
      problems.add(
          Problem.invalid("membership.nobody", "members", "Choose at least one person or group."));
    }
    DirectoryView directory = moment.directory();
    Set<PersonId> gained = new HashSet<>();
    for (ObjectId member : members) {
      switch (member) {
        case PersonId person -> {
          Optional<Person> known = directory.person(person);
          if (known.isEmpty()) {
            problems.add(Problem.absent("person"));
          } else if (known.get().status() == PersonStatus.DEPARTED) {
            problems.add(
                Problem.invalid(
                    "membership.departed",
                    "members",
                    known.get().name().displayed() + " has departed."));
          } else {
            gained.add(person);
          }
        }
        case GroupId nested -> {
          if (directory.group(nested).isEmpty()) {
            problems.add(Problem.absent("group"));
          } else if (directory.below(nested).contains(id)) {
            problems.add(
                Problem.invalid(
                    "membership.cycle",
                    "members",
                    "“%s” contains this group already, so it cannot be in it."
                        .formatted(directory.group(nested).get().name())));
          } else {
            gained.addAll(directory.members(nested));
          }
        }
        default ->
            problems.add(
                Problem.invalid(
                    "membership.kind", "members", "Only people and groups can be in it."));
      }
    }
    gained.removeAll(directory.members(id));
    problems.addAll(effect(moment, id, gained, true));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    for (ObjectId member : new java.util.LinkedHashSet<>(members)) {
      edits.timeline(
          new FactKey.Membership(id, member),
          List.of(new Spell(FactValue.Present.PRESENT, moment.at(), end)));
    }
    return Outcome.done(Act.of(ActName.GROUP_ADD, id).because(reason), edits.list(), edits.size())
        .by(right(moment, id));
  }

  public static Outcome<GroupId> remove(Moment moment, GroupId id, ObjectId member, String reason) {
    Lookup<Group> listed = listed(moment, id);
    if (!(listed instanceof Lookup.Found<Group>(Group group))) {
      return Outcome.refused(listed.problems());
    }
    boolean inIt =
        switch (member) {
          case PersonId person -> group.people().contains(person);
          case GroupId nested -> group.groups().contains(nested);
          default -> false;
        };
    if (!inIt) {
      return Outcome.refused(
          Problem.stale("members", "That is no longer in the group; someone removed it."));
    }
    Set<PersonId> lost =
        member instanceof PersonId person
            ? Set.of(person)
            : moment.directory().members((GroupId) member);
    List<Problem> problems = effect(moment, id, lost, true);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.Membership(id, member));
    return Outcome.done(Act.of(ActName.GROUP_REMOVE, id).because(reason), edits.list(), id)
        .by(right(moment, id));
  }

  public static Outcome<GroupId> setFilter(
      Moment moment, GroupId id, String base, String filter, String reason) {
    Optional<Group> found = moment.directory().group(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("group"));
    }
    if (!moment.authority().has(Power.GROUPS_EDIT)) {
      return Outcome.refused(missing(Power.GROUPS_EDIT));
    }
    if (!(found.get().form() instanceof FactValue.Form.ByFilter current)) {
      return Outcome.refused(
          Problem.invalid("group.no-filter", "filter", "This group does not follow a filter."));
    }
    if (!current.filter().equals(base)) {
      return Outcome.refused(
          Problem.stale("filter", "Someone has changed the filter to “" + current.filter() + "”."));
    }
    List<Problem> problems = filterProblems(moment, moment.directory().direct(id), filter);
    if (problems.isEmpty()) {
      problems = effect(moment, id, moved(moment, id, filter), false);
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.GroupForm(id), new FactValue.Form.ByFilter(filter.strip()));
    return Outcome.done(Act.of(ActName.GROUP_FILTER, id).because(reason), edits.list(), id);
  }

  public static Outcome<GroupId> setOwners(
      Moment moment, GroupId id, Collection<PersonId> base, Collection<PersonId> owners) {
    Optional<Group> found = moment.directory().group(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("group"));
    }
    if (!moment.authority().hasEverywhere(Power.GROUPS_EDIT)) {
      return Outcome.refused(missing(Power.GROUPS_EDIT));
    }
    return Owners.set(moment, id, ActName.GROUP_OWNERS, found.get().owners(), base, owners);
  }

  /** Ends a group with its memberships, its ownerships, and its places in other groups. */
  public static Outcome<GroupId> end(Moment moment, GroupId id, String reason) {
    Optional<Group> found = moment.directory().group(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("group"));
    }
    if (!moment.authority().has(Power.GROUPS_EDIT)) {
      return Outcome.refused(missing(Power.GROUPS_EDIT));
    }
    if (found.get().form() instanceof FactValue.Form.Mirrored) {
      return Outcome.refused(mirrored());
    }
    List<Problem> problems = effect(moment, id, moment.directory().members(id), false);
    for (DirectoryView.Mandate mandate : moment.directory().mandates()) {
      if (mandate.holders().contains(id)) {
        problems.add(
            Problem.invalid(
                "group.holds-mandate",
                "",
                "The group holds the mandate “%s”; remove that first."
                    .formatted(mandate.terms().name())));
      }
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    endAll(moment, edits, id);
    return Outcome.done(Act.of(ActName.GROUP_END, id).because(reason), edits.list(), id);
  }

  /** Adds the edits that end everything that is about a group. */
  public static void endAll(Moment moment, Edits edits, GroupId id) {
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    for (GroupId parent : moment.directory().parents(id)) {
      edits.end(new FactKey.Membership(parent, id));
    }
  }

  // ---- what stands in the way

  private static Lookup<Group> listed(Moment moment, GroupId id) {
    Optional<Group> found = moment.directory().group(id);
    if (found.isEmpty()) {
      return Lookup.refused(Problem.absent("group"));
    }
    if (!moment.authority().has(Power.GROUPS_EDIT) && !moment.authority().owns(id)) {
      return Lookup.refused(missing(Power.GROUPS_EDIT));
    }
    return switch (found.get().form()) {
      case FactValue.Form.Listed listed -> Lookup.found(found.get());
      case FactValue.Form.Mirrored mirrored -> Lookup.refused(mirrored());
      case FactValue.Form.ByFilter byFilter ->
          Lookup.refused(
              Problem.invalid(
                  "group.by-filter", "", "Who is in this group follows from its filter."));
    };
  }

  private static Problem mirrored() {
    return Problem.invalid(
        "group.mirrored", "", "This group is mirrored from its source; change it there.");
  }

  private static List<Problem> nameProblems(Moment moment, GroupId id, String name) {
    List<Problem> problems = new ArrayList<>();
    String wanted = name.strip();
    if (wanted.isEmpty()) {
      problems.add(Problem.invalid("group.no-name", "name", "Give the group a name."));
    } else if (wanted.length() > LONGEST_NAME) {
      problems.add(
          Problem.invalid(
              "group.long-name",
              "name",
              "The name has %d characters; at most %d are allowed."
                  .formatted(wanted.length(), LONGEST_NAME)));
    }
    String folded = Folding.fold(wanted);
    for (Group group : moment.directory().groups()) {
      if (!group.id().equals(id) && Folding.fold(group.name()).equals(folded)) {
        problems.add(
            Problem.invalid(
                "group.name-taken", "name", "There is a group “" + group.name() + "” already."));
      }
    }
    return problems;
  }

  private static List<Problem> filterProblems(Moment moment, Set<PersonId> before, String filter) {
    return switch (FilterParser.parse(filter, moment.directory().schema())) {
      case FilterParser.Parsed.Bad bad ->
          new ArrayList<>(List.of(Problem.invalid("filter.wrong", "filter", bad.message())));
      case FilterParser.Parsed.Good good -> {
        Set<PersonId> moved = difference(before, moment.directory().matching(good.filter()));
        yield unreached(moment, moved);
      }
    };
  }

  private static Set<PersonId> moved(Moment moment, GroupId id, String filter) {
    return FilterParser.parse(filter, moment.directory().schema())
            instanceof FilterParser.Parsed.Good good
        ? difference(moment.directory().direct(id), moment.directory().matching(good.filter()))
        : Set.of();
  }

  private static Set<PersonId> difference(Set<PersonId> one, Set<PersonId> other) {
    Set<PersonId> different = new HashSet<>(one);
    different.addAll(other);
    different.removeIf(person -> one.contains(person) && other.contains(person));
    return different;
  }

  /** Judges a change of members by its effect: whom it moves, and which powers it gives. */
  /**
   * An owner fills a group that leads to nothing of high sensitivity; others need the power over
   * what it gives.
   */
  private static Outcome.Right right(Moment moment, GroupId id) {
    return moment.authority().owns(id) ? Outcome.Right.AS_GROUP_OWNER : Outcome.Right.BY_EFFECT;
  }

  private static List<Problem> effect(
      Moment moment, GroupId id, Set<PersonId> moved, boolean ownerMay) {
    List<Problem> problems = new ArrayList<>();
    if (!(ownerMay && moment.authority().owns(id))) {
      problems.addAll(unreached(moment, moved));
    }
    problems.addAll(mandatesReached(moment, id, moved));
    return problems;
  }

  private static List<Problem> unreached(Moment moment, Set<PersonId> moved) {
    List<Problem> problems = new ArrayList<>();
    long outside = outside(moment, moved);
    if (outside > 0) {
      problems.add(
          Problem.forbidden(
              "reach", "This affects " + outside + " people who are outside your reach."));
    }
    return problems;
  }

  private static long outside(Moment moment, Set<PersonId> people) {
    return people.stream()
        .flatMap(person -> moment.directory().person(person).stream())
        .filter(
            person -> !moment.authority().reaches(Power.GROUPS_EDIT, person.value(Attributes.UNIT)))
        .count();
  }

  /** Nobody gives a power they lack, nor gives one to themselves. */
  public static List<Problem> mandatesReached(Moment moment, GroupId id, Set<PersonId> moved) {
    List<Problem> problems = new ArrayList<>();
    if (moved.isEmpty()) {
      return problems;
    }
    Set<GroupId> above = moment.directory().above(id);
    for (DirectoryView.Mandate mandate : moment.directory().mandates()) {
      if (mandate.holders().stream().noneMatch(h -> h instanceof GroupId g && above.contains(g))) {
        continue;
      }
      String name = mandate.terms().name();
      boolean lacks =
          !moment.authority().has(Power.MANDATES_EDIT)
              || mandate.terms().powers().stream()
                  .anyMatch(
                      word -> Power.of(word).filter(moment.authority()::hasEverywhere).isEmpty());
      if (lacks) {
        problems.add(
            Problem.forbidden(
                "power-lacked",
                "The group gives the mandate “%s”, whose powers you cannot give or take away."
                    .formatted(name)));
      } else if (moment.authority().person() != null
          && moved.contains(moment.authority().person())) {
        problems.add(
            Problem.forbidden(
                "own-gain",
                "The group gives the mandate “%s”; someone else has to change your own part in it."
                    .formatted(name)));
      }
    }
    return problems;
  }

  private static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }
}
