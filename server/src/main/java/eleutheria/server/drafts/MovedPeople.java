package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.DRAFT;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.OPENING;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Effects;
import eleutheria.core.access.Noticed;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.DraftStage;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.state.World;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
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

  private final Clock clock;
  // Each of them is sent a mail, and they are many.
  private final Cache<Notified, Titles> told =
      Caffeine.newBuilder().maximumSize(4).expireAfterAccess(Duration.ofMinutes(5)).build();

  private record Notified(DraftId draft, long position) {}

  MovedPeople(DSLContext db, DraftStore store, World world, Clock clock) {
    this.db = db;
    this.store = store;
    this.world = world;
    this.clock = clock;
  }

  /** What one person gained and lost, by title. */
  public record Moved(List<String> gained, List<String> lost) {}

  /**
   * What a draft will do to one person.
   *
   * @param at when it is published
   */
  public record Ahead(Instant at, Moved moved) {}

  /** Titles by person. */
  private record Titles(Map<PersonId, List<String>> gained, Map<PersonId, List<String>> lost) {
    Moved of(PersonId person) {
      return new Moved(
          gained.getOrDefault(person, List.of()), lost.getOrDefault(person, List.of()));
    }

    Set<PersonId> people() {
      Set<PersonId> all = new HashSet<>(gained.keySet());
      all.addAll(lost.keySet());
      return all;
    }
  }

  public Set<PersonId> of(DraftId id) {
    return published(id).people();
  }

  public Moved of(DraftId id, PersonId person) {
    return published(id).of(person);
  }

  private Titles published(DraftId id) {
    Draft draft = store.find(id).orElseThrow();
    return told.get(
        new Notified(id, Objects.requireNonNull(draft.position())),
        key -> {
          Instant at = instant(key.position());
          PortalView before = world.whole(just(at));
          AccessView after = world.whole(at).access();
          Effects.At differ = before.access().differ(after);
          return new Titles(
              byPerson(after, differ.gain()),
              byPerson(before.access(), known(before, differ.loss(), at)));
        });
  }

  /** Of what is lost at a moment, what those who held it knew of. */
  private Map<EntitlementId, Set<PersonId>> known(
      PortalView before, Map<EntitlementId, Set<PersonId>> loss, Instant at) {
    Instant begins = Objects.requireNonNull(world.begins());
    Instant earlier = at.minus(Noticed.AFTER);
    return Noticed.of(
        loss,
        world.whole(earlier.isBefore(begins) ? begins : earlier).access(),
        before.access(),
        () -> List.of(toldOf(earlier, at), opened(before, earlier, at)));
  }

  /** Who was told between two instants that they have got something. */
  private Map<EntitlementId, Set<PersonId>> toldOf(Instant from, Instant until) {
    Map<EntitlementId, Set<PersonId>> found = new HashMap<>();
    db.select(LEDGER_ENTRY.INSTANT)
        .from(DRAFT)
        .join(LEDGER_ENTRY)
        .on(LEDGER_ENTRY.POSITION.eq(DRAFT.PUBLISHED_POSITION))
        .where(
            DRAFT.TOLD.isTrue(),
            LEDGER_ENTRY.INSTANT.greaterOrEqual(from),
            LEDGER_ENTRY.INSTANT.lessThan(until))
        .fetch(LEDGER_ENTRY.INSTANT)
        .forEach(
            at ->
                world
                    .whole(just(at))
                    .access()
                    .differ(world.whole(at).access())
                    .gain()
                    .forEach(
                        (id, people) ->
                            found.computeIfAbsent(id, none -> new HashSet<>()).addAll(people)));
    return found;
  }

  /** Who opened a tile of something between two instants. */
  private Map<EntitlementId, Set<PersonId>> opened(PortalView portal, Instant from, Instant until) {
    Map<UUID, Set<PersonId>> openers = new HashMap<>();
    db.selectDistinct(OPENING.TILE_ID, OPENING.PERSON_ID)
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.greaterOrEqual(from), OPENING.HAPPENED_AT.lessThan(until))
        .forEach(
            row ->
                openers
                    .computeIfAbsent(row.value1(), none -> new HashSet<>())
                    .add(new PersonId(row.value2())));
    Map<EntitlementId, Set<PersonId>> found = new HashMap<>();
    for (Tile tile : portal.tiles()) {
      Set<PersonId> people = openers.getOrDefault(tile.id().value(), Set.of());
      tile.face()
          .needs()
          .forEach(id -> found.computeIfAbsent(id, none -> new HashSet<>()).addAll(people));
    }
    return found;
  }

  /**
   * Whom a draft will move, as things stand now; nobody if it is not set for its moment any more.
   *
   * @param position of the entry by which it was set
   */
  public Set<PersonId> ahead(DraftId id, long position) {
    return scheduled(id).map(draft -> ahead(draft, position).people()).orElse(Set.of());
  }

  public Optional<Ahead> ahead(DraftId id, long position, PersonId person) {
    return scheduled(id)
        .map(
            draft ->
                new Ahead(
                    Objects.requireNonNull(Objects.requireNonNull(draft.plan()).at()),
                    ahead(draft, position).of(person)));
  }

  private Optional<Draft> scheduled(DraftId id) {
    return store
        .find(id)
        .filter(
            d -> d.stage() == DraftStage.SCHEDULED && d.plan() != null && d.plan().at() != null);
  }

  private Titles ahead(Draft draft, long position) {
    return told.get(
        new Notified(draft.id(), position),
        key -> {
          List<DraftEdit> edits = store.edits(draft);
          return world.suppose(
              edits,
              Moments.next(clock.instant(), world.now().at()),
              (overlay, now, with) -> {
                Effects.At differ = now.access().differ(with.access());
                return new Titles(
                    byPerson(with.access(), differ.gain()),
                    byPerson(now.access(), known(now, differ.loss(), now.access().at())));
              });
        });
  }

  private static Map<PersonId, List<String>> byPerson(
      AccessView access, Map<EntitlementId, Set<PersonId>> side) {
    Map<PersonId, List<String>> found = new HashMap<>();
    side.forEach(
        (id, people) -> {
          String title = access.apps().entitlement(id).map(Entitlement::title).orElse("");
          people.forEach(p -> found.computeIfAbsent(p, k -> new ArrayList<>()).add(title));
        });
    return found;
  }

  private Instant instant(long position) {
    return db.select(LEDGER_ENTRY.INSTANT)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.POSITION.eq(position))
        .fetchSingle(LEDGER_ENTRY.INSTANT);
  }

  private static Instant just(Instant at) {
    return at.minusNanos(1_000);
  }
}
