package eleutheria.core.facts;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a fact says something about. At any moment a key has at most one value; a set (memberships,
 * ownerships, many-valued attributes) has its element in the key, so that one rule serves both.
 */
public sealed interface FactKey {

  /** People, groups, and what is known of them. */
  sealed interface OfDirectory extends FactKey {}

  /** Powers, and who has them. */
  sealed interface OfMandates extends FactKey {}

  /** Applications and what they offer. */
  sealed interface OfApps extends FactKey {}

  /** What is granted, and what must be kept apart. */
  sealed interface OfAccess extends FactKey {}

  /** What is shown to whom, and where. */
  sealed interface OfPortal extends FactKey {}

  /** Who decides what people ask for. */
  sealed interface OfRequests extends FactKey {}

  /** What people may set up for themselves. */
  sealed interface OfSelfService extends FactKey {}

  /** What brings its thing into being, so that the thing need not be there before. */
  sealed interface Beginning extends FactKey {}

  /** The thing whose page shows this fact; null for what belongs to the organisation. */
  @Nullable ObjectId subject();

  /** All things named in the key, the subject first. */
  default List<ObjectId> objects() {
    ObjectId subject = subject();
    return subject == null ? List.of() : List.of(subject);
  }

  /** That the thing exists. Value: {@link FactValue.Present}. */
  record Existence(ObjectId subject) implements OfDirectory, Beginning {}

  /** Value: {@link FactValue.PersonName}. */
  record Naming(PersonId subject) implements OfDirectory {}

  /** Value: {@link FactValue.Standing}. */
  record Status(PersonId subject) implements OfDirectory {}

  /**
   * One value of an attribute. {@code slot} is empty where the attribute has one value, and random
   * where it has many. Value: {@link FactValue.Text}.
   */
  record Attribute(PersonId subject, String name, String slot) implements OfDirectory {}

  /** Under which key a source knows a person or group. Value: {@link FactValue.Ref}. */
  record Link(SourceId subject, ObjectKind thing, String key) implements OfDirectory {}

  /** Value: {@link FactValue.Text}. */
  record GroupName(GroupId subject) implements OfDirectory {}

  /** How a group gets its members. Value: {@link FactValue.Form}. */
  record GroupForm(GroupId subject) implements OfDirectory {}

  /** A person or group in a listed or mirrored group. Value: {@link FactValue.Present}. */
  record Membership(GroupId subject, ObjectId member) implements OfDirectory {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, member);
    }
  }

  /** Value: {@link FactValue.Present}. */
  record Ownership(ObjectId subject, PersonId owner) implements OfDirectory {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, owner);
    }
  }

  /** What an attribute is. Value: {@link FactValue.Definition}. */
  record Defined(String attribute) implements OfDirectory {
    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** What a mandate allows. Value: {@link FactValue.Terms}. */
  record Mandate(MandateId subject) implements OfMandates {}

  /** That a person or group has a mandate. Value: {@link FactValue.Present}. */
  record MandateHeld(MandateId subject, ObjectId holder) implements OfMandates {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, holder);
    }
  }

  /**
   * That somebody decides while another is away; it always ends. Value: {@link FactValue.Duties}.
   */
  record Deputy(PersonId subject, PersonId deputy) implements OfRequests {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, deputy);
    }
  }

  /** Who decides on requests, in which order. Value: {@link FactValue.Route}. */
  record Route(RequestScope scope) implements OfRequests {
    @Override
    public @Nullable ObjectId subject() {
      return scope.subject();
    }
  }

  /** What whoever asks is asked. Value: {@link FactValue.RequestForm}. */
  record RequestForm(RequestScope scope) implements OfRequests {
    @Override
    public @Nullable ObjectId subject() {
      return scope.subject();
    }
  }

  /** What a source is called and how its files are read. Value: {@link FactValue.Delivery}. */
  record Source(SourceId subject) implements OfDirectory {}

  /** What an application is. Value: {@link FactValue.Profile}. */
  record Application(ApplicationId subject) implements OfApps, Beginning {}

  /** Value: {@link FactValue.AppState}. */
  record AppState(ApplicationId subject) implements OfApps {}

  /** How an application signs people on. Value: {@link FactValue.WayIn}. */
  record WayIn(ApplicationId subject) implements OfApps {}

  /** How many seats of an application are paid for. Value: {@link FactValue.Seats}. */
  record Seats(ApplicationId subject) implements OfApps {}

  /** Value: {@link FactValue.Role}. */
  record Entitlement(EntitlementId subject) implements OfApps, Beginning {}

  /** Who gets which entitlement. Value: {@link FactValue.Given}. */
  record Grant(GrantId subject) implements OfAccess {}

  /** Why a grant was given, in somebody's words. Value: {@link FactValue.Text}. */
  record GrantReason(GrantId subject) implements OfAccess {}

  /** Value: {@link FactValue.TileFace}. */
  record Tile(TileId subject) implements OfPortal, Beginning {}

  /** Value: {@link FactValue.CollectionFace}. */
  record Collection(CollectionId subject) implements OfPortal, Beginning {}

  /**
   * Who is shown a collection, meets a front page, or sees a tile that needs nothing (everyone,
   * where nothing is said). Value: {@link FactValue.Audience}.
   */
  record Audience(ObjectId subject) implements OfPortal {}

  /** That a tile with dates is shown now. Value: {@link FactValue.Present}. */
  record Shown(TileId subject) implements OfPortal {}

  /** Where a tile stands in a collection. Value: {@link FactValue.Place}. */
  record Placed(CollectionId subject, TileId tile) implements OfPortal {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, tile);
    }
  }

  /** What no one person may hold together. Value: {@link FactValue.Separation}. */
  record SeparationRule(RuleId subject) implements OfAccess, Beginning {}

  /**
   * That one person may hold one pair which a rule keeps apart; it always ends. Value: {@link
   * FactValue.Present}.
   */
  record Excepted(RuleId subject, PersonId person, EntitlementId one, EntitlementId other)
      implements OfAccess {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, person, one, other);
    }
  }

  /** How the organisation shows itself. Value: {@link FactValue.Brand}. */
  enum Brand implements OfPortal {
    ORGANISATION;

    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** Who may keep links and suggest apps themselves. Value: {@link FactValue.SelfService}. */
  enum SelfService implements OfSelfService {
    ORGANISATION;

    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** An entry of the approved list. Value: {@link FactValue.Listing}. */
  record Approved(ListingId subject) implements OfSelfService, Beginning {}

  /** What a front page is. Value: {@link FactValue.FrontFace}. */
  record Front(FrontPageId subject) implements OfPortal, Beginning {}

  /** Where a front page stands among all: the first that fits counts. Value: its rank. */
  record FrontRank(FrontPageId subject) implements OfPortal {}

  /** What is told at the head of a front page while it is in force. Value: the text. */
  record FrontNotice(FrontPageId subject) implements OfPortal {}

  /**
   * Whom a front page reaches from the day on which it begins. Value: {@link FactValue.Audience}.
   */
  record FrontWave(FrontPageId subject, int wave) implements OfPortal {}

  /** Where a collection stands on a front page: its rank. Value: {@link FactValue.Text}. */
  record Fronted(FrontPageId subject, CollectionId collection) implements OfPortal {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, collection);
    }
  }
}
