package eleutheria.server.web;

import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.mandates.Authority;

/** Who asks, and what they may do now. */
public record Viewer(PersonId person, Authority authority) {
  public Actor actor() {
    return new Actor.OfPerson(person);
  }
}
