package eleutheria.core.apps;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Applications and entitlements at one moment; never changes once built. Linear in the number of
 * applications and entitlements ever made, some tens of microseconds for a hundred.
 */
public final class AppsView {
  private final Map<ApplicationId, Application> applications = new LinkedHashMap<>();
  private final Map<EntitlementId, Entitlement> entitlements = new LinkedHashMap<>();
  private final Map<EntitlementId, Integer> places = new HashMap<>();
  private final Map<RequestScope, FactValue.Route> routes = new HashMap<>();
  private final Map<RequestScope, FactValue.RequestForm> forms = new HashMap<>();

  private AppsView() {}

  public static AppsView of(Facts facts, DirectoryView directory, Instant at) {
    AppsView view = new AppsView();
    Map<ApplicationId, FactValue.Profile> profiles = new HashMap<>();
    for (FactKey.Application key : facts.keys(FactKey.Application.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Profile profile) {
        profiles.put(key.subject(), profile);
      }
    }
    Map<ApplicationId, List<Entitlement>> roles = new HashMap<>();
    for (FactKey.Entitlement key : facts.keys(FactKey.Entitlement.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Role role
          && profiles.containsKey(role.application())) {
        String title = profiles.get(role.application()).name() + " · " + role.name();
        roles
            .computeIfAbsent(role.application(), a -> new ArrayList<>())
            .add(new Entitlement(key.subject(), role, title));
      }
    }
    profiles.entrySet().stream()
        .sorted(
            Map.Entry.comparingByValue(
                Comparator.comparing(profile -> Folding.bare(profile.name()))))
        .forEach(
            entry -> {
              ApplicationId id = entry.getKey();
              List<Entitlement> own = roles.getOrDefault(id, new ArrayList<>());
              own.sort(
                  Comparator.comparing((Entitlement e) -> Folding.bare(e.role().name()))
                      .thenComparing(Entitlement::id));
              own.forEach(
                  e -> {
                    view.places.put(e.id(), view.places.size());
                    view.entitlements.put(e.id(), e);
                  });
              Optional<Spell> state = facts.at(new FactKey.AppState(id), at);
              view.applications.put(
                  id,
                  new Application(
                      id,
                      entry.getValue(),
                      state
                          .map(s -> ((FactValue.AppState) s.value()).state())
                          .orElse(ApplicationState.PROPOSED),
                      state.map(Spell::from).orElse(at),
                      (FactValue.WayIn) facts.valueAt(new FactKey.WayIn(id), at),
                      (FactValue.Seats) facts.valueAt(new FactKey.Seats(id), at),
                      directory.owners(id),
                      List.copyOf(own)));
            });
    for (FactKey.Route key : facts.keys(FactKey.Route.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Route route) {
        view.routes.put(key.scope(), route);
      }
    }
    for (FactKey.RequestForm key : facts.keys(FactKey.RequestForm.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.RequestForm form) {
        view.forms.put(key.scope(), form);
      }
    }
    return view;
  }

  public Optional<Application> application(ApplicationId id) {
    return Optional.ofNullable(applications.get(id));
  }

  public Optional<Entitlement> entitlement(EntitlementId id) {
    return Optional.ofNullable(entitlements.get(id));
  }

  /** The application that an entitlement belongs to; both must be there. */
  public Application applicationOf(Entitlement entitlement) {
    return requireNonNull(applications.get(entitlement.application()));
  }

  /** Whether the entitlement's application is open. */
  public boolean open(EntitlementId id) {
    Entitlement entitlement = entitlements.get(id);
    return entitlement != null && applicationOf(entitlement).open();
  }

  /** In order of name. */
  public List<Application> applications() {
    return List.copyOf(applications.values());
  }

  /** The steps that a request for an entitlement needs now: those of the narrowest scope. */
  public FactValue.Route route(Entitlement entitlement) {
    return route(entitlement, Map.of());
  }

  private static Stream<RequestScope> scopesOf(Entitlement entitlement) {
    return Stream.of(
        new RequestScope.OfEntitlement(entitlement.id()),
        new RequestScope.OfApp(entitlement.application()),
        new RequestScope.OfSensitivity(entitlement.role().sensitivity()),
        new RequestScope.OfAll());
  }

