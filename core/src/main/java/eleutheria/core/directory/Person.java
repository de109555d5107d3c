package eleutheria.core.directory;

import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A person at a moment.
 *
 * @param nameKey see {@link NameOrder}
 * @param begun when the time began in which the person is active or paused without a break; the
 *     same as {@code since} for who is neither
 * @param until when the status ends by itself, {@link Moments#FOREVER} if it does not
 * @param next the status that follows by itself, or null
 * @param attributes values by attribute name, in their order of text
 * @param links where the person comes from
 */
public record Person(
    PersonId id,
    FactValue.PersonName name,
    byte[] nameKey,
    FactValue.Standing standing,
    Instant since,
    Instant begun,
    Instant until,
    @Nullable PersonStatus next,
    Map<String, List<String>> attributes,
    List<SourceLink> links)
    implements Comparable<Person> {

  public PersonStatus status() {
    return standing.status();
  }

  public List<String> values(String attribute) {
    return attributes.getOrDefault(attribute, List.of());
  }

  /** The only or first value of an attribute, or null. */
  public @Nullable String value(String attribute) {
    List<String> values = values(attribute);
    return values.isEmpty() ? null : values.getFirst();
  }

  @Override
  public int compareTo(Person other) {
    int byName = Arrays.compareUnsigned(nameKey, other.nameKey);
    return byName != 0 ? byName : id.compareTo(other.id);
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof Person person
        && id.equals(person.id)
        && name.equals(person.name)
        && standing.equals(person.standing)
        && attributes.equals(person.attributes)
        && links.equals(person.links);
  }

  @Override
  public int hashCode() {
    return id.hashCode();
  }

  /**
   * Whether a text is part of one of their names, their sign-in name, an address or a number.
   *
   * @param bare as {@link Folding#bare} has it
   */
  public boolean foundBy(String bare) {
    return Stream.of(
            Stream.of(name.displayed(), name.familyFirst()),
            values(Attributes.USER_NAME).stream(),
            values(Attributes.MAIL).stream(),
            links.stream().map(link -> link.key()))
        .flatMap(texts -> texts)
        .anyMatch(text -> Folding.bare(text).contains(bare));
  }
}
