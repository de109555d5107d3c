package eleutheria.core.access;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.LedgerChain;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import org.jspecify.annotations.NullMarked;

/**
 * What some edits would move: who gains and who loses what, at the act and at each later moment at
 * which the states with and without them begin to differ anew: a day in the edits themselves, or
 * one that is on record already, as when someone joins a group that is given something from Monday
 * on. The engine tries it out; where there is none, both states are worked out whole and compared.
 */
@NullMarked
public record Effects(List<At> moments) {
  public static final Effects NONE = new Effects(List.of());

  /**
   * At one moment. Gain and loss are disjoint; both are of holdings, and {@code entitled…} of being
   * entitled, which a pause of person or application does not hide.
   */
  public record At(
      Instant at,
      Map<EntitlementId, Set<PersonId>> gain,
      Map<EntitlementId, Set<PersonId>> loss,
      Map<EntitlementId, Set<PersonId>> entitledGain,
      Map<EntitlementId, Set<PersonId>> entitledLoss) {
    static final Map<EntitlementId, Set<PersonId>> NOBODY = Map.of();

    /** No difference. */
    public static At nothing(Instant at) {
      return new At(at, NOBODY, NOBODY, NOBODY, NOBODY);
    }

    public boolean isEmpty() {
      return gain.isEmpty() && loss.isEmpty() && entitledGain.isEmpty() && entitledLoss.isEmpty();
    }

    /** Whether the same people gain and lose the same, at whatever moment. */
    public boolean same(At other) {
      return gain.equals(other.gain)
          && loss.equals(other.loss)
          && entitledGain.equals(other.entitledGain)
          && entitledLoss.equals(other.entitledLoss);
    }
  }

  /**
   * @param before the state that the edits were made for
   * @param moves what {@link Facts#apply} made of the edits
   */
  public static Effects of(
      Facts before, DirectoryView directory, List<Edit> edits, List<Move> moves, Instant at) {
    return of(before, directory, AccessView.of(before, directory, at), edits, moves, at);
  }

  /**
   * The same, where the state before is there already.
   *
   * @param now the state before, at any moment between the last boundary and the act
   */
  public static Effects of(
      Facts before,
      DirectoryView directory,
      AccessView now,
      List<Edit> edits,
      List<Move> moves,
      Instant at) {
    if (edits.stream().noneMatch(edit -> EffectMoments.matters(edit.key()))) {
      return NONE;
    }
    Optional<List<At>> tried = now.trial(moves, at);
    if (tried.isPresent()) {
      return new Effects(tried.get());
    }
    Facts after = before.with(moves);
    Set<Instant> instants = EffectMoments.of(before, after, directory, edits, at);
    List<At> moments = new ArrayList<>();
    At last = null;
    for (Instant instant : instants) {
      AccessView without =
          instant.equals(at)
              ? now
              : AccessView.of(before, directory.later(before, instant), instant);
      DirectoryView changed = directory.after(after, moves, instant);
      At next = between(without, AccessView.of(after, changed, instant), instant);
      if (!next.isEmpty() && (last == null || !next.same(last))) {
        moments.add(next);
      }
      last = next;
    }
    return new Effects(moments);
  }

  /** Gain and loss between two states. */
  public static At between(AccessView without, AccessView with, Instant instant) {
    Set<EntitlementId> all = new TreeSet<>();
    without.apps().entitlements().forEach(e -> all.add(e.id()));
    with.apps().entitlements().forEach(e -> all.add(e.id()));
    return new At(
        instant,
        missing(all, without::holders, with::holders),
        missing(all, with::holders, without::holders),
        missing(all, without::entitled, with::entitled),
        missing(all, with::entitled, without::entitled));
  }

  private interface Side extends java.util.function.Function<EntitlementId, Set<PersonId>> {}

  /** For each entitlement who is among the others and not among these. */
  private static Map<EntitlementId, Set<PersonId>> missing(
      Set<EntitlementId> all, Side these, Side others) {
    Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
    for (EntitlementId id : all) {
      Set<PersonId> one = these.apply(id);
      Set<PersonId> other = others.apply(id);
      if (one.equals(other)) {
        continue;
      }
      Set<PersonId> rest = new HashSet<>(other);
      rest.removeAll(one);
      if (!rest.isEmpty()) {
        found.put(id, Collections.unmodifiableSet(rest));
      }
    }
    return found;
  }

  /** Everyone who gains something at any moment of these, by entitlement. */
  public Map<EntitlementId, Set<PersonId>> gained() {
    return all(At::gain);
  }

  public Map<EntitlementId, Set<PersonId>> lost() {
    return all(At::loss);
  }

  Map<EntitlementId, Set<PersonId>> entitledGained() {
    return all(At::entitledGain);
  }

  Map<EntitlementId, Set<PersonId>> entitledLost() {
    return all(At::entitledLoss);
  }

  private Map<EntitlementId, Set<PersonId>> all(
      java.util.function.Function<At, Map<EntitlementId, Set<PersonId>>> side) {
    Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
    for (At moment : moments) {
      side.apply(moment).forEach((e, people) -> found.merge(e, people, People::or));
    }
    return found;
  }

  /**
   * A mark of who gains and loses what, for someone who has seen it and agrees. It does not depend
   * on ids that the act would give, nor on its instant.
   */
  public String digest() {
    BiFunction<String, Map<EntitlementId, Set<PersonId>>, List<String>> lines =
        (sign, side) -> {
          List<String> found = new ArrayList<>();
          side.forEach(
              (e, people) -> people.forEach(p -> found.add(sign + e.value() + " " + p.value())));
          return found;
        };
    TreeSet<String> all = new TreeSet<>(lines.apply("+", gained()));
    all.addAll(lines.apply("-", lost()));
    return LedgerChain.hash(String.join("\n", all));
  }
}
