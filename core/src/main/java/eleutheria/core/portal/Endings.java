package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.BiPredicate;

/** What a person holds and will lose by itself within {@link Tidings#SOON}, and what stays. */
public final class Endings {
  private Endings() {}

  /**
   * @param stays what else they hold of the same application, that does not end with it
   * @param goes tiles that they can open until then and no longer
   * @param askable whether they could ask to keep it, and somebody would decide
   */
  public record Ending(
      Entitlement entitlement,
      Instant until,
      List<Entitlement> stays,
      List<Tile> goes,
      boolean askable) {
    /** By which it is hushed; another end is another notice. */
    public String word() {
      return entitlement.id().value() + " " + until.toEpochMilli();
    }
  }

  /**
   * In the order in which they end.
   *
   * @param resolves whether someone could decide if this person asked for this entitlement
   */
  public static List<Ending> of(
      PortalView portal,
      PersonId person,
      Instant now,
      BiPredicate<PersonId, EntitlementId> resolves) {
    AccessView access = portal.access();
    Instant horizon = now.plus(Tidings.SOON);
    List<Entitlement> held = access.holdings(person);
    List<Ending> found = new ArrayList<>();
    for (Entitlement each : held) {
      Instant until = access.ends(person, each.id());
      if (until == null || !until.isBefore(horizon)) {
        continue;
      }
      List<Entitlement> stays =
          held.stream()
              .filter(other -> other.application().equals(each.application()))
              .filter(other -> !other.id().equals(each.id()))
              .filter(
                  other -> {
                    Instant ends = access.ends(person, other.id());
                    return ends == null || ends.isAfter(until);
                  })
              .toList();
      List<Tile> goes =
          portal.tiles().stream()
              .filter(tile -> tile.face().needs().contains(each.id()))
              .filter(tile -> portal.open(tile))
              .filter(tile -> until.equals(Tidings.ends(access, person, tile)))
              .toList();
      found.add(
          new Ending(
              each,
              until,
              stays,
              goes,
              each.role().requestable() && resolves.test(person, each.id())));
    }
    found.sort(Comparator.comparing(Ending::until));
    return found;
  }
}
