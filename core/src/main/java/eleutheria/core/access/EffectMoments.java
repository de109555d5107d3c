package eleutheria.core.access;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * The moments at which some edits can begin to matter: the act, the days in the edits, and those
 * boundaries on record that the edits touch by person and entitlement. It may name too many, never
 * too few; the facts are read once.
 */
@NullMarked
final class EffectMoments {
  private final Facts[] states;
  private final DirectoryView directory;
  private final Instant at;
  private final Set<Instant> found = new TreeSet<>();
  private final Set<PersonId> people = new HashSet<>();
  private final Set<GroupId> groups = new HashSet<>();
  private final Set<EntitlementId> roles = new HashSet<>();
  private boolean everyone;
  private boolean everything;

  private EffectMoments(Facts before, Facts after, DirectoryView directory, Instant at) {
    this.states = new Facts[] {before, after};
    this.directory = directory;
    this.at = at;
  }

  /**
   * Whether an edit of this key can move access at all. All kinds are named, so that a new one has
   * to be decided on.
   */
  static boolean matters(FactKey key) {
    return switch (key) {
      case FactKey.Grant k -> true;
      case FactKey.Membership k -> true;
      case FactKey.GroupForm k -> true;
      case FactKey.Attribute k -> true;
      case FactKey.Existence k -> true;
      case FactKey.Status k -> true;
      case FactKey.Defined k -> true;
      case FactKey.AppState k -> true;
      case FactKey.Entitlement k -> true;
      case FactKey.Naming k -> false;
      case FactKey.Link k -> false;
      case FactKey.GroupName k -> false;
      case FactKey.Ownership k -> false;
      case FactKey.Mandate k -> false;
      case FactKey.MandateHeld k -> false;
      case FactKey.Source k -> false;
      case FactKey.Application k -> false;
      case FactKey.WayIn k -> false;
      case FactKey.Seats k -> false;
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

  static Set<Instant> of(
      Facts before, Facts after, DirectoryView directory, List<Edit> edits, Instant at) {
    EffectMoments moments = new EffectMoments(before, after, directory, at);
    moments.found.add(at);
    for (Edit edit : edits) {
      if (matters(edit.key())) {
        moments.boundaries(edit.base());
        moments.boundaries(edit.wanted());
        moments.touch(edit);
      }
    }
    moments.addUpwards();
    moments.addGrants();
    moments.addPeople();
    return moments.found;
  }

  private void boundaries(@Nullable Spell spell) {
    if (spell != null) {
      for (Instant t : List.of(spell.from(), spell.until())) {
        if (t.isAfter(at) && t.isBefore(Moments.FOREVER)) {
          found.add(t);
        }
      }
    }
  }

  private void touch(Edit edit) {
    switch (edit.key()) {
      case FactKey.Grant k -> {
        touch(edit.base());
        touch(edit.wanted());
      }
      case FactKey.Membership k -> {
        groups.add(k.subject());
        switch (k.member()) {
          case PersonId person -> people.add(person);
          case GroupId nested -> people.addAll(directory.members(nested));
          default -> {}
        }
      }
      case FactKey.GroupForm k -> {
        groups.add(k.subject());
        everyone = true;
      }
      case FactKey.Existence k -> {
        switch (k.subject()) {
          case PersonId person -> touch(person);
          case GroupId group -> {
            groups.add(group);
            people.addAll(directory.members(group));
          }
          default -> {}
        }
      }
      case FactKey.Attribute k -> touch(k.subject());
      case FactKey.Status k -> touch(k.subject());
      case FactKey.AppState k -> touch(k.subject());
      case FactKey.Entitlement k -> {
        roles.add(k.subject());
        everyone = true;
      }
      case FactKey.Defined k -> {
        everyone = true;
        everything = true;
      }
      // What cannot move access has been left out before (matters).
      case FactKey.Naming k -> {}
      case FactKey.Link k -> {}
      case FactKey.GroupName k -> {}
      case FactKey.Ownership k -> {}
      case FactKey.Source k -> {}
      case FactKey.Application k -> {}
      case FactKey.WayIn k -> {}
      case FactKey.Seats k -> {}
      case FactKey.GrantReason k -> {}
      case FactKey.SeparationRule k -> {}
      case FactKey.Excepted k -> {}
      case FactKey.OfMandates k -> {}
      case FactKey.OfRequests k -> {}
      case FactKey.OfPortal k -> {}
      case FactKey.OfSelfService k -> {}
    }
  }

  private void touch(PersonId person) {
    people.add(person);
    everything = true;
  }

  private void touch(ApplicationId app) {
    for (Facts facts : states) {
      for (FactKey.Entitlement key : facts.keys(FactKey.Entitlement.class)) {
        if (facts.spells(key).stream()
            .anyMatch(s -> s.value() instanceof FactValue.Role r && r.application().equals(app))) {
          roles.add(key.subject());
        }
      }
    }
    everyone = true;
  }

  private void touch(@Nullable Spell spell) {
    if (spell != null && spell.value() instanceof FactValue.Given given) {
      roles.add(given.entitlement());
      switch (given.subject()) {
        case FactValue.Subject.OfPerson s -> people.add(s.person());
        case FactValue.Subject.OfGroup s -> people.addAll(directory.members(s.group()));
        case FactValue.Subject.ByFilter s -> everyone = true;
      }
    }
  }

  /** Every group that a touched one is in, now or later. */
  private void addUpwards() {
    if (groups.isEmpty()) {
      return;
    }
    Map<GroupId, List<GroupId>> parents = new HashMap<>();
    for (Facts facts : states) {
      for (FactKey.Membership key : facts.keys(FactKey.Membership.class)) {
        if (key.member() instanceof GroupId nested && !over(facts, key)) {
          parents.computeIfAbsent(nested, n -> new ArrayList<>()).add(key.subject());
        }
      }
    }
    Deque<GroupId> open = new ArrayDeque<>(groups);
    while (!open.isEmpty()) {
      for (GroupId parent : parents.getOrDefault(open.pop(), List.of())) {
        if (groups.add(parent)) {
          open.push(parent);
        }
      }
    }
  }

  private boolean over(Facts facts, FactKey key) {
    return facts.spells(key).stream().noneMatch(s -> s.until().isAfter(at));
  }

  /** What touched groups lead to is touched; then each grant of it that has a day to come. */
  private void addGrants() {
    for (Facts facts : states) {
      for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
        for (Spell spell : facts.spells(key)) {
          if (spell.until().isAfter(at)
              && spell.value() instanceof FactValue.Given given
              && given.subject() instanceof FactValue.Subject.OfGroup of
              && groups.contains(of.group())) {
            roles.add(given.entitlement());
          }
        }
      }
    }
    for (Facts facts : states) {
      for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
        for (Spell spell : facts.spells(key)) {
          if (spell.value() instanceof FactValue.Given given
              && (everything || roles.contains(given.entitlement()))
              && (!(given.subject() instanceof FactValue.Subject.OfPerson of)
                  || everyone
                  || people.contains(of.person()))) {
            boundaries(spell);
          }
        }
      }
    }
  }

  /** Days to come of touched people, and of the ways between groups. */
  private void addPeople() {
    for (Facts facts : states) {
      for (FactKey.Membership key : facts.keys(FactKey.Membership.class)) {
        if (!(key.member() instanceof PersonId person) || everyone || people.contains(person)) {
          facts.spells(key).forEach(this::boundaries);
        }
      }
      for (PersonId person : people) {
        facts.spells(new FactKey.Status(person)).forEach(this::boundaries);
      }
    }
  }
}
