package eleutheria.server.refs;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Somebody as a colleague may know them: no more than tells two of the same name apart. */
public record Colleague(UUID id, String name, @Nullable String unit) {
  public static Colleague of(Person person) {
    return new Colleague(
        person.id().value(), person.name().displayed(), person.value(Attributes.UNIT));
  }
}
