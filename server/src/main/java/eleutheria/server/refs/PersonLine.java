package eleutheria.server.refs;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.Reading;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A person in a list. */
public record PersonLine(
    String id,
    String familyFirst,
    String displayed,
    String status,
    Instant since,
    @Nullable String unit,
    @Nullable String site,
    @Nullable String title,
    @Nullable String userName) {

  /** A name in a list of names; whoever has departed is called so. */
  public static String called(Person person) {
    return person.status() == PersonStatus.DEPARTED
        ? person.name().displayed() + " (departed)"
        : person.name().displayed();
  }

  /** Only what is needed to know whom one names. */
  public static PersonLine named(Person person) {
    return new PersonLine(
        person.id().value().toString(),
        person.name().familyFirst(),
        person.name().displayed(),
        person.status().word(),
        person.since(),
        person.value(Attributes.UNIT),
        null,
        null,
        null);
  }

  public static PersonLine of(Person person) {
    return new PersonLine(
        person.id().value().toString(),
        person.name().familyFirst(),
        person.name().displayed(),
        person.status().word(),
        person.since(),
        person.value(Attributes.UNIT),
        person.value(Attributes.SITE),
        person.value(Attributes.TITLE),
        person.value(Attributes.USER_NAME));
  }

  /** A person as a reader may see them. */
  public static PersonLine by(Reading reading, Person person) {
    return reading.seesPerson(person.id()) ? of(person) : named(person);
  }

  public static PersonLine by(AccessReach reach, Person person) {
    return reach.seesPerson(person) ? of(person) : named(person);
  }
}
