package eleutheria.server.refs;

import eleutheria.core.directory.Group;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.portal.PortalView;

/** Something that a person owns. */
public record OwnedThing(String kind, String id, String name) {
  public static OwnedThing of(PortalView whole, ObjectId thing) {
    String name =
        switch (thing) {
          case GroupId id -> whole.directory().group(id).map(Group::name).orElse("");
          case ApplicationId id ->
              whole.access().apps().application(id).map(a -> a.name()).orElse("");
          case CollectionId id -> whole.collection(id).map(c -> c.name()).orElse("");
          case ListingId id -> "an entry of the approved list";
          default -> "";
        };
    return new OwnedThing(thing.kind().word(), thing.value().toString(), name);
  }
}
