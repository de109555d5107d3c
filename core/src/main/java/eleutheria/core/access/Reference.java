package eleutheria.core.access;

import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.NullMarked;

/**
 * The definitions of access, word for word, on the facts themselves at one moment.
 *
 * <p>It is meant to be read beside the definitions and believed, not to be fast: whatever answers
 * quicker is judged by it over random histories. It keeps nothing between queries.
 *
 * <ul>
 *   <li>{@code members*(g, t)}: people in g directly, through any chain, or by filter. Cycles are
 *       survived.
 *   <li>{@code entitled(p, e, t)}: a grant of e in force at t has p in its subject's {@code
 *       members*}.
 *   <li>{@code holds(p, e, t)}: entitled, p active, e's application open.
 *   <li>{@code since(p, e)}: the start of the unbroken time of holding.
 *   <li>{@code during(e, t1, t2)}: everyone who held it at any moment of the span.
 * </ul>
 */
@NullMarked
public final class Reference {
  private final Facts facts;

  public Reference(Facts facts) {
    this.facts = facts;
  }

  public boolean isMember(PersonId person, GroupId group, Instant t) {
    return isMember(person, group, t, new HashSet<>());
  }

  private boolean isMember(PersonId person, GroupId group, Instant t, Set<GroupId> seen) {
    if (!seen.add(group) || facts.valueAt(new FactKey.Existence(group), t) == null) {
      return false;
    }
    if (facts.valueAt(new FactKey.GroupForm(group), t)
        instanceof FactValue.Form.ByFilter byFilter) {
      if (fits(person, byFilter.filter(), t)) {
        return true;
      }
    } else if (facts.valueAt(new FactKey.Membership(group, person), t) != null
        && facts.valueAt(new FactKey.Existence(person), t) != null) {
      return true;
    }
    for (FactKey key : facts.about(group)) {
      if (key instanceof FactKey.Membership m
          && m.member() instanceof GroupId nested
          && facts.valueAt(key, t) != null
          && isMember(person, nested, t, seen)) {
        return true;
      }
    }
    return false;
  }

  /** Whether the person's own attributes fit; a filter that cannot be read fits nobody. */
  public boolean fits(PersonId person, String filter, Instant t) {
    List<FilterSchema.Field> fields = new ArrayList<>();
    for (FactKey.Defined key : facts.keys(FactKey.Defined.class)) {
      if (facts.valueAt(key, t) instanceof FactValue.Definition definition) {
        fields.add(new FilterSchema.Field(key.attribute(), definition.type()));
      }
    }
    return facts.valueAt(new FactKey.Existence(person), t) != null
        && FilterParser.parse(filter, new FilterSchema(fields))
            instanceof FilterParser.Parsed.Good good
        && matches(person, good.filter(), t);
  }

  private boolean matches(PersonId person, Filter filter, Instant t) {
    return filter.matches(
        name -> {
          List<String> values = new ArrayList<>();
          for (FactKey key : facts.about(person)) {
            if (key instanceof FactKey.Attribute attribute
                && attribute.name().equals(name)
                && facts.valueAt(key, t) instanceof FactValue.Text text) {
              values.add(text.text());
            }
          }
          return values;
        });
  }

  public boolean covers(FactValue.Subject subject, PersonId person, Instant t) {
    return switch (subject) {
      case FactValue.Subject.OfPerson s ->
          s.person().equals(person) && facts.valueAt(new FactKey.Existence(person), t) != null;
      case FactValue.Subject.OfGroup s -> isMember(person, s.group(), t);
      case FactValue.Subject.ByFilter s -> fits(person, s.filter(), t);
    };
  }

