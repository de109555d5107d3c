package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.LEDGER_ENTRY;

import eleutheria.core.access.Effects;
import eleutheria.core.drafts.Draft;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.PortalView;
import eleutheria.server.ledger.World;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Whose access a published draft has moved, read from the states just before and at its publishing:
 * they are on record, so nothing else need be kept.
 */
@Component
public class MovedPeople {
  private final DSLContext db;
  private final DraftStore store;
  private final World world;

  MovedPeople(DSLContext db, DraftStore store, World world) {
    this.db = db;
    this.store = store;
    this.world = world;
  }

  /** What one person gained and lost, by title. */
  public record Moved(String draft, List<String> gained, List<String> lost) {}

  public Set<PersonId> of(DraftId id) {
    Draft draft = store.find(id).orElseThrow();
    Effects.At differ = differ(draft);
    Set<PersonId> all = new HashSet<>();
    differ.gain().values().forEach(all::addAll);
    differ.loss().values().forEach(all::addAll);
    return all;
  }

  public Moved of(DraftId id, PersonId person) {
    Draft draft = store.find(id).orElseThrow();
    Effects.At differ = differ(draft);
    return new Moved(
        draft.name(),
        titles(draft, differ.gain(), person, false),
        titles(draft, differ.loss(), person, true));
  }

  private List<String> titles(
      Draft draft, Map<EntitlementId, Set<PersonId>> side, PersonId person, boolean before) {
    PortalView at = world.whole(before ? just(instant(draft)) : instant(draft));
    List<String> titles = new ArrayList<>();
    side.forEach(
        (entitlement, people) -> {
          if (people.contains(person)) {
            at.access().apps().entitlement(entitlement).ifPresent(e -> titles.add(e.title()));
          }
        });
    return titles;
  }

  private Effects.At differ(Draft draft) {
    Instant at = instant(draft);
    return world.whole(just(at)).access().differ(world.whole(at).access());
  }

  private Instant instant(Draft draft) {
    return db.select(LEDGER_ENTRY.INSTANT)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.POSITION.eq(draft.position()))
        .fetchSingle(LEDGER_ENTRY.INSTANT);
  }

  private static Instant just(Instant at) {
    return at.minusNanos(1_000);
  }
}
