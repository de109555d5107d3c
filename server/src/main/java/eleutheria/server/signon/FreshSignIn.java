package eleutheria.server.signon;

import eleutheria.server.writing.Acts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/** Whether the password was given lately enough for what weighs much. */
@Component
public class FreshSignIn implements Acts.Freshness {
  public static final Duration LASTS = Duration.ofMinutes(10);
  private static final String AT = "freshAt";

  private final Clock clock;

  FreshSignIn(Clock clock) {
    this.clock = clock;
  }

  public static final class NotFresh extends RuntimeException {}

  void mark(HttpSession session) {
    session.setAttribute(AT, clock.millis());
  }

  /** Until when it is fresh; null if it is not. */
  public @Nullable Instant until(@Nullable HttpSession session) {
    if (session == null || !(session.getAttribute(AT) instanceof Long millis)) {
      return null;
    }
    Instant until = Instant.ofEpochMilli(millis).plus(LASTS);
    return until.isAfter(clock.instant()) ? until : null;
  }

  @Override
  public void require() {
    if (RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes asked) {
      require(asked.getRequest());
    } else {
      throw new NotFresh();
    }
  }

  /**
   * @throws NotFresh if the password must be given again
   */
  public void require(HttpServletRequest request) {
    if (until(request.getSession(false)) == null) {
      throw new NotFresh();
    }
  }
}
