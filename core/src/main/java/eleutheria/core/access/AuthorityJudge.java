package eleutheria.core.access;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Identity;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Judges what edits do to who may do what, whatever the edits are: a mandate held by a group that
 * an attribute leads into weighs as much as one given by name. What somebody may do before and
 * after is compared, at the act and at every later moment at which it may begin to differ.
 *
 * <ul>
 *   <li>Nobody gives or takes a power that they lack, in a reach that they lack.
 *   <li>Nobody gains by their own act, where somebody else could do it.
 *   <li>Who makes somebody an owner may do themselves what owners of it may.
 *   <li>Nobody becomes the manager of people by their own act whose access they may not see.
 *   <li>Somebody who is active and holds every power is always left.
 * </ul>
 *
 * A departure may take powers away without anybody having them; ending access is always possible.
 */
@NullMarked
public final class AuthorityJudge {
  /** The code of the problem that nobody would be left with every power. */
  public static final String LAST = "last-steward";

  private final Moment moment;
  private final List<Edit> edits;
  private final List<Move> moves;
  private final Authority actor;
  private final Set<GroupId> leading;
  private final List<String> filters;
  private final Map<MandateId, Set<PersonId>> now;
  private final List<Problem> problems = new ArrayList<>();

  private AuthorityJudge(Moment moment, List<Edit> edits, List<Move> moves) {
    this.moment = moment;
    this.edits = edits;
    this.moves = moves;
    this.actor = moment.authority();
    this.leading = leading(moment, edits);
    this.filters = filters();
    this.now = holders(moment.directory());
  }

  /**
   * @param moves what {@link eleutheria.core.facts.Facts#apply} made of the edits
   * @param right {@link Outcome.Right#BY_RULE} has been judged already; that somebody with every
   *     power is left is asked of it too
   */
  public static List<Problem> judge(
      Moment moment, List<Edit> edits, List<Move> moves, Outcome.Right right) {
    AuthorityJudge judge = new AuthorityJudge(moment, edits, moves);
    boolean byRule = right == Outcome.Right.BY_RULE;
    if (!byRule) {
      judge.owners();
      judge.managers();
      judge.problems.addAll(Identity.judge(moment, edits));
    }
    if (edits.stream().anyMatch(judge::carries)) {
      judge.compare(byRule);
    }
    return judge.problems;
  }

  // ---- what may carry a mandate

  /** Groups whose members hold a mandate, now, on a day to come, or by the edits. */
  private static Set<GroupId> leading(Moment moment, List<Edit> edits) {
    Deque<GroupId> open = new ArrayDeque<>();
    for (FactKey.MandateHeld key : moment.facts().keys(FactKey.MandateHeld.class)) {
      if (key.holder() instanceof GroupId group
          && !moment.facts().from(key, moment.at()).isEmpty()) {
        open.add(group);
      }
    }
    Map<GroupId, Set<GroupId>> nesting = new HashMap<>();
    for (Edit edit : edits) {
      if (edit.wanted() == null) {
        continue;
      }
      if (edit.key() instanceof FactKey.MandateHeld held
          && held.holder() instanceof GroupId group) {
        open.add(group);
      } else if (edit.key() instanceof FactKey.Membership(GroupId outer, GroupId nested)) {
        nesting.computeIfAbsent(outer, g -> new LinkedHashSet<>()).add(nested);
      }
    }
    Set<GroupId> found = new LinkedHashSet<>();
    while (!open.isEmpty()) {
      GroupId next = open.pop();
      if (found.add(next)) {
        moment.directory().group(next).ifPresent(group -> open.addAll(group.groups()));
        open.addAll(nesting.getOrDefault(next, Set.of()));
      }
    }
    return found;
  }

