package eleutheria.core.directory;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A group at a moment.
 *
 * @param people who is in it directly; empty for a group by filter
 * @param groups which groups are in it directly
 */
public record Group(
    GroupId id,
    String name,
    byte[] nameKey,
    FactValue.Form form,
    Set<PersonId> people,
    Set<GroupId> groups,
    List<PersonId> owners)
    implements Comparable<Group> {

  public boolean listed() {
    return form instanceof FactValue.Form.Listed;
  }

  @Override
  public int compareTo(Group other) {
    int byName = Arrays.compareUnsigned(nameKey, other.nameKey);
    return byName != 0 ? byName : id.compareTo(other.id);
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof Group group
        && id.equals(group.id)
        && name.equals(group.name)
        && form.equals(group.form)
        && people.equals(group.people)
        && groups.equals(group.groups)
        && owners.equals(group.owners);
  }

  @Override
  public int hashCode() {
    return id.hashCode();
  }
}
