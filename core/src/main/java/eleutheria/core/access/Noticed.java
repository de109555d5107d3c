package eleutheria.core.access;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.NullMarked;

/** Who knew of what they lose. The end of anything else is no news to them. */
@NullMarked
public final class Noticed {
  /** Whoever has held something for so long knows of it, however they came by it. */
  public static final Duration AFTER = Duration.ofDays(1);

  private Noticed() {}

  /**
   * Of what is lost, what those who hold it know of: they have had it for a day, or asked for it,
   * or heard of it otherwise.
   *
   * @param earlier the state a day before, or as far back as there is one
   * @param before the state in which it is still held
   * @param heard by entitlement who was told of it, opened it, and so on in that day; asked only
   *     where it matters
   */
  public static Map<EntitlementId, Set<PersonId>> of(
      Map<EntitlementId, Set<PersonId>> loss,
      AccessView earlier,
      AccessView before,
      Supplier<List<Map<EntitlementId, Set<PersonId>>>> heard) {
    Map<EntitlementId, Set<PersonId>> found = new HashMap<>();
    Map<EntitlementId, Set<PersonId>> recent = new HashMap<>();
    loss.forEach(
        (id, people) ->
            people.forEach(
                person ->
                    (earlier.holds(person, id) || askedFor(before, person, id) ? found : recent)
                        .computeIfAbsent(id, none -> new HashSet<>())
                        .add(person)));
    if (!recent.isEmpty()) {
      for (Map<EntitlementId, Set<PersonId>> some : heard.get()) {
        recent.forEach(
            (id, people) ->
                people.stream()
                    .filter(some.getOrDefault(id, Set.of())::contains)
                    .forEach(p -> found.computeIfAbsent(id, none -> new HashSet<>()).add(p)));
      }
    }
    return found;
  }

  private static boolean askedFor(AccessView access, PersonId person, EntitlementId id) {
    return access.grounds(person, id).stream()
        .anyMatch(ground -> ground.grant().given().source() == GrantSource.REQUEST);
  }
}