  /**
   * Whether an edit can move who holds a mandate. All kinds are named, so that a new one has to be
   * decided on.
   */
  private boolean carries(Edit edit) {
    return switch (edit.key()) {
      case FactKey.Mandate k -> true;
      case FactKey.MandateHeld k -> true;
      case FactKey.Membership k -> leading.contains(k.subject());
      case FactKey.GroupForm k -> leading.contains(k.subject());
      case FactKey.Existence k ->
          switch (k.subject()) {
            case GroupId group -> leading.contains(group);
            case PersonId person -> edit.base() != null && holds(person);
            default -> false;
          };
      case FactKey.Status k -> edit.base() != null && holds(k.subject());
      case FactKey.Attribute k -> byFilter() && filtered(k.name());
      case FactKey.Defined k -> byFilter();
      // Judged by themselves, in owners().
      case FactKey.Ownership k -> false;
      case FactKey.Naming k -> false;
      case FactKey.Link k -> false;
      case FactKey.GroupName k -> false;
      case FactKey.Source k -> false;
      case FactKey.Application k -> false;
      case FactKey.AppState k -> false;
      case FactKey.WayIn k -> false;
      case FactKey.Seats k -> false;
      case FactKey.Entitlement k -> false;
      case FactKey.Grant k -> false;
      case FactKey.GrantReason k -> false;
      case FactKey.Tile k -> false;
      case FactKey.Collection k -> false;
      case FactKey.Audience k -> false;
      case FactKey.Shown k -> false;
      case FactKey.Placed k -> false;
      case FactKey.SeparationRule k -> false;
      case FactKey.Excepted k -> false;
      case FactKey.Deputy k -> false;
      case FactKey.Route k -> false;
      case FactKey.RequestForm k -> false;
      case FactKey.Brand k -> false;
      case FactKey.SelfService k -> false;
      case FactKey.Approved k -> false;
      case FactKey.Front k -> false;
      case FactKey.FrontRank k -> false;
      case FactKey.FrontNotice k -> false;
      case FactKey.FrontWave k -> false;
      case FactKey.Fronted k -> false;
    };
  }

  private boolean holds(PersonId person) {
    return now.values().stream().anyMatch(all -> all.contains(person));
  }

  /** Whether a filter leads to a mandate, as it is or as the edits want it. */
  private boolean byFilter() {
    return !filters.isEmpty();
  }

  private boolean filtered(String attribute) {
    return filters.stream().anyMatch(filter -> filter.contains(attribute));
  }

