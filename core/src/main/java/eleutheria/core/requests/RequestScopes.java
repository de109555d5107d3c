package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What setting a route and setting a request form have in common. */
public final class RequestScopes {
  private RequestScopes() {}

  /** Whether whoever acts may say how what belongs to a scope is asked for and decided. */
  public static boolean may(Moment moment, RequestScope scope) {
    return may(moment.authority(), AccessView.at(moment), scope);
  }

  public static boolean may(Authority authority, AccessView access, RequestScope scope) {
    return switch (scope) {
      case RequestScope.OfApp of -> reaches(authority, of.id());
      case RequestScope.OfEntitlement of ->
          access
              .apps()
              .entitlement(of.id())
              .filter(e -> reaches(authority, e.application()))
              .isPresent();
      case RequestScope.OfSensitivity of -> authority.hasEverywhere(Power.REQUESTS_CONFIGURE);
      case RequestScope.OfAll of -> authority.hasEverywhere(Power.REQUESTS_CONFIGURE);
    };
  }

  /**
   * What is set is for whoever asks, so that a reach over the people of some units is not enough.
   */
  public static boolean reaches(Authority authority, ApplicationId app) {
    return authority.reaches(Power.REQUESTS_CONFIGURE, app, null);
  }

  /**
   * Why nothing can be set for a scope.
   *
   * @param what what is set, in words
   * @param now what is set for the scope itself, and {@code base} what was when it was changed
   */
  static Optional<Problem> shut(
      Moment moment, RequestScope scope, String what, @Nullable Object now, @Nullable Object base) {
    AccessView access = AccessView.at(moment);
    boolean there =
        switch (scope) {
          case RequestScope.OfApp of -> access.apps().application(of.id()).isPresent();
          case RequestScope.OfEntitlement of -> access.apps().entitlement(of.id()).isPresent();
          case RequestScope.OfSensitivity of -> true;
          case RequestScope.OfAll of -> true;
        };
    if (!there) {
      return Optional.of(Problem.absent("application"));
    }
    if (!may(moment.authority(), access, scope)) {
      return Optional.of(
          Problem.forbidden(
              Power.REQUESTS_CONFIGURE.word(),
              "You need the power to %s.".formatted(Power.REQUESTS_CONFIGURE.line())));
    }
    return Objects.equals(now, base)
        ? Optional.empty()
        : Optional.of(Problem.stale("", "Someone has changed this %s meanwhile.".formatted(what)));
  }

  /**
   * @param what the first part of the problems' codes
   */
  static Optional<Problem> reasonProblem(String what, String reason) {
    if (reason.isBlank()) {
      return Optional.of(
          Problem.invalid(
              what + ".no-reason", "reason", "Give a reason; it is kept in the ledger."));
    }
    return reason.strip().length() > RequestDecisions.LONGEST_REASON
        ? Optional.of(
            Problem.invalid(
                what + ".reason",
                "reason",
                "At most %d characters.".formatted(RequestDecisions.LONGEST_REASON)))
        : Optional.empty();
  }

  static Outcome<String> done(ActName act, RequestScope scope, List<Edit> edits, String reason) {
    return Outcome.done(
        new Act(
            act,
            scope.subject() == null ? List.of() : List.of(scope.subject()),
            reason.strip(),
            scope.subject() == null ? Map.of("scope", scope.word()) : Map.of()),
        edits,
        scope.word());
  }
}
