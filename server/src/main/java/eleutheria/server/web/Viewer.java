package eleutheria.server.web;

import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.mandates.Authority;
import org.jspecify.annotations.Nullable;

/**
 * Who asks, and what they may do now.
 *
 * @param draft the draft that is to gather what they do; null where it is done at once
 * @param foresees whether they only want to know what it would do
 * @param foreseen the digest of what they have seen of that; null where they have not looked
 */
public record Viewer(
    PersonId person,
    Authority authority,
    @Nullable DraftId draft,
    boolean foresees,
    @Nullable String foreseen) {
  public Viewer(PersonId person, Authority authority) {
    this(person, authority, null, false, null);
  }

  public Actor actor() {
    return new Actor.OfPerson(person);
  }
}
