package eleutheria.server.gate;

import eleutheria.core.drafts.DraftDecisions;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.server.problems.Refusal;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.signon.SessionLimits;
import eleutheria.server.signon.Viewers;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.core.MethodParameter;
import org.springframework.stereotype.Component;
import org.springframework.web.bind.support.WebDataBinderFactory;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.method.support.ModelAndViewContainer;
import org.springframework.web.servlet.HandlerInterceptor;

/** Decides for every endpoint whether this viewer may call it, and refuses by default. */
@Component
public class Gate implements HandlerInterceptor, HandlerMethodArgumentResolver {
  private static final String VIEWER = Gate.class.getName() + ".viewer";

  private final Viewers viewers;
  private final FreshSignIn freshSignIn;
  private final SessionLimits limits;

  Gate(Viewers viewers, FreshSignIn freshSignIn, SessionLimits limits) {
    this.viewers = viewers;
    this.limits = limits;
    this.freshSignIn = freshSignIn;
  }

  /** Who asks, where the gate has looked already; null for nobody. */
  static @Nullable PersonId known(HttpServletRequest request) {
    return request.getAttribute(VIEWER) instanceof Viewer viewer ? viewer.person() : null;
  }

  @Override
  public boolean preHandle(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    if (!(handler instanceof HandlerMethod method)
        || !method.getBeanType().getName().startsWith("eleutheria.")) {
      return true;
    }
    if (request.getDispatcherType() == DispatcherType.ASYNC) {
      // The end of a stream: who may have it was decided when it was opened.
      return true;
    }
    String repeatKey = request.getHeader(IdempotencyKey.HEADER);
    if (repeatKey != null && !Repeats.wellFormed(repeatKey)) {
      throw Refusal.invalid(
          "idempotency.malformed", "", "An Idempotency-Key is 1 to 80 printable ASCII characters.");
    }
    Needs needs = method.getMethodAnnotation(Needs.class);
    if (needs == null) {
      throw Refusal.of(Problem.forbidden("closed", "Nobody may do this."));
    }
    Optional<Viewer> viewer = viewers.of(request);
    viewer.ifPresent(v -> request.setAttribute(VIEWER, v));
    if (needs.nothing()) {
      return true;
    }
    if (viewer.isEmpty()) {
      throw new SignedOut();
    }
    if (!needs.signedIn() && !allowed(needs, viewer.get().authority())) {
      throw Refusal.of(Problem.forbidden("power", missing(needs)));
    }
    if (!needs.signedIn() || needs.desk()) {
      if (limits.deskOver(request.getSession(false))) {
        throw new SignedOut();
      }
      limits.deskUsed(request.getSession());
    }
    if (needs.fresh()) {
      freshSignIn.require(request);
    }
    String foresee = request.getHeader("Foresee");
    if (foresee != null
        && !request.getMethod().equals("GET")
        && !(needs.foresees() && foresee.equals("true"))) {
      // Whoever only wants to look must not have done it.
      throw Refusal.invalid(
          "foresee.unknown", "", "What this would do cannot be shown; nothing was done.");
    }
    return true;
  }

  private static boolean allowed(Needs needs, Authority authority) {
    return Arrays.stream(needs.value()).anyMatch(authority::has)
        || (needs.drafts() && DraftDecisions.works(authority))
        || (needs.orGroupOwner() && authority.ownsAny(ObjectKind.GROUP))
        || Arrays.stream(needs.orOwnerOf()).anyMatch(authority::ownsAny);
  }

  private static String missing(Needs needs) {
    if (needs.drafts()) {
      return "This needs a power to change something; a steward can give it.";
    }
    return Arrays.stream(needs.value())
        .map(power -> "“" + power.word() + "” (to " + power.line() + ")")
        .collect(Collectors.joining(" or ", "This needs the power ", "; a steward can give it."));
  }

  /** Whoever is not signed in, or not any more. */
  public static final class SignedOut extends RuntimeException {}

  @Override
  public boolean supportsParameter(MethodParameter parameter) {
    return parameter.getParameterType() == Viewer.class
        || parameter.getParameterType() == IdempotencyKey.class;
  }

  @Override
  public Object resolveArgument(
      MethodParameter parameter,
      @Nullable ModelAndViewContainer container,
      NativeWebRequest request,
      @Nullable WebDataBinderFactory binder) {
    if (parameter.getParameterType() == IdempotencyKey.class) {
      return new IdempotencyKey(request.getHeader(IdempotencyKey.HEADER));
    }
    Object viewer = request.getAttribute(VIEWER, NativeWebRequest.SCOPE_REQUEST);
    if (viewer == null) {
      throw new SignedOut();
    }
    return viewer;
  }
}
