package eleutheria.server.refs;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ValueType;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * A person's page.
 *
 * @param since the instant from which the status holds
 * @param stated the day that a source gave when it was learnt late
 * @param until when the status ends by itself; null if it does not
 * @param next the status that follows then
 * @param leads how many people have this one as their manager
 * @param erased whether their personal data were erased
 */
public record PersonView(
    String id,
    String displayed,
    String familyFirst,
    String status,
    Instant since,
    @Nullable LocalDate stated,
    @Nullable Instant until,
    @Nullable String next,
    List<PersonAttribute> attributes,
    List<PersonGroup> groups,
    List<PersonSource> sources,
    int leads,
    boolean erased) {

  /**
   * @param source the source that owns the attribute, so that it is read-only here
   */
  public record PersonAttribute(
      String name, String label, List<ValueView> values, @Nullable String source) {}

  /**
   * @param person the id, where the value is a person
   */
  public record ValueView(String text, @Nullable String person) {}

  /**
   * @param chain from the group the person is in directly to this one, both included
   * @param form listed, mirrored or filter: how the first group of the chain gets its members
   */
  public record PersonGroup(String id, String name, String form, List<GroupRef> chain) {}

  public record GroupRef(String id, String name) {}

  public record PersonSource(String id, String name, String key, Instant since) {}

  /**
   * @param seen which groups may be shown
   */
  public static PersonView of(DirectoryView directory, Person person, Predicate<Group> seen) {
    return new PersonView(
        person.id().value().toString(),
        person.name().displayed(),
        person.name().familyFirst(),
        person.status().word(),
        person.since(),
        person.standing().stated(),
        person.until().equals(Moments.FOREVER) ? null : person.until(),
        person.next() == null ? null : person.next().word(),
        attributes(directory, person),
        groups(directory, person, seen),
        sources(directory, person),
        leads(directory, person.id()),
        person.name().equals(FactValue.PersonName.ERASED));
  }

  private static List<PersonAttribute> attributes(DirectoryView directory, Person person) {
    List<PersonAttribute> lines = new ArrayList<>();
    directory
        .definitions()
        .forEach(
            (name, definition) -> {
              List<String> values = person.values(name);
              if (!values.isEmpty()) {
                lines.add(
                    new PersonAttribute(
                        name,
                        definition.label(),
                        values.stream().map(v -> value(directory, definition, v)).toList(),
                        owner(directory, person, definition)));
              }
            });
    lines.sort(Comparator.comparing(line -> line.label().toLowerCase(Locale.ROOT)));
    return lines;
  }

  /** The source that owns a value: the attribute's, if the person comes from there. */
  private static @Nullable String owner(
      DirectoryView directory, Person person, FactValue.Definition definition) {
    eleutheria.core.facts.SourceId source = definition.source();
    return source != null && person.links().stream().anyMatch(l -> l.source().equals(source))
        ? sourceName(directory, source)
        : null;
  }

  private static ValueView value(
      DirectoryView directory, FactValue.Definition definition, String value) {
    if (definition.type() != ValueType.PERSON) {
      return new ValueView(value, null);
    }
    return directory
        .person(PersonId.parse(value))
        .map(p -> new ValueView(p.name().displayed(), value))
        .orElse(new ValueView("someone who is not on record", null));
  }

  private static List<PersonGroup> groups(
      DirectoryView directory, Person person, Predicate<Group> seen) {
    List<PersonGroup> lines = new ArrayList<>();
    for (DirectoryView.Belonging belonging : directory.groupsOf(person.id())) {
      Group group = directory.group(belonging.group()).orElseThrow();
      if (seen.test(group)) {
        lines.add(
            new PersonGroup(
                group.id().value().toString(),
                group.name(),
                form(directory.group(belonging.chain().getFirst()).orElseThrow()),
                belonging.chain().stream().map(id -> ref(directory, id)).toList()));
      }
    }
    lines.sort(
        Comparator.comparing((PersonGroup line) -> line.chain().size())
            .thenComparing(line -> line.name().toLowerCase(Locale.ROOT)));
    return lines;
  }

  public static String form(Group group) {
    return switch (group.form()) {
      case FactValue.Form.Listed f -> "listed";
      case FactValue.Form.Mirrored f -> "mirrored";
      case FactValue.Form.ByFilter f -> "filter";
    };
  }

  public static GroupRef ref(DirectoryView directory, GroupId id) {
    return new GroupRef(
        id.value().toString(), directory.group(id).map(Group::name).orElse(id.text()));
  }

  private static List<PersonSource> sources(DirectoryView directory, Person person) {
    return person.links().stream()
        .map(
            link ->
                new PersonSource(
                    link.source().value().toString(),
                    sourceName(directory, link.source()),
                    link.key(),
                    link.since()))
        .toList();
  }

  public static String sourceName(DirectoryView directory, eleutheria.core.facts.SourceId source) {
    FactValue.Delivery known = directory.sources().get(source);
    return known == null ? "a source" : known.name();
  }

  private static int leads(DirectoryView directory, PersonId id) {
    String wanted = id.value().toString();
    return (int)
        directory.people().stream()
            .filter(
                p ->
                    p.status() != eleutheria.core.facts.PersonStatus.DEPARTED
                        && wanted.equals(p.value(eleutheria.core.directory.Attributes.MANAGER)))
            .count();
  }
}
