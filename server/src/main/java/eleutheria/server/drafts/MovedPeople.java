package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.LEDGER_ENTRY;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Effects;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.DraftStage;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.server.ledger.World;
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
  private final Cache<Told, Titles> told =
      Caffeine.newBuilder().maximumSize(4).expireAfterAccess(Duration.ofMinutes(5)).build();

  private record Told(DraftId draft, long position) {}

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
        new Told(id, Objects.requireNonNull(draft.position())),
        key -> {
          Instant at = instant(key.position());
          AccessView before = world.whole(just(at)).access();
          AccessView after = world.whole(at).access();
          return titles(before, after, before.differ(after));
        });
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
        new Told(draft.id(), position),
        key -> {
          List<DraftEdit> edits = store.edits(draft);
          return world.suppose(
              edits,
              Moments.next(clock.instant(), world.now().at()),
              (overlay, now, with) ->
                  titles(now.access(), with.access(), now.access().differ(with.access())));
        });
  }

  private static Titles titles(AccessView before, AccessView after, Effects.At differ) {
    return new Titles(byPerson(after, differ.gain()), byPerson(before, differ.loss()));
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