  private List<String> filters() {
    List<String> found = new ArrayList<>();
    for (GroupId id : leading) {
      moment.directory().group(id).map(Group::form).ifPresent(form -> filter(form, found));
    }
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.GroupForm key
          && leading.contains(key.subject())
          && edit.wanted() != null) {
        filter(edit.wanted().value(), found);
      }
    }
    return found;
  }

  private static void filter(FactValue form, List<String> into) {
    if (form instanceof FactValue.Form.ByFilter(String filter)) {
      into.add(filter);
    }
  }

  // ---- mandates before and after

  /**
   * @param byRule only that somebody with every power is left
   */
  private void compare(boolean byRule) {
    Set<Instant> instants = instants();
    boolean all = byFilter();
    Map<FactValue.Terms, Set<PersonId>> gained = new LinkedHashMap<>();
    Map<FactValue.Terms, Set<PersonId>> lost = new LinkedHashMap<>();
    boolean[] nobody = {false};
    Instant last = ((TreeSet<Instant>) instants).last();
    AccessView.at(moment)
        .suppose(
            AccessView.Supposition.of(moment.facts(), edits, moves, moment.at()),
            instants,
            (instant, without, with, anew) -> {
              if (all || instants.contains(instant) || instant.equals(without.at())) {
                DirectoryView before = without.directory();
                DirectoryView after = with.directory();
                differ(before, after, gained);
                differ(after, before, lost);
                nobody[0] |= left(before) && !left(after);
              }
              return all || instant.isBefore(last);
            });
    if (!byRule) {
      gained.forEach((terms, people) -> given(terms, people, true));
      lost.forEach(
          (terms, people) -> {
            // Taken away by leaving: that needs no power but the one to see people out.
            people.removeIf(this::departs);
            given(terms, people, false);
          });
      returns().forEach((terms, people) -> given(terms, people, true));
    }
    if (nobody[0]) {
      problems.add(
          Problem.invalid(
              LAST,
              "",
              "Nobody who can sign in would hold every power. Give someone else the mandate “Steward” first."));
    }
  }

  /** The moments at which it may begin to differ who holds a mandate. */
  private Set<Instant> instants() {
    Set<Instant> found = new TreeSet<>(Set.of(moment.at()));
    for (Edit edit : edits) {
      if (carries(edit)) {
        bounds(edit.base(), found);
        bounds(edit.wanted(), found);
      }
    }
    moment
        .facts()
        .keys(FactKey.MandateHeld.class)
        .forEach(key -> moment.facts().spells(key).forEach(spell -> bounds(spell, found)));
    moment
        .facts()
        .keys(FactKey.Mandate.class)
        .forEach(key -> moment.facts().spells(key).forEach(spell -> bounds(spell, found)));
    for (GroupId group : leading) {
      for (FactKey key : moment.facts().about(group)) {
        moment.facts().from(key, moment.at()).forEach(spell -> bounds(spell, found));
      }
    }
    return found;
  }

  private void bounds(@Nullable Spell spell, Set<Instant> into) {
    if (spell != null) {
      for (Instant t : List.of(spell.from(), spell.until())) {
        if (t.isAfter(moment.at()) && t.isBefore(Moments.FOREVER)) {
          into.add(t);
        }
      }
    }
  }

  /** Who holds each mandate and has not departed, whether they are at work yet or not. */
  private static Map<MandateId, Set<PersonId>> holders(DirectoryView directory) {
    Map<MandateId, Set<PersonId>> found = new HashMap<>();
    for (DirectoryView.Mandate mandate : directory.mandates()) {
      Set<PersonId> people = new HashSet<>();
      for (ObjectId holder : mandate.holders()) {
        switch (holder) {
          case PersonId person -> people.add(person);
          case GroupId group -> people.addAll(directory.members(group));
          default -> {}
        }
      }
      people.removeIf(
          person ->
              directory.person(person).map(Person::status).orElse(PersonStatus.DEPARTED)
                  == PersonStatus.DEPARTED);
      found.put(mandate.id(), people);
    }
    return found;
  }

  /** Who holds what in one state that they do not hold in another. */
  private static void differ(
      DirectoryView without, DirectoryView with, Map<FactValue.Terms, Set<PersonId>> into) {
    Map<MandateId, Set<PersonId>> before = holders(without);
    Map<MandateId, FactValue.Terms> terms = new HashMap<>();
    without.mandates().forEach(mandate -> terms.put(mandate.id(), mandate.terms()));
    Map<MandateId, Set<PersonId>> after = holders(with);
    for (DirectoryView.Mandate mandate : with.mandates()) {
      Set<PersonId> more = new HashSet<>(after.getOrDefault(mandate.id(), Set.of()));
      if (Objects.equals(terms.get(mandate.id()), mandate.terms())) {
        more.removeAll(before.getOrDefault(mandate.id(), Set.of()));
      }
      if (!more.isEmpty()) {
        into.computeIfAbsent(mandate.terms(), t -> new LinkedHashSet<>()).addAll(more);
      }
    }
  }

  /** Whether somebody is active and holds every power. */
  private static boolean left(DirectoryView directory) {
    return directory.mandated().stream().anyMatch(p -> directory.authority(p).isWhole());
  }

  private boolean departs(PersonId person) {
    return edits.stream()
        .anyMatch(
            edit ->
                edit.key().equals(new FactKey.Status(person))
                    && edit.wanted() != null
                    && edit.wanted().value() instanceof FactValue.Standing standing
                    && standing.status() == PersonStatus.DEPARTED);
  }

  /** Whoever was paused and is let back to work, with the mandates that wait for them. */
  private Map<FactValue.Terms, Set<PersonId>> returns() {
    Map<FactValue.Terms, Set<PersonId>> found = new LinkedHashMap<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Status(PersonId person)
          && edit.wanted() != null
          && edit.wanted().value() instanceof FactValue.Standing wanted
          && wanted.status() == PersonStatus.ACTIVE
          && moment.facts().valueAt(edit.key(), edit.wanted().from())
              instanceof FactValue.Standing was
          && was.status() == PersonStatus.PAUSED) {
        for (DirectoryView.Mandate mandate : moment.directory().mandates()) {
          if (requireNonNull(now.get(mandate.id())).contains(person)) {
            found.computeIfAbsent(mandate.terms(), t -> new LinkedHashSet<>()).add(person);
          }
        }
      }
    }
    return found;
  }

  private void given(FactValue.Terms terms, Set<PersonId> people, boolean gain) {
    if (people.isEmpty()) {
      return;
    }
    String who = people.size() == 1 ? "1 person" : people.size() + " people";
    if (!actor.hasEverywhere(Power.MANDATES_EDIT) || !actor.covers(Identity.allowed(terms))) {
      problems.add(
          Problem.forbidden(
              "power-lacked",
              (gain
                      ? "This would give %s the mandate “%s”, which has powers you cannot give."
                      : "This would take from %s the mandate “%s”, which has powers you cannot take away.")
                  .formatted(who, terms.name())));
    } else if (gain
        && actor.person() != null
        && people.contains(actor.person())
        && SecondYes.othersCould(moment, Power.MANDATES_EDIT)) {
      problems.add(
          Problem.forbidden(
              "own-gain",
              "This would give you the mandate “%s”; someone else has to do that."
                  .formatted(terms.name())));
    }
  }

  // ---- owners and managers

  /** Whoever makes somebody an owner may do what owners may; of what they bring, they decide. */
  private void owners() {
    Set<ObjectId> fresh = new HashSet<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Existence key && edit.base() == null) {
        fresh.add(key.subject());
      }
    }
    Set<ObjectId> told = new HashSet<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Ownership key
          && edit.base() == null
          && !fresh.contains(key.subject())
          && !may(key.subject())
          && told.add(key.subject())) {
        problems.add(
            Problem.forbidden(
                "power-lacked",
                "Its owner could do things with it that you may not do yourself, so you cannot make anyone its owner."));
      }
    }
  }

  private boolean may(ObjectId thing) {
    if (!actor.answersFor(thing)) {
      return false;
    }
    if (!(thing instanceof GroupId group)) {
      return true;
    }
    // An owner fills the group, and so gives what it leads to.
    AccessView access = AccessView.at(moment);
    for (EntitlementId id : access.leadsTo(group)) {
      boolean gives =
          access
              .apps()
              .entitlement(id)
              .map(e -> actor.reaches(Power.ACCESS_GIVE, e.application(), null))
              .orElse(true);
      if (!gives) {
        return false;
      }
    }
    return true;
  }

  /** A manager sees what their people hold and decides what they ask for. */
  private void managers() {
    PersonId self = actor.person();
    if (self == null) {
      return;
    }
    String own = self.value().toString();
    long people =
        edits.stream()
            .filter(
                edit ->
                    edit.key() instanceof FactKey.Attribute key
                        && key.name().equals(Attributes.MANAGER)
                        && edit.wanted() != null
                        && edit.wanted().value().equals(new FactValue.Text(own))
                        && !(edit.base() != null
                            && edit.base().value().equals(edit.wanted().value()))
                        && takesOver(self, key.subject()))
            .count();
    if (people > 0) {
      problems.add(
          Problem.forbidden(
              "own-gain",
              "This would make you the manager of %s whose access you may not see; someone else"
                      .formatted(people == 1 ? "1 person" : people + " people")
                  + " has to do that."));
    }
  }

  private boolean takesOver(PersonId self, PersonId person) {
    Person known = moment.directory().person(person).orElse(null);
    if (known == null || moment.directory().team(self).contains(person)) {
      return false;
    }
    String unit = known.value(Attributes.UNIT);
    return !actor.reaches(Power.ACCESS_READ, unit) || !actor.reaches(Power.REQUESTS_STEP_IN, unit);
  }
}
