package eleutheria.server.requests;

import eleutheria.core.facts.PersonId;
import java.util.Set;

/**
 * Somebody has read further in a thread; no act, so the ledger has nothing of it.
 *
 * @param people for whom that shows: whoever else the thread is for
 */
public record ThreadRead(Set<PersonId> people) {}
