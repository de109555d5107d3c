package eleutheria.core.departures;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Grant;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Ending everything of one person, at once and in one act. */
public final class DepartureDecisions {
  private DepartureDecisions() {}

  /**
   * Sets the status and ends grants by an administrator and on request, listed memberships and
   * mandates. What is mirrored or follows from a filter stays as a fact without effect, and the
   * slip says so. What the person owns alone stays theirs until somebody is named; the slip lists
   * it.
   *
   * @param openRequests how many requests of the person are open and end with this
   */
  public static Outcome<Slip> depart(Moment moment, PersonId id, int openRequests, String reason) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("person"));
    }
    Person person = found.get();
    List<Problem> problems = problems(moment, person, reason);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.DEPARTED));
    Slip slip = slip(moment, AccessView.at(moment), id, openRequests);
    // Grants to come end with those in force.
    for (FactKey.Grant key : moment.facts().keys(FactKey.Grant.class)) {
      boolean theirs =
          moment.facts().from(key, moment.at()).stream()
              .map(s -> ((FactValue.Given) s.value()).subject())
              .anyMatch(new FactValue.Subject.OfPerson(id)::equals);
      if (theirs) {
        GrantDecisions.close(edits, key.subject());
      }
    }
    slip.memberships().forEach(group -> edits.end(new FactKey.Membership(group, id)));
    slip.mandates().forEach(mandate -> edits.end(new FactKey.MandateHeld(mandate, id)));
    Deputies.end(moment.facts(), edits, id);
    List<ObjectId> objects = new ArrayList<>(List.of(id));
    slip.grants().forEach(g -> objects.add(g.grant()));
    objects.addAll(slip.memberships());
    return Outcome.done(
            new Act(
                ActName.DEPARTURE_RUN,
                objects,
                reason.strip(),
                Map.of(
                    "grants", slip.grants().size(),
                    "memberships", slip.memberships().size(),
                    "lost", slip.lost().size())),
            edits.list(),
            slip)
        .by(Outcome.Right.BY_RULE);
  }

  private static List<Problem> problems(Moment moment, Person person, String reason) {
    List<Problem> problems = new ArrayList<>();
    if (!moment.authority().reaches(Power.DEPARTURES_RUN, person.value(Attributes.UNIT))) {
      problems.add(
          Problem.forbidden(
              "power",
              "This needs the power “%s” for this unit: to %s."
                  .formatted(Power.DEPARTURES_RUN.word(), Power.DEPARTURES_RUN.line())));
    }
    if (person.id().equals(moment.authority().person())) {
      problems.add(Problem.forbidden("departure.own", "Nobody runs their own departure."));
    }
    if (person.status() == PersonStatus.DEPARTED) {
      problems.add(
          Problem.stale(
              "",
              "%s departed on %s."
                  .formatted(
                      person.name().displayed(),
                      person.since().atZone(moment.zone()).toLocalDate())));
    }
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid(
              "departure.no-reason", "reason", "Give a reason; it is kept in the ledger."));
    }
    AppDecisions.length(problems, "reason", reason, GrantDecisions.LONGEST_REASON);
    return problems;
  }

  /** What a departure at this moment would come to. */
  public static Slip slip(Moment moment, AccessView access, PersonId id, int openRequests) {
    DirectoryView directory = moment.directory();
    List<Slip.EndedGrant> grants = new ArrayList<>();
    for (Grant grant : access.grantsTo(id)) {
      grants.add(new Slip.EndedGrant(grant.id(), grant.given().entitlement()));
    }
    List<GroupId> memberships = new ArrayList<>();
    List<GroupId> mirrored = new ArrayList<>();
    List<GroupId> byFilter = new ArrayList<>();
    for (Group group : directory.groups()) {
      if (directory.direct(group.id()).contains(id)) {
        switch (group.form()) {
          case FactValue.Form.Listed f -> memberships.add(group.id());
          case FactValue.Form.Mirrored f -> mirrored.add(group.id());
          case FactValue.Form.ByFilter f -> byFilter.add(group.id());
        }
      }
    }
    List<MandateId> mandates =
        directory.mandates().stream()
            .filter(m -> m.holders().contains(id))
            .map(DirectoryView.Mandate::id)
            .toList();
    Set<EntitlementId> filterGrants = new LinkedHashSet<>();
    for (Entitlement e : access.entitlements(id)) {
      for (Grant grant : access.grants(e.id())) {
        if (grant.given().subject() instanceof FactValue.Subject.ByFilter
            && access.members(grant.given().subject()).contains(id)) {
          filterGrants.add(e.id());
        }
      }
    }
    return new Slip(
        id,
        moment.at(),
        grants,
        memberships,
        mandates,
        access.holdings(id).stream().map(Entitlement::id).toList(),
        mirrored,
        byFilter,
        List.copyOf(filterGrants),
        lone(directory, id),
        openRequests);
  }

  /** What a person owns and nobody else who is active owns beside. */
  public static List<ObjectId> lone(DirectoryView directory, PersonId id) {
    Set<ObjectId> found = new TreeSet<>();
    for (ObjectId thing : directory.owned(id)) {
      boolean other =
          directory.owners(thing).stream()
              .filter(owner -> !owner.equals(id))
              .flatMap(owner -> directory.person(owner).stream())
              .anyMatch(owner -> owner.status() == PersonStatus.ACTIVE);
      if (!other) {
        found.add(thing);
      }
    }
    return List.copyOf(found);
  }
}
