package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.FRONT_SEEN;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.Page;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Who has met a front page since it was changed last: noted then, and once a day after that. */
@Component
class FrontSeen {
  private static final Duration AGAIN = Duration.ofDays(1);

  private final DSLContext db;
  private final Clock clock;
  private final Cache<PersonId, Noted> noted =
      Caffeine.newBuilder().maximumSize(200_000).expireAfterWrite(AGAIN).build();

  private record Noted(FrontPageId page, Instant changed) {}

  FrontSeen(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  void meets(PersonId person, Page page) {
    Noted now = new Noted(page.id(), page.changed());
    if (now.equals(noted.getIfPresent(person))) {
      return;
    }
    Instant at = clock.instant();
    db.insertInto(FRONT_SEEN)
        .set(FRONT_SEEN.PERSON_ID, person.value())
        .set(FRONT_SEEN.FRONT_PAGE_ID, page.id().value())
        .set(FRONT_SEEN.SEEN_AT, at)
        .onDuplicateKeyUpdate()
        .set(FRONT_SEEN.SEEN_AT, at)
        .execute();
    noted.put(person, now);
  }

  /** Of some people, how many have met a page since it was changed last. */
  int seen(Page page, Set<PersonId> people) {
    Set<PersonId> met = new HashSet<>();
    db.select(FRONT_SEEN.PERSON_ID)
        .from(FRONT_SEEN)
        .where(
            FRONT_SEEN.FRONT_PAGE_ID.eq(page.id().value()), FRONT_SEEN.SEEN_AT.ge(page.changed()))
        .forEach(r -> met.add(new PersonId(r.value1())));
    met.removeIf(person -> !people.contains(person));
    return met.size();
  }
}
