package eleutheria.server.signon;

import eleutheria.core.facts.PersonId;
import eleutheria.server.web.SessionTokens;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Component;

/** Sessions in the database: begun, listed, ended. */
@Component
public class Sessions {
  private static final String ADDRESS = "address";
  private static final String BROWSER = "browser";

  private final FindByIndexNameSessionRepository<? extends Session> repository;
  private final SecurityContextRepository contexts;
  private final FreshSignIn freshSignIn;
  private final Doors doors;
  private final SessionsDoor rows;
  private final SessionTokens tokens;

  Sessions(
      FindByIndexNameSessionRepository<? extends Session> repository,
      SecurityContextRepository contexts,
      FreshSignIn freshSignIn,
      Doors doors,
      SessionsDoor rows,
      SessionTokens tokens) {
    this.repository = repository;
    this.contexts = contexts;
    this.freshSignIn = freshSignIn;
    this.doors = doors;
    this.rows = rows;
    this.tokens = tokens;
  }

  /** A session as its owner sees it. */
  record Listed(String address, String browser, Instant since, Instant last, boolean current) {}

  void begin(HttpServletRequest request, HttpServletResponse response, PersonId person) {
    // A new id, so that one planted before the sign-in is worth nothing.
    HttpSession old = request.getSession(false);
    if (old != null) {
      doors.left(old.getId());
      old.invalidate();
    }
    HttpSession session = request.getSession(true);
    session.setAttribute(ADDRESS, request.getRemoteAddr());
    session.setAttribute(BROWSER, browser(request.getHeader("User-Agent")));
    freshSignIn.mark(session);
    SecurityContext context = PersonInSession.context(person.value().toString());
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    tokens.renew(request, response);
  }

  void end(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (session != null) {
      doors.left(session.getId());
      session.invalidate();
    }
    SecurityContextHolder.clearContext();
  }

  List<Listed> of(PersonId person, @Nullable HttpSession current) {
    List<Listed> listed = new ArrayList<>();
    Map<String, ? extends Session> all = repository.findByPrincipalName(person.value().toString());
    Set<String> standing = rows.standing(all.keySet());
    for (Session session : all.values()) {
      if (!standing.contains(session.getId())) {
        continue;
      }
      listed.add(
          new Listed(
              String.valueOf(session.<Object>getAttributeOrDefault(ADDRESS, "")),
              String.valueOf(session.<Object>getAttributeOrDefault(BROWSER, "")),
              session.getCreationTime(),
              session.getLastAccessedTime(),
              current != null && session.getId().equals(current.getId())));
    }
    listed.sort(Comparator.comparing(Listed::last).reversed());
    return listed;
  }

  /** How many sessions a person has. */
  public int count(PersonId person) {
    return rows.count(person);
  }

  /** The kind of browser and system, in words that a person knows their own device by. */
  private static String browser(@Nullable String agent) {
    if (agent == null) {
      return "a program";
    }
    String system =
        agent.contains("Android")
            ? "an Android device"
            : agent.contains("iPhone") || agent.contains("iPad")
                ? "an iOS device"
                : agent.contains("Windows")
                    ? "Windows"
                    : agent.contains("Mac OS")
                        ? "macOS"
                        : agent.contains("Linux") ? "Linux" : "an unknown system";
    String program =
        agent.contains("Firefox")
            ? "Firefox"
            : agent.contains("Edg/")
                ? "Edge"
                : agent.contains("Chrome")
                    ? "Chrome"
                    : agent.contains("Safari") ? "Safari" : "a program";
    return program + " on " + system;
  }
}