  /** What {@link #route} would be if these were set, or no longer set. */
  public FactValue.Route route(
      Entitlement entitlement, Map<RequestScope, Optional<FactValue.Route>> changed) {
    return scopesOf(entitlement)
        .flatMap(scope -> changed.getOrDefault(scope, routeOf(scope)).stream())
        .findFirst()
        .orElse(FactValue.Route.SHIPPED);
  }

  /** What counts for a scope: its own route, or that of the next wider one that has one. */
  public FactValue.Route routeFor(RequestScope scope) {
    return andWider(scope)
        .flatMap(each -> routeOf(each).stream())
        .findFirst()
        .orElse(FactValue.Route.SHIPPED);
  }

  /** A scope and those that are wider, in their order. */
  private Stream<RequestScope> andWider(RequestScope scope) {
    return switch (scope) {
      case RequestScope.OfEntitlement of ->
          entitlement(of.id()).map(AppsView::scopesOf).orElse(Stream.of(scope));
      case RequestScope.OfApp of ->
          Stream.concat(
              Stream.of(scope),
              application(of.id())
                  .map(app -> new RequestScope.OfSensitivity(app.profile().sensitivity()))
                  .map(this::andWider)
                  .orElse(Stream.of()));
      case RequestScope.OfSensitivity of -> Stream.of(scope, new RequestScope.OfAll());
      case RequestScope.OfAll of -> Stream.of(scope);
    };
  }

  /** All that are set, of whatever scope. */
  public Collection<FactValue.Route> routes() {
    return routes.values();
  }

  /** The entitlements for which a scope's route counts, or would if it had one. */
  public List<Entitlement> underRoute(RequestScope scope) {
    return under(scope, routes.keySet());
  }

  private List<Entitlement> under(RequestScope scope, Set<RequestScope> set) {
    return entitlements.values().stream()
        .filter(
            e ->
                scopesOf(e)
                    .filter(each -> each.equals(scope) || set.contains(each))
                    .findFirst()
                    .filter(scope::equals)
                    .isPresent())
        .toList();
  }

  /** What whoever asks for an entitlement is asked now: the form of the narrowest scope. */
  public FactValue.RequestForm form(Entitlement entitlement) {
    return form(entitlement, Map.of());
  }

  /** What {@link #form} would be if these were set, or no longer set. */
  public FactValue.RequestForm form(
      Entitlement entitlement, Map<RequestScope, Optional<FactValue.RequestForm>> changed) {
    return scopesOf(entitlement)
        .flatMap(scope -> changed.getOrDefault(scope, formOf(scope)).stream())
        .findFirst()
        .orElse(FactValue.RequestForm.SHIPPED);
  }

  /** What counts for a scope: its own form, or that of the next wider one that has one. */
  public FactValue.RequestForm formFor(RequestScope scope) {
    return andWider(scope)
        .flatMap(each -> formOf(each).stream())
        .findFirst()
        .orElse(FactValue.RequestForm.SHIPPED);
  }

  /** The form that is set for a scope itself; empty where none is. */
  public Optional<FactValue.RequestForm> formOf(RequestScope scope) {
    return Optional.ofNullable(forms.get(scope));
  }

  /** All that are set, of whatever scope. */
  public Collection<FactValue.RequestForm> forms() {
    return forms.values();
  }

  /** The entitlements for which a scope's form counts, or would if it had one. */
  public List<Entitlement> underForm(RequestScope scope) {
    return under(scope, forms.keySet());
  }

  /** What is set for a scope itself; empty where nothing is. */
  public Optional<FactValue.Route> routeOf(RequestScope scope) {
    return Optional.ofNullable(routes.get(scope));
  }

  /** Where an entitlement stands in the order of application and name, from 0. */
  public int place(Entitlement entitlement) {
    return requireNonNull(places.get(entitlement.id()));
  }

  /** In order of application and name. */
  public List<Entitlement> entitlements() {
    return List.copyOf(entitlements.values());
  }
}
