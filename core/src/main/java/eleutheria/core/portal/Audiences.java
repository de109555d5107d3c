package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.People;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Who is in which audience at one moment: a union of people, groups, filters, everyone and the
 * first n days. Each set is worked out once.
 */
final class Audiences {
  private final AccessView access;
  private final Instant at;
  private final Map<Integer, Set<PersonId>> beginners = new HashMap<>();

  Audiences(AccessView access, Instant at) {
    this.access = access;
    this.at = at;
  }

  /** Everyone active in an audience. */
  Set<PersonId> active(FactValue.Audience audience) {
    Set<PersonId> active = access.active();
    if (audience.everyone()) {
      return active;
    }
    Set<PersonId> some = People.any(audience.subjects().stream().map(access::members).toList());
    return People.or(People.and(active, some), beginners(audience.firstDays()));
  }

  boolean has(FactValue.Audience audience, PersonId person) {
    return audience.everyone()
        || audience.subjects().stream().anyMatch(s -> access.members(s).contains(person))
        || (audience.firstDays() > 0 && beginners(audience.firstDays()).contains(person));
  }

  /** Whoever is active for less than n times 24 hours. */
  synchronized Set<PersonId> beginners(int days) {
    return days <= 0
        ? People.NOBODY
        : beginners.computeIfAbsent(days, n -> access.begunAfter(at.minus(Duration.ofDays(n))));
  }

  /**
   * When the first of those who are in an audience for their first days leaves it; {@link
   * Moments#FOREVER} if nobody does.
   */
  Instant until(Stream<FactValue.Audience> audiences) {
    return audiences
        .map(FactValue.Audience::firstDays)
        .filter(days -> days > 0)
        .distinct()
        .flatMap(
            days ->
                beginners(days).stream()
                    .flatMap(id -> access.directory().person(id).stream())
                    .map(person -> person.begun().plus(Duration.ofDays(days))))
        .min(Instant::compareTo)
        .orElse(Moments.FOREVER);
  }
}
