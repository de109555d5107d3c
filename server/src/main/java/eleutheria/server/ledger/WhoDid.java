package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.ActName;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SortField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Who did the first or last act about a thing; one query for all that are asked about. */
@Component
public class WhoDid {
  private final DSLContext db;
  // What something began with never changes.
  private final Cache<UUID, Did> firsts = Caffeine.newBuilder().maximumSize(20_000).build();

  WhoDid(DSLContext db) {
    this.db = db;
  }

  /**
   * @param person null for the clock and the set-up
   * @param setup whether it was done when this was set up
   */
  public record Did(
      @Nullable PersonId person, boolean setup, ActName act, Instant at, long position) {}

  /** The act that each of these things began with. */
  public Map<UUID, Did> first(Collection<? extends ObjectId> things) {
    Map<UUID, Did> found = new HashMap<>();
    List<ObjectId> others = new ArrayList<>();
    for (ObjectId thing : things) {
      Did known = firsts.getIfPresent(thing.value());
      if (known == null) {
        others.add(thing);
      } else {
        found.put(thing.value(), known);
      }
    }
    Map<UUID, Did> asked = acts(others, LEDGER_OBJECT.POSITION.desc());
    firsts.putAll(asked);
    found.putAll(asked);
    return found;
  }

  /** The newest act about a thing. */
  public Optional<Did> last(ObjectId thing) {
    return Optional.ofNullable(
        acts(List.of(thing), LEDGER_OBJECT.POSITION.asc()).get(thing.value()));
  }

  /** The act at a position. */
  public Optional<Did> at(long position) {
    return db.selectFrom(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.POSITION.eq(position))
        .fetchOptional(WhoDid::did);
  }

  /** The acts at these instants; none for what came by itself. */
  public Map<Instant, Did> at(Collection<Instant> instants) {
    Map<Instant, Did> found = new HashMap<>();
    if (!instants.isEmpty()) {
      db.selectFrom(LEDGER_ENTRY)
          .where(LEDGER_ENTRY.INSTANT.in(instants))
          .forEach(row -> found.put(row.getInstant(), did(row)));
    }
    return found;
  }

  private Map<UUID, Did> acts(Collection<? extends ObjectId> things, SortField<Long> order) {
    Map<UUID, Did> found = new HashMap<>();
    if (things.isEmpty()) {
      return found;
    }
    // The last row of each thing wins.
    db.select(
            LEDGER_OBJECT.OBJECT_ID,
            LEDGER_ENTRY.ACTOR,
            LEDGER_ENTRY.ACT,
            LEDGER_ENTRY.INSTANT,
            LEDGER_ENTRY.POSITION)
        .from(LEDGER_OBJECT)
        .join(LEDGER_ENTRY)
        .on(LEDGER_ENTRY.POSITION.eq(LEDGER_OBJECT.POSITION))
        .where(LEDGER_OBJECT.OBJECT_ID.in(things.stream().map(ObjectId::value).toList()))
        .orderBy(order)
        .forEach(row -> found.put(row.get(LEDGER_OBJECT.OBJECT_ID), did(row)));
    return found;
  }

  private static Did did(Record row) {
    String actor = row.get(LEDGER_ENTRY.ACTOR);
    return new Did(
        actor.startsWith("person:") ? (PersonId) ObjectId.parse(actor) : null,
        actor.equals("setup"),
        ActName.of(row.get(LEDGER_ENTRY.ACT)),
        row.get(LEDGER_ENTRY.INSTANT),
        row.get(LEDGER_ENTRY.POSITION));
  }
}
