package eleutheria.core.access;

import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;

/**
 * Giving up what one holds oneself. A person ends what was given to them alone, and leaves groups
 * in which they are listed by an administrator; what a filter, a source or a group above them gives
 * stays, and so does whatever brings a power with it. Nobody needs a power for it, and nobody else
 * loses.
 */
@NullMarked
public final class HandBackDecisions {
  private HandBackDecisions() {}

  /**
   * @param grants to the person alone, that would end
   * @param groups that the person would leave
   * @param remains grounds that they cannot give up themselves
   */
  public record Plan(List<GrantId> grants, List<GroupId> groups, List<Ground> remains) {
    public boolean isEmpty() {
      return grants.isEmpty() && groups.isEmpty();
    }
  }

  /** What a person could do to give something up. */
  public static Plan plan(Moment moment, PersonId person, EntitlementId entitlement) {
    AccessView access = AccessView.at(moment);
    Set<GrantId> grants = new LinkedHashSet<>();
    Set<GroupId> groups = new LinkedHashSet<>();
    List<Ground> remains = new ArrayList<>();
    for (Ground ground : access.grounds(person, entitlement)) {
      if (ground.grant().given().subject() instanceof FactValue.Subject.OfPerson) {
        grants.add(ground.grant().id());
        continue;
      }
      List<Ground.Edge> own =
          ground.edges().stream().filter(edge -> edge.from().equals(person)).toList();
      if (!own.isEmpty() && own.stream().allMatch(edge -> leaves(moment, person, edge))) {
        own.forEach(edge -> groups.add(edge.to()));
      } else {
        remains.add(ground);
      }
    }
    return new Plan(List.copyOf(grants), List.copyOf(groups), remains);
  }

  private static boolean leaves(Moment moment, PersonId person, Ground.Edge edge) {
    return !edge.byFilter()
        && moment.directory().group(edge.to()).filter(Group::listed).isPresent()
        && GroupDecisions.mandatesReached(moment, edge.to(), Set.of(person)).isEmpty();
  }

  /**
   * @param seen the grants and groups that the person was shown
   */
  public static Outcome<EntitlementId> handBack(
      Moment moment,
      PersonId person,
      EntitlementId id,
      Set<GrantId> seenGrants,
      Set<GroupId> seenGroups) {
    AccessView access = AccessView.at(moment);
    Optional<Entitlement> entitlement = access.apps().entitlement(id);
    if (entitlement.isEmpty() || !access.entitled(person, id)) {
      return Outcome.refused(Problem.absent("holding"));
    }
    Plan plan = plan(moment, person, id);
    if (plan.isEmpty()) {
      return Outcome.refused(
          Problem.invalid(
              "hand-back.none",
              "",
              "Nothing of it is yours alone to give up; its owners can end it."));
    }
    if (!seenGrants.equals(Set.copyOf(plan.grants()))
        || !seenGroups.equals(Set.copyOf(plan.groups()))) {
      return Outcome.refused(
          Problem.stale("", "How you come to have it has changed meanwhile; look at it again."));
    }
    Edits edits = moment.edits();
    plan.grants().forEach(grant -> GrantDecisions.close(edits, grant));
    plan.groups().forEach(group -> edits.end(new FactKey.Membership(group, person)));
    List<ObjectId> named = new ArrayList<>(List.of(id, person));
    named.addAll(plan.groups());
    return Outcome.done(
            new Act(ActName.ACCESS_HAND_BACK, named, "", Map.of("grants", plan.grants().size())),
            edits.list(),
            id)
        .by(Outcome.Right.BY_RULE);
  }

  /** What the person would no longer be entitled to, at once, if they gave up what is planned. */
  public static Set<EntitlementId> loses(
      Moment moment, PersonId person, EntitlementId entitlement, Plan plan) {
    Outcome<EntitlementId> outcome =
        handBack(moment, person, entitlement, Set.copyOf(plan.grants()), Set.copyOf(plan.groups()));
    if (!(outcome instanceof Outcome.Done<EntitlementId> done)
        || !(moment.facts().apply(done.edits(), moment.at()) instanceof Applied.Moves moves)) {
      return Set.of();
    }
    return Effects.of(
            moment.facts(),
            moment.directory(),
            AccessView.at(moment),
            done.edits(),
            moves.moves(),
            moment.at())
        .moments()
        .stream()
        .filter(at -> at.at().equals(moment.at()))
        .flatMap(at -> at.entitledLoss().entrySet().stream())
        .filter(each -> each.getValue().contains(person))
        .map(Map.Entry::getKey)
        .collect(Collectors.toSet());
  }
}
