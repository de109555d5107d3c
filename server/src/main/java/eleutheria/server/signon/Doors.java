package eleutheria.server.signon;

import eleutheria.core.facts.PersonId;
import eleutheria.server.writing.Acts;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * All doors of a person, and the one act that shuts them: when a password is set anew, at signing
 * out everywhere, when somebody departs, and when an administrator ends what is open.
 */
@Component
public class Doors implements Acts.Leaving {
  private final List<Door> doors;

  Doors(@Lazy List<Door> doors) {
    this.doors = doors;
  }

  /**
   * Shuts every door of a person, in the transaction of the act that wants it.
   *
   * @param keep the id of the session that stays; null where none does
   */
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    doors.forEach(door -> door.shut(tx, person, keep));
  }

  @Override
  public void left(DSLContext tx, PersonId person) {
    shut(tx, person, null);
  }

  /** Shuts what hangs on one session, which has just ended. */
  void left(String session) {
    doors.forEach(door -> door.left(session));
  }

  /** Does something when the transaction is over and has held; at once where there is none. */
  public static void afterwards(Runnable work) {
    if (!TransactionSynchronizationManager.isSynchronizationActive()) {
      work.run();
      return;
    }
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            work.run();
          }
        });
  }
}
