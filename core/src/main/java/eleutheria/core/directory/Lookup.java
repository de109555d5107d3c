package eleutheria.core.directory;

import eleutheria.core.directory.filter.Filter;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * People, and who is in what, at one moment, from something quicker than plain collections: the
 * engine. A {@link DirectoryView} that has one asks it, and keeps no people of its own.
 */
public interface Lookup {
  boolean exists(PersonId id);

  /**
   * @param links where the person comes from, which stands elsewhere
   */
  Optional<Person> person(PersonId id, List<SourceLink> links);

  /** Everyone, in the order of names. */
  List<PersonId> everyone();

  /** Who has this text as a value of an attribute, compared folded; in the order of names. */
  List<PersonId> having(String attribute, String folded);

  Set<PersonId> matching(Filter filter);

  /** People on a group's own list. */
  Set<PersonId> listed(GroupId group);

  Set<GroupId> nested(GroupId group);

  /** Groups that contain this one directly. */
  Set<GroupId> parents(GroupId group);

  /** People who are in this very group: by its list or its filter. */
  Set<PersonId> direct(GroupId group);

  /** People in the group by any way. */
  Set<PersonId> members(GroupId group);

  /** Groups that a person is in directly. */
  Set<GroupId> directGroups(PersonId person);

  /** The next moment after this state's at which one of its facts begins or ends by itself. */
  Instant next();

  /** Groups of which a place began or ended by itself between two moments, the later included. */
  Set<GroupId> crossed(Instant after, Instant until);
}