  public boolean entitled(PersonId person, EntitlementId entitlement, Instant t) {
    for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
      if (facts.valueAt(key, t) instanceof FactValue.Given given
          && given.entitlement().equals(entitlement)
          && facts.valueAt(new FactKey.Entitlement(entitlement), t) != null
          && covers(given.subject(), person, t)) {
        return true;
      }
    }
    return false;
  }

  public boolean holds(PersonId person, EntitlementId entitlement, Instant t) {
    return facts.valueAt(new FactKey.Status(person), t) instanceof FactValue.Standing standing
        && standing.status() == PersonStatus.ACTIVE
        && facts.valueAt(new FactKey.Entitlement(entitlement), t) instanceof FactValue.Role role
        && facts.valueAt(new FactKey.AppState(role.application()), t)
            instanceof FactValue.AppState state
        && state.state() == ApplicationState.OPEN
        && entitled(person, entitlement, t);
  }

  /** The first moment from {@code t} on at which the person does not hold it; FOREVER if none. */
  public Instant until(PersonId person, EntitlementId entitlement, Instant t) {
    return first(person, entitlement, t, at -> !holds(person, entitlement, at));
  }

  /** The first moment from {@code t} on at which the person is not entitled; FOREVER if none. */
  public Instant entitledUntil(PersonId person, EntitlementId entitlement, Instant t) {
    return first(person, entitlement, t, at -> !entitled(person, entitlement, at));
  }

  /** The first moment from {@code t} on at which a grant does not cover a person. */
  public Instant coveredUntil(Grant grant, PersonId person, Instant t) {
    EntitlementId entitlement = grant.given().entitlement();
    return first(
        person,
        entitlement,
        t,
        at ->
            !(facts.valueAt(new FactKey.Grant(grant.id()), at) instanceof FactValue.Given given
                && given.entitlement().equals(entitlement)
                && facts.valueAt(new FactKey.Entitlement(entitlement), at) != null
                && covers(given.subject(), person, at)));
  }

  private Instant first(
      PersonId person, EntitlementId entitlement, Instant t, Predicate<Instant> over) {
    for (Instant at : changes(person, entitlement, t, Moments.FOREVER)) {
      if (at.isBefore(Moments.FOREVER) && over.test(at)) {
        return at;
      }
    }
    return Moments.FOREVER;
  }

  /** A time of holding: from its start until just before its end. */
  public record Held(Instant from, Instant until) {}

  /**
   * The times in {@code [t1, t2)} at which the person holds it, joined where they touch. Facts
   * change at finitely many instants, and between two of them nothing changes.
   */
  public List<Held> during(PersonId person, EntitlementId entitlement, Instant t1, Instant t2) {
    List<Held> found = new ArrayList<>();
    Instant open = null;
    for (Instant t : changes(person, entitlement, t1, t2)) {
      boolean holds = t.isBefore(t2) && holds(person, entitlement, t);
      if (holds && open == null) {
        open = t;
      } else if (!holds && open != null) {
        found.add(new Held(open, t));
        open = null;
      }
    }
    return found;
  }

  /**
   * The start of the unbroken time of holding that {@code t} lies in.
   *
   * @throws IllegalArgumentException if the person does not hold it at {@code t}
   */
  public Instant since(PersonId person, EntitlementId entitlement, Instant t) {
    if (!holds(person, entitlement, t)) {
      throw new IllegalArgumentException("not held at " + t);
    }
    Instant start = t;
    TreeSet<Instant> before = changes(person, entitlement, Instant.EPOCH, t);
    for (Instant earlier : before.descendingSet()) {
      if (!holds(person, entitlement, earlier)) {
        return start;
      }
      start = earlier;
    }
    return start;
  }

  /** Both ends of a span, and every instant in it at which a fact changes that could matter. */
  private TreeSet<Instant> changes(PersonId p, EntitlementId e, Instant t1, Instant t2) {
    TreeSet<Instant> found = new TreeSet<>(Set.of(t1, t2));
    Set<FactKey> keys = new HashSet<>(facts.about(p));
    keys.addAll(facts.about(e));
    for (Spell spell : facts.spells(new FactKey.Entitlement(e))) {
      keys.add(new FactKey.AppState(((FactValue.Role) spell.value()).application()));
    }
    keys.addAll(facts.keys(FactKey.Defined.class));
    for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
      for (Spell spell : facts.spells(key)) {
        FactValue.Given given = (FactValue.Given) spell.value();
        if (given.entitlement().equals(e)) {
          keys.add(key);
          if (given.subject() instanceof FactValue.Subject.OfGroup group) {
            addGroup(keys, p, group.group(), new HashSet<>());
          }
        }
      }
    }
    for (FactKey key : keys) {
      for (Spell spell : facts.spells(key)) {
        for (Instant t : List.of(spell.from(), spell.until())) {
          if (t.isAfter(t1) && t.isBefore(t2) && t.isBefore(Moments.FOREVER)) {
            found.add(t);
          }
        }
      }
    }
    return found;
  }

  private void addGroup(Set<FactKey> keys, PersonId person, GroupId group, Set<GroupId> seen) {
    if (!seen.add(group)) {
      return;
    }
    for (FactKey key : facts.about(group)) {
      switch (key) {
        case FactKey.Membership m when m.member() instanceof GroupId nested -> {
          keys.add(key);
          addGroup(keys, person, nested, seen);
        }
        case FactKey.Membership m when m.member().equals(person) -> keys.add(key);
        case FactKey.Membership m -> {}
        default -> keys.add(key);
      }
    }
  }
}
