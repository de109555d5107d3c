package eleutheria.core.drafts;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.People;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What each edit of a draft can touch at one moment, so that a row of the consequences says because
 * of which edits it is: of things, everything that hangs on what the edit changes; of people,
 * everyone it can be about. A row is because of each edit that touches its thing and one of its
 * people.
 */
public final class Touches {
  static final Touches NONE = new Touches(List.of());

  private final List<Touch> all;

  private Touches(List<Touch> all) {
    this.all = all;
  }

  /**
   * @param things entitlements, tiles and collections; null for all
   * @param people null for all
   */
  private record Touch(int seq, @Nullable Set<ObjectId> things, @Nullable Set<PersonId> people) {
    boolean on(ObjectId thing, Set<PersonId> some) {
      return (things == null || things.contains(thing))
          && (people == null || !People.and(people, some).isEmpty());
    }
  }

  /** The edits that touch a thing and one of some people, in their order. */
  List<Integer> on(ObjectId thing, Set<PersonId> some) {
    return all.stream().filter(touch -> touch.on(thing, some)).map(Touch::seq).distinct().toList();
  }

  /** What the edits touch, in both states. */
  static Touches of(List<DraftEdit> edits, AccessView without, AccessView with) {
    Map<GroupId, Set<ObjectId>> leading = new HashMap<>();
    List<Touch> all = new ArrayList<>();
    for (DraftEdit edit : edits) {
      for (Edit each : edit.edits()) {
        Touch touch = of(edit.seq(), each, without, with, leading);
        if (touch != null) {
          all.add(touch);
        }
      }
    }
    return new Touches(all);
  }

  private static @Nullable Touch of(
      int seq,
      Edit edit,
      AccessView without,
      AccessView with,
      Map<GroupId, Set<ObjectId>> leading) {
    return switch (edit.key()) {
      case FactKey.Grant k -> {
        Set<ObjectId> things = new LinkedHashSet<>();
        Set<PersonId> people = People.NOBODY;
        for (Spell spell : new Spell[] {edit.base(), edit.wanted()}) {
          if (spell != null && spell.value() instanceof FactValue.Given given) {
            things.add(given.entitlement());
            people =
                People.or(
                    people,
                    People.or(without.members(given.subject()), with.members(given.subject())));
          }
        }
        yield new Touch(seq, things, people);
      }
      case FactKey.Membership(GroupId group, ObjectId member) ->
          new Touch(
              seq,
              leading(group, without, with, leading),
              switch (member) {
                case PersonId person -> Set.of(person);
                case GroupId nested -> {
                  FactValue.Subject subject = new FactValue.Subject.OfGroup(nested);
                  yield People.or(without.members(subject), with.members(subject));
                }
                default -> People.NOBODY;
              });
      case FactKey.GroupForm k ->
          new Touch(seq, leading(k.subject(), without, with, leading), null);
      case FactKey.Existence(GroupId group) ->
          new Touch(seq, leading(group, without, with, leading), null);
      case FactKey.Existence(PersonId person) -> new Touch(seq, null, Set.of(person));
      case FactKey.Status k -> new Touch(seq, null, Set.of(k.subject()));
      case FactKey.Attribute k -> new Touch(seq, null, Set.of(k.subject()));
      case FactKey.Defined k -> new Touch(seq, null, null);
      case FactKey.AppState(ApplicationId app) -> new Touch(seq, of(app, without, with), null);
      case FactKey.Application(ApplicationId app) -> new Touch(seq, of(app, without, with), null);
      case FactKey.Entitlement k -> new Touch(seq, Set.of(k.subject()), null);
      case FactKey.Tile(TileId tile) -> new Touch(seq, Set.of(tile), null);
      case FactKey.Collection(CollectionId collection) -> new Touch(seq, Set.of(collection), null);
      case FactKey.Audience k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.Shown k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.Front k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.FrontRank k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.FrontWave k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.Placed(CollectionId collection, TileId tile) ->
          new Touch(seq, Set.of(collection, tile), null);
      case FactKey.Fronted k -> new Touch(seq, new Leading(Set.of()), null);
      case FactKey.SeparationRule k -> new Touch(seq, Set.of(k.subject()), null);
      case FactKey.Excepted k -> new Touch(seq, Set.of(k.subject()), Set.of(k.person()));
      case FactKey.Existence k -> null;
      case FactKey.Naming k -> null;
      case FactKey.Link k -> null;
      case FactKey.GroupName k -> null;
      case FactKey.Ownership k -> null;
      case FactKey.Source k -> null;
      case FactKey.WayIn k -> null;
      case FactKey.Seats k -> null;
      case FactKey.GrantReason k -> null;
      case FactKey.Brand k -> null;
      case FactKey.FrontNotice k -> null;
      case FactKey.OfMandates k -> null;
      case FactKey.OfRequests k -> null;
      case FactKey.OfSelfService k -> null;
    };
  }

  private static Set<ObjectId> of(ApplicationId app, AccessView without, AccessView with) {
    Set<ObjectId> found = new LinkedHashSet<>();
    for (AccessView view : List.of(without, with)) {
      view.apps().application(app).stream()
          .flatMap(a -> a.entitlements().stream())
          .forEach(e -> found.add(e.id()));
    }
    return new Leading(found);
  }

  /** What a group leads to; whoever is in it may stand in an audience besides. */
  private static @Nullable Set<ObjectId> leading(
      GroupId group, AccessView without, AccessView with, Map<GroupId, Set<ObjectId>> known) {
    return known.computeIfAbsent(
        group,
        g -> {
          Set<ObjectId> found = new LinkedHashSet<>();
          for (AccessView view : List.of(without, with)) {
            for (EntitlementId id : view.leadsTo(g)) {
              found.add(id);
            }
          }
          return new Leading(found);
        });
  }

  /** Entitlements by name, and all of the portal, since groups stand in audiences. */
  private static final class Leading extends java.util.AbstractSet<ObjectId> {
    private final Set<ObjectId> entitlements;

    Leading(Set<ObjectId> entitlements) {
      this.entitlements = entitlements;
    }

    @Override
    public boolean contains(@Nullable Object thing) {
      return thing instanceof TileId
          || thing instanceof CollectionId
          || thing instanceof FrontPageId
          || entitlements.contains(thing);
    }

    @Override
    public java.util.Iterator<ObjectId> iterator() {
      return entitlements.iterator();
    }

    @Override
    public int size() {
      return entitlements.size();
    }
  }
}
