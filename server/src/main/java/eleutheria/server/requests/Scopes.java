package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppsView;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.requests.RequestScopes;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.EntitlementRef;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** What routes and request forms are for, as it is read and told. */
final class Scopes {
  private Scopes() {}

  /** What a word in an address stands for. */
  static RequestScope of(String word) {
    try {
      return RequestScope.parse(word);
    } catch (IllegalArgumentException e) {
      throw Refusal.of(Problem.absent("page"));
    }
  }

  /** What is wide, and what of applications is set and may be set by this reader. */
  static List<RequestScope> shown(
      Authority authority, AccessView access, Predicate<RequestScope> set) {
    List<RequestScope> scopes = new ArrayList<>();
    scopes.add(new RequestScope.OfAll());
    for (Sensitivity each : List.of(Sensitivity.HIGH, Sensitivity.MEDIUM, Sensitivity.LOW)) {
      scopes.add(new RequestScope.OfSensitivity(each));
    }
    access
        .apps()
        .applications()
        .forEach(
            app -> {
              List<RequestScope> own = new ArrayList<>(List.of(new RequestScope.OfApp(app.id())));
              app.entitlements().forEach(e -> own.add(new RequestScope.OfEntitlement(e.id())));
              own.stream()
                  .filter(set)
                  .filter(scope -> RequestScopes.may(authority, access, scope))
                  .forEach(scopes::add);
            });
    return scopes;
  }

  /** What is wide is read by whoever sets any; what is an application's, by whoever reaches it. */
  static void readable(Authority authority, AccessView access, RequestScope scope) {
    if (scope.subject() != null && !RequestScopes.may(authority, access, scope)) {
      throw Refusal.of(Problem.absent("page"));
    }
  }

  static @Nullable AppRef app(AppsView apps, RequestScope scope) {
    return scope instanceof RequestScope.OfApp of
        ? apps.application(of.id()).map(AppRef::of).orElse(null)
        : null;
  }

  static @Nullable EntitlementRef entitlement(AppsView apps, RequestScope scope) {
    return scope instanceof RequestScope.OfEntitlement of
        ? apps.entitlement(of.id()).map(e -> EntitlementRef.of(apps, e)).orElse(null)
        : null;
  }
}
