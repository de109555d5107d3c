package eleutheria.core.ledger;

import eleutheria.core.facts.PersonId;

/** Something to do outside once the act is committed; kept in the outbox until done. */
public sealed interface Errand {
  /** A mail with a one-time link by which the person sets a password. */
  record Invite(PersonId person) implements Errand {}
}
