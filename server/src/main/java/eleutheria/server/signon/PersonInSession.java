package eleutheria.server.signon;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.DeferredSecurityContext;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.core.context.SecurityContextImpl;
import org.springframework.security.web.context.HttpRequestResponseHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.stereotype.Component;

/**
 * Of who is signed in, a session keeps the person's id and nothing else: it is read for every
 * query, and powers are those of the moment anyway.
 */
@Component
class PersonInSession implements SecurityContextRepository {
  private static final String PERSON = FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME;

  /** Who is signed in, by the text of their id. */
  static SecurityContext context(String person) {
    return new SecurityContextImpl(
        UsernamePasswordAuthenticationToken.authenticated(person, null, List.of()));
  }

  @Override
  public DeferredSecurityContext loadDeferredContext(HttpServletRequest request) {
    return new Deferred(request);
  }

  @Override
  @Deprecated
  public SecurityContext loadContext(HttpRequestResponseHolder holder) {
    return loadDeferredContext(holder.getRequest()).get();
  }

  @Override
  public void saveContext(
      SecurityContext context, HttpServletRequest request, HttpServletResponse response) {
    Authentication signed = context.getAuthentication();
    if (signed != null) {
      request.getSession(true).setAttribute(PERSON, signed.getName());
    } else if (request.getSession(false) != null) {
      request.getSession(false).removeAttribute(PERSON);
    }
  }

  @Override
  public boolean containsContext(HttpServletRequest request) {
    return person(request) != null;
  }

  private static @Nullable String person(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    return session == null ? null : (String) session.getAttribute(PERSON);
  }

  /** Looked up only if somebody asks. */
  private static final class Deferred implements DeferredSecurityContext {
    private final HttpServletRequest request;
    private @Nullable SecurityContext found;
    private boolean nobody;

    Deferred(HttpServletRequest request) {
      this.request = request;
    }

    @Override
    public SecurityContext get() {
      SecurityContext known = found;
      if (known == null) {
        String person = person(request);
        nobody = person == null;
        known = person == null ? SecurityContextHolder.createEmptyContext() : context(person);
        found = known;
      }
      return known;
    }

    @Override
    public boolean isGenerated() {
      get();
      return nobody;
    }
  }
}
