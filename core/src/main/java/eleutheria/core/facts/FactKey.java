package eleutheria.core.facts;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a fact says something about. At any moment a key has at most one value; a set (memberships,
 * ownerships, many-valued attributes) has its element in the key, so that one rule serves both.
 */
public sealed interface FactKey {

  /** The thing whose page shows this fact; null for what belongs to the organisation. */
  @Nullable ObjectId subject();

  /** All things named in the key, the subject first. */
  default List<ObjectId> objects() {
    ObjectId subject = subject();
    return subject == null ? List.of() : List.of(subject);
  }

  /** That the thing exists. Value: {@link FactValue.Present}. */
  record Existence(ObjectId subject) implements FactKey {}

  /** Value: {@link FactValue.PersonName}. */
  record Naming(PersonId subject) implements FactKey {}

  /** Value: {@link FactValue.Standing}. */
  record Status(PersonId subject) implements FactKey {}

  /**
   * One value of an attribute. {@code slot} is empty where the attribute has one value, and random
   * where it has many. Value: {@link FactValue.Text}.
   */
  record Attribute(PersonId subject, String name, String slot) implements FactKey {}

  /** Under which key a source knows a person or group. Value: {@link FactValue.Ref}. */
  record Link(SourceId subject, ObjectKind thing, String key) implements FactKey {}

  /** Value: {@link FactValue.Text}. */
  record GroupName(GroupId subject) implements FactKey {}

  /** How a group gets its members. Value: {@link FactValue.Form}. */
  record GroupForm(GroupId subject) implements FactKey {}

  /** A person or group in a listed or mirrored group. Value: {@link FactValue.Present}. */
  record Membership(GroupId subject, ObjectId member) implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, member);
    }
  }

  /** Value: {@link FactValue.Present}. */
  record Ownership(ObjectId subject, PersonId owner) implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, owner);
    }
  }

  /** What an attribute is. Value: {@link FactValue.Definition}. */
  record Defined(String attribute) implements FactKey {
    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** What a mandate allows. Value: {@link FactValue.Terms}. */
  record Mandate(MandateId subject) implements FactKey {}

  /** That a person or group has a mandate. Value: {@link FactValue.Present}. */
  record MandateHeld(MandateId subject, ObjectId holder) implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, holder);
    }
  }

  /** What a source is called and how its files are read. Value: {@link FactValue.Delivery}. */
  record Source(SourceId subject) implements FactKey {}

  /** What an application is. Value: {@link FactValue.Profile}. */
  record Application(ApplicationId subject) implements FactKey {}

  /** Value: {@link FactValue.AppState}. */
  record AppState(ApplicationId subject) implements FactKey {}

  /** How an application signs people on. Value: {@link FactValue.WayIn}. */
  record WayIn(ApplicationId subject) implements FactKey {}

  /** How many seats of an application are paid for. Value: {@link FactValue.Seats}. */
  record Seats(ApplicationId subject) implements FactKey {}

  /** Value: {@link FactValue.Role}. */
  record Entitlement(EntitlementId subject) implements FactKey {}

  /** Who gets which entitlement. Value: {@link FactValue.Given}. */
  record Grant(GrantId subject) implements FactKey {}

  /** Why a grant was given, in somebody's words. Value: {@link FactValue.Text}. */
  record GrantReason(GrantId subject) implements FactKey {}

  /** Value: {@link FactValue.TileFace}. */
  record Tile(TileId subject) implements FactKey {}

  /** Value: {@link FactValue.CollectionFace}. */
  record Collection(CollectionId subject) implements FactKey {}

  /**
   * Who is shown a collection, meets a front page, or sees a tile that needs nothing (everyone,
   * where nothing is said). Value: {@link FactValue.Audience}.
   */
  record Audience(ObjectId subject) implements FactKey {}

  /** That a tile with dates is shown now. Value: {@link FactValue.Present}. */
  record Shown(TileId subject) implements FactKey {}

  /** Where a tile stands in a collection. Value: {@link FactValue.Place}. */
  record Placed(CollectionId subject, TileId tile) implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, tile);
    }
  }

  /** What no one person may hold together. Value: {@link FactValue.Separation}. */
  record SeparationRule(RuleId subject) implements FactKey {}

  /**
   * That one person may hold one pair which a rule keeps apart; it always ends. Value: {@link
   * FactValue.Present}.
   */
  record Excepted(RuleId subject, PersonId person, EntitlementId one, EntitlementId other)
      implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, person, one, other);
    }
  }

  /** How the organisation shows itself. Value: {@link FactValue.Brand}. */
  enum Brand implements FactKey {
    ORGANISATION;

    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** Who may keep links and suggest apps themselves. Value: {@link FactValue.SelfService}. */
  enum SelfService implements FactKey {
    ORGANISATION;

    @Override
    public @Nullable ObjectId subject() {
      return null;
    }
  }

  /** An entry of the approved list. Value: {@link FactValue.Listing}. */
  record Approved(ListingId subject) implements FactKey {}

  /** What a front page is. Value: {@link FactValue.FrontFace}. */
  record Front(FrontPageId subject) implements FactKey {}

  /** Where a front page stands among all: the first that fits counts. Value: its rank. */
  record FrontRank(FrontPageId subject) implements FactKey {}

  /** What is told at the head of a front page while it is in force. Value: the text. */
  record FrontNotice(FrontPageId subject) implements FactKey {}

  /**
   * Whom a front page reaches from the day on which it begins. Value: {@link FactValue.Audience}.
   */
  record FrontWave(FrontPageId subject, int wave) implements FactKey {}

  /** Where a collection stands on a front page: its rank. Value: {@link FactValue.Text}. */
  record Fronted(FrontPageId subject, CollectionId collection) implements FactKey {
    @Override
    public List<ObjectId> objects() {
      return List.of(subject, collection);
    }
  }
}
