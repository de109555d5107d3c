package eleutheria.server.refs;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * To whom something is given or shown.
 *
 * @param kind person, group or filter
 * @param id of the person or group; null for a filter
 * @param name as it is read; a filter in words
 * @param filter the filter itself (RFC 7644, section 3.4.2.2); null for a person or group
 * @param people how many it covers who have not departed
 */
public record SubjectView(
    String kind, @Nullable String id, String name, @Nullable String filter, int people) {

  /** The same as it is sent. */
  public record SubjectForm(
      @NotNull @Size(max = 10) String kind,
      @Nullable UUID id,
      @Nullable @Size(max = 8000) String filter) {
    /**
     * @throws IllegalArgumentException if it is none of the three
     */
    public FactValue.Subject subject() {
      UUID of = id == null ? new UUID(0, 0) : id;
      return switch (kind) {
        case "person" -> new FactValue.Subject.OfPerson(new PersonId(of));
        case "group" -> new FactValue.Subject.OfGroup(new GroupId(of));
        case "filter" -> new FactValue.Subject.ByFilter(filter == null ? "" : filter.strip());
        default ->
            throw eleutheria.server.problems.Refusal.invalid(
                "subject.kind", "subjects", "A subject is a person, a group or a filter.");
      };
    }
  }

  public static SubjectView of(AccessView access, FactValue.Subject subject) {
    int people = access.population(subject);
    return switch (subject) {
      case FactValue.Subject.OfPerson s ->
          new SubjectView(
              "person",
              s.person().value().toString(),
              access
                  .directory()
                  .person(s.person())
                  .map(p -> p.name().displayed())
                  .orElse("someone who is not on record"),
              null,
              people);
      case FactValue.Subject.OfGroup s ->
          new SubjectView(
              "group",
              s.group().value().toString(),
              access.directory().group(s.group()).map(g -> g.name()).orElse("a group that ended"),
              null,
              people);
      case FactValue.Subject.ByFilter s ->
          new SubjectView(
              "filter", null, access.directory().words().tell(s.filter()), s.filter(), people);
    };
  }
}
