package eleutheria.core.access;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Errand;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiPredicate;
import org.jspecify.annotations.NullMarked;

/** Telling people some days before that something they asked for ends by itself. */
@NullMarked
public final class EndsSoon {
  /** How long before the end they are told, each time once. */
  public static final List<Duration> WARNINGS =
      List.of(Duration.ofDays(14), Duration.ofDays(3), Duration.ofDays(1));

  private EndsSoon() {}

  /** When to look again whether somebody is to be told. */
  public record Warning(Instant at, GrantId grant) {}

  /** The warnings that these moves of an act set: for a new grant, and for one whose end moves. */
  public static List<Warning> set(List<Move> moves, Instant instant) {
    List<Warning> found = new ArrayList<>();
    for (Move move : moves) {
      switch (move) {
        case Move.Opened opened ->
            warn(found, move.key(), opened.spell().value(), opened.spell().until(), instant);
        case Move.Ended ended ->
            warn(found, move.key(), ended.spell().value(), ended.until(), instant);
        case Move.Dropped dropped -> {}
      }
    }
    return found;
  }

  private static void warn(
      List<Warning> found, FactKey key, FactValue value, Instant until, Instant instant) {
    if (key instanceof FactKey.Grant grant
        && value instanceof FactValue.Given given
        && given.source() == GrantSource.REQUEST
        && until.isBefore(Moments.FOREVER)) {
      for (Duration before : WARNINGS) {
        if (until.minus(before).isAfter(instant)) {
          found.add(new Warning(until.minus(before), grant.subject()));
        }
      }
    }
  }

  /**
   * Whom to tell at the moment of a warning: nobody whose grant's end has moved since, nobody for
   * whom something else holds it on, and nobody who has asked to keep it.
   *
   * @param asked whether somebody has asked for an entitlement, and waits for the decision
   */
  public static List<Errand.TellOfEnd> tell(
      AccessView access,
      Instant due,
      List<GrantId> grants,
      BiPredicate<PersonId, EntitlementId> asked) {
    List<Errand.TellOfEnd> found = new ArrayList<>();
    for (GrantId id : grants) {
      Optional<Grant> grant = access.grant(id);
      if (grant.isPresent()
          && WARNINGS.contains(Duration.between(due, grant.get().until()))
          && grant.get().given().subject() instanceof FactValue.Subject.OfPerson to
          && grant.get().until().equals(access.ends(to.person(), grant.get().given().entitlement()))
          && !asked.test(to.person(), grant.get().given().entitlement())) {
        found.add(new Errand.TellOfEnd(to.person(), id));
      }
    }
    return found;
  }
}
