package eleutheria.server.access;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Effects;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.server.apps.EntitlementRef;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.web.ProblemView;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.NullMarked;

/**
 * What an act would move, before it is done.
 *
 * @param gain who gains what, at once or on a later day of the act
 * @param loss who loses what
 * @param keep how many of those it is about hold it now and lose it at no time by this
 * @param covered how many people it is about who have not departed
 * @param digest agreed to by sending it with the act
 * @param problems what stands in the way of the act
 */
@NullMarked
record EffectsView(
    List<EffectLine> gain,
    List<EffectLine> loss,
    int keep,
    int covered,
    String digest,
    List<ProblemView.Item> problems) {
  private static final int NAMED = 12;

  /**
   * @param at when it happens
   * @param named the first of them by name
   */
  record EffectLine(EntitlementRef entitlement, Instant at, int people, List<PersonLine> named) {}

  static EffectsView of(
      AccessView access, Effects effects, int keep, int covered, List<Problem> problems) {
    List<EffectLine> gain = new ArrayList<>();
    List<EffectLine> loss = new ArrayList<>();
    Map<EntitlementId, Set<PersonId>> gained = new HashMap<>();
    Map<EntitlementId, Set<PersonId>> lost = new HashMap<>();
    for (Effects.At moment : effects.moments()) {
      lines(access, gain, moment.at(), fresh(gained, moment.gain()));
      lines(access, loss, moment.at(), fresh(lost, moment.loss()));
    }
    return new EffectsView(
        gain,
        loss,
        keep,
        covered,
        effects.digest(),
        problems.stream()
            .map(p -> new ProblemView.Item(p.code(), p.field(), p.sentence()))
            .toList());
  }

  /** Those who are not among the told ones yet; each is told at the first moment of theirs. */
  private static Map<EntitlementId, Set<PersonId>> fresh(
      Map<EntitlementId, Set<PersonId>> told, Map<EntitlementId, Set<PersonId>> moved) {
    Map<EntitlementId, Set<PersonId>> fresh = new LinkedHashMap<>();
    moved.forEach(
        (id, people) -> {
          Set<PersonId> rest = new HashSet<>(people);
          rest.removeAll(told.getOrDefault(id, Set.of()));
          if (!rest.isEmpty()) {
            fresh.put(id, rest);
            told.computeIfAbsent(id, e -> new HashSet<>()).addAll(rest);
          }
        });
    return fresh;
  }

  private static void lines(
      AccessView access,
      List<EffectLine> lines,
      Instant at,
      Map<EntitlementId, Set<PersonId>> moved) {
    moved.forEach(
        (id, people) ->
            access
                .apps()
                .entitlement(id)
                .ifPresent(
                    e ->
                        lines.add(
                            new EffectLine(
                                EntitlementRef.of(access.apps(), e),
                                at,
                                people.size(),
                                people.stream()
                                    .flatMap(p -> access.directory().person(p).stream())
                                    .sorted()
                                    .limit(NAMED)
                                    .map((Person p) -> PersonLine.named(p))
                                    .toList()))));
  }
}
