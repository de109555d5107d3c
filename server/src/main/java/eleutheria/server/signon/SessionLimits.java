package eleutheria.server.signon;

import eleutheria.server.settings.ServerSettings;
import jakarta.servlet.http.HttpSession;
import java.time.Clock;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * How long a sign-in lasts. A session ends in any case some days after it began; the desk asks for
 * the password again sooner, when it was not used for a while and some hours after the sign-in.
 */
@Component
public class SessionLimits {
  private static final String DESK_USED = "deskUsed";
  private static final Duration USED_WITHIN = Duration.ofMinutes(1);

  private final Clock clock;
  private final ServerSettings settings;

  SessionLimits(Clock clock, ServerSettings settings) {
    this.clock = clock;
    this.settings = settings;
  }

  /** Whether a session has lasted as long as one may. */
  public boolean over(HttpSession session) {
    return older(session.getCreationTime(), settings.sessionLongest());
  }

  /** Whether the desk wants a new sign-in; changes nothing. */
  public boolean deskOver(@Nullable HttpSession session) {
    if (session == null) {
      return true;
    }
    long used = session.getAttribute(DESK_USED) instanceof Long at ? at : session.getCreationTime();
    return older(session.getCreationTime(), settings.deskLongest())
        || older(used, settings.deskIdle());
  }

  /** Takes note that the desk is used. */
  public void deskUsed(HttpSession session) {
    long now = clock.millis();
    if (!(session.getAttribute(DESK_USED) instanceof Long at)
        || now - at > USED_WITHIN.toMillis()) {
      session.setAttribute(DESK_USED, now);
    }
  }

  private boolean older(long since, Duration longest) {
    return clock.millis() - since > longest.toMillis();
  }
}
