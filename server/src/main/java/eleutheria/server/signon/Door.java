package eleutheria.server.signon;

import eleutheria.core.facts.PersonId;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/**
 * A way by which somebody gets in, or hears from inside, without giving their password: a session,
 * a link, a token, a stream. Whatever opens one is a component of this kind, so that {@link Doors}
 * shuts it with all others.
 */
public interface Door {
  /**
   * Shuts it, in the transaction of the act that wants it shut. What is not kept in the database is
   * shut after the commit.
   *
   * @param keep the id of the session that stays; null where none does
   */
  void shut(DSLContext tx, PersonId person, @Nullable String keep);

  /** Shuts what hangs on one session, which has just ended. */
  default void left(String session) {}
}
