package eleutheria.core.facts;

/** Who decides a step of a route: any one of the people whom it names. */
public sealed interface Seat {
  /** Whoever manages the person whom it is for. */
  record Manager() implements Seat {}

  /** Whoever manages that manager. */
  record ManagersManager() implements Seat {}

  /** Whoever owns the application. */
  record Owner() implements Seat {}

  /** Anybody in a group, nested groups included. */
  record AnyOf(GroupId group) implements Seat {}

  record Named(PersonId person) implements Seat {}

  /** Whoever may step in for the application and the person. */
  record Steward() implements Seat {}
}
