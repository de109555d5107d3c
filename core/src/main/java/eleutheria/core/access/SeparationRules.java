package eleutheria.core.access;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.NullMarked;

/**
 * The separation rules and their exceptions at one moment, and who breaks them. Over being
 * entitled, so that a pause of person or application hides nothing; whoever has departed breaks
 * none.
 *
 * <p>Cost: one intersection of sets for each pair of a rule.
 */
@NullMarked
public final class SeparationRules {
  private final List<Rule> rules;
  private final Map<Conflict, Instant> excepted;

  /**
   * @param from since when it is in force
   */
  public record Rule(RuleId id, FactValue.Separation terms, Instant from) {}

  private SeparationRules(List<Rule> rules, Map<Conflict, Instant> excepted) {
    this.rules = rules;
    this.excepted = excepted;
  }

  public static SeparationRules of(Facts facts, Instant at) {
    List<Rule> rules = new ArrayList<>();
    for (FactKey.SeparationRule key : facts.keys(FactKey.SeparationRule.class)) {
      facts
          .at(key, at)
          .ifPresent(
              spell ->
                  rules.add(
                      new Rule(key.subject(), (FactValue.Separation) spell.value(), spell.from())));
    }
    rules.sort(Comparator.comparing((Rule r) -> r.terms().name()).thenComparing(Rule::id));
    Map<Conflict, Instant> excepted = new HashMap<>();
    if (!rules.isEmpty()) {
      for (FactKey.Excepted key : facts.keys(FactKey.Excepted.class)) {
        facts
            .at(key, at)
            .ifPresent(
                spell ->
                    excepted.put(
                        new Conflict(key.subject(), key.person(), key.one(), key.other()),
                        spell.until()));
      }
    }
    return new SeparationRules(rules, excepted);
  }

  /** The moments to come at which rules or exceptions begin or end. */
  public static Set<Instant> moments(Facts facts, Instant after) {
    Set<Instant> found = new TreeSet<>();
    for (Class<? extends FactKey> kind :
        List.of(FactKey.SeparationRule.class, FactKey.Excepted.class)) {
      for (FactKey key : facts.keys(kind)) {
        for (Spell spell : facts.from(key, after)) {
          for (Instant t : List.of(spell.from(), spell.until())) {
            if (t.isAfter(after) && t.isBefore(Moments.FOREVER)) {
              found.add(t);
            }
          }
        }
      }
    }
    return found;
  }

  /** In order of name. */
  public List<Rule> rules() {
    return rules;
  }

  public Optional<Rule> rule(RuleId id) {
    return rules.stream().filter(rule -> rule.id().equals(id)).findFirst();
  }

  public boolean isEmpty() {
    return rules.isEmpty();
  }

  /** Every breach that is accepted now. */
  public Set<Conflict> accepted() {
    return excepted.keySet();
  }

  /** Until when a breach is accepted, if it is. */
  public Optional<Instant> accepted(Conflict conflict) {
    return Optional.ofNullable(excepted.get(conflict));
  }

  /** Every breach that nobody has accepted. */
  public Set<Conflict> conflicts(AccessView access) {
    Set<Conflict> found = breaches(access);
    found.removeAll(excepted.keySet());
    return found;
  }

  /** Every breach, accepted or not. */
  public Set<Conflict> breaches(AccessView access) {
    Set<Conflict> found = new LinkedHashSet<>();
    for (Rule rule : rules) {
      found.addAll(breaches(rule.id(), rule.terms(), access));
    }
    return found;
  }

  /** What a person would break, accepted or not, if they were given one more thing. */
  public List<Conflict> caused(AccessView access, PersonId person, EntitlementId gained) {
    List<Conflict> found = new ArrayList<>();
    if (access.entitled(person, gained)) {
      return found;
    }
    for (Rule rule : rules) {
      if (rule.terms().one().contains(gained)) {
        rule.terms().other().stream()
            .filter(other -> access.entitled(person, other))
            .sorted()
            .forEach(other -> found.add(new Conflict(rule.id(), person, gained, other)));
      }
      if (rule.terms().other().contains(gained)) {
        rule.terms().one().stream()
            .filter(one -> access.entitled(person, one))
            .sorted()
            .forEach(one -> found.add(new Conflict(rule.id(), person, one, gained)));
      }
    }
    return found;
  }

  /** Every breach of one rule, accepted or not, also of one that is not in force. */
  public static Set<Conflict> breaches(RuleId id, FactValue.Separation terms, AccessView access) {
    Set<Conflict> found = new LinkedHashSet<>();
    for (EntitlementId one : terms.one()) {
      Set<PersonId> first = access.entitled(one);
      if (first.isEmpty()) {
        continue;
      }
      for (EntitlementId other : terms.other()) {
        for (PersonId person : People.and(first, access.entitled(other))) {
          if (access
              .directory()
              .person(person)
              .filter(p -> p.status() != PersonStatus.DEPARTED)
              .isPresent()) {
            found.add(new Conflict(id, person, one, other));
          }
        }
      }
    }
    return found;
  }
}
