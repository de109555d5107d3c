package eleutheria.server.departures;

import static eleutheria.server.tables.Tables.DEPARTURE;

import eleutheria.core.departures.Slip;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** The slips of departures, as they were then. */
@Repository
class Slips {
  private final DSLContext db;
  private final JsonMapper json;

  Slips(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  /** What is kept of a slip: ids only. */
  record Kept(
      Instant at,
      List<String> grants,
      List<UUID> memberships,
      List<UUID> mandates,
      List<UUID> lost,
      List<UUID> mirrored,
      List<UUID> byFilter,
      List<UUID> filterGrants,
      List<String> lone,
      int requests) {
    static Kept of(Slip slip) {
      return new Kept(
          slip.at(),
          slip.grants().stream().map(g -> g.entitlement().value().toString()).toList(),
          ids(slip.memberships()),
          ids(slip.mandates()),
          ids(slip.lost()),
          ids(slip.mirrored()),
          ids(slip.byFilter()),
          ids(slip.filterGrants()),
          slip.lone().stream().map(ObjectId::text).toList(),
          slip.requests());
    }

    private static List<UUID> ids(List<? extends ObjectId> things) {
      return things.stream().map(ObjectId::value).toList();
    }
  }

  /**
   * @param position of the entry of the departure
   */
  record Filed(Kept slip, long position) {}

  void keep(DSLContext tx, PersonId person, long position, Slip slip) {
    tx.insertInto(DEPARTURE)
        .set(DEPARTURE.PERSON_ID, person.value())
        .set(DEPARTURE.POSITION, position)
        .set(DEPARTURE.SLIP, json.writeValueAsString(Kept.of(slip)))
        .execute();
  }

  Optional<Filed> newest(PersonId person) {
    return db.selectFrom(DEPARTURE)
        .where(DEPARTURE.PERSON_ID.eq(person.value()))
        .orderBy(DEPARTURE.POSITION.desc())
        .limit(1)
        .fetchOptional(r -> new Filed(json.readValue(r.getSlip(), Kept.class), r.getPosition()));
  }
}
