package eleutheria.server.signon;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.mandates.Authority;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.AnonymousAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** Tells of every request whose it is, and what they may do now. */
@Component
public class Viewers {
  private final World world;
  private final SessionLimits limits;

  Viewers(World world, SessionLimits limits) {
    this.world = world;
    this.limits = limits;
  }

  /** Who is signed in, as long as they are active. */
  public Optional<Viewer> of(HttpServletRequest request) {
    Authentication authentication = SecurityContextHolder.getContext().getAuthentication();
    if (authentication == null
        || !authentication.isAuthenticated()
        || authentication instanceof AnonymousAuthenticationToken) {
      return Optional.empty();
    }
    HttpSession current = request.getSession(false);
    if (current == null || limits.over(current)) {
      if (current != null) {
        current.invalidate();
      }
      SecurityContextHolder.clearContext();
      return Optional.empty();
    }
    PersonId person = PersonId.parse(authentication.getName());
    DirectoryView directory = world.now();
    boolean active =
        directory.person(person).filter(p -> p.status() == PersonStatus.ACTIVE).isPresent();
    if (!active) {
      current.invalidate();
      SecurityContextHolder.clearContext();
      return Optional.empty();
    }
    Authority authority = directory.authority(person);
    return Optional.of(
        new Viewer(
            person,
            authority,
            draft(request),
            "true".equals(request.getHeader("Foresee")),
            request.getHeader("Foreseen")));
  }

  /** Which draft gathers what is asked for; an answer to a query does not depend on it. */
  private static @Nullable DraftId draft(HttpServletRequest request) {
    String id = request.getHeader("Draft");
    if (id == null || id.isEmpty()) {
      return null;
    }
    try {
      return DraftId.parse(id);
    } catch (IllegalArgumentException e) {
      throw Refusal.invalid("draft.unknown", "", "The header Draft does not name a draft.");
    }
  }
}
