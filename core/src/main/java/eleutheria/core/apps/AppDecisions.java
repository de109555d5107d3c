package eleutheria.core.apps;

import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Owners;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Lookup;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What may be done with applications and their entitlements. */
public final class AppDecisions {
  public static final int LONGEST_NAME = 60;
  public static final int LONGEST_LINE = 200;
  public static final int MOST_NICKNAMES = 12;
  public static final int LONGEST_NICKNAME = 40;

  private AppDecisions() {}

  /** One wanted entitlement of a new application. */
  public record WantedRole(
      String name,
      String line,
      eleutheria.core.facts.Sensitivity sensitivity,
      boolean requestable) {}

  private static AppsView apps(Moment moment) {
    return AppsView.of(moment.facts(), moment.directory(), moment.at());
  }

  /**
   * Adds an application in the state proposed.
   *
   * @param address where its link leads; null while that is not known
   */
  public static Outcome<ApplicationId> propose(
      Moment moment,
      FactValue.Profile profile,
      @Nullable String address,
      Collection<PersonId> owners,
      List<WantedRole> roles) {
    if (!moment.authority().has(Power.APPS_EDIT)) {
      return Outcome.refused(missing(Power.APPS_EDIT));
    }
    List<Problem> problems = profileProblems(apps(moment), null, profile);
    if (address != null) {
      problems.addAll(WebAddress.problems("address", address));
      if (!moment.authority().has(Power.APPS_SIGNON)) {
        problems.add(missing(Power.APPS_SIGNON));
      }
    }
    problems.addAll(Owners.problems(moment, owners));
    Set<String> names = new HashSet<>();
    for (WantedRole role : roles) {
      problems.addAll(roleProblems(names, role.name(), role.line()));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    ApplicationId id = new ApplicationId(moment.ids().get());
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.Application(id), clean(profile));
    edits.put(new FactKey.AppState(id), new FactValue.AppState(ApplicationState.PROPOSED));
    if (address != null) {
      edits.put(new FactKey.WayIn(id), new FactValue.WayIn.Link(address.strip()));
    }
    new LinkedHashSet<>(owners)
        .forEach(o -> edits.put(new FactKey.Ownership(id, o), FactValue.Present.PRESENT));
    for (WantedRole role : roles) {
      EntitlementId entitlement = new EntitlementId(moment.ids().get());
      edits.put(new FactKey.Existence(entitlement), FactValue.Present.PRESENT);
      edits.put(
          new FactKey.Entitlement(entitlement),
          new FactValue.Role(
              id,
              role.name().strip(),
              role.line().strip(),
              role.sensitivity(),
              role.requestable()));
    }
    return Outcome.done(Act.of(ActName.APP_PROPOSE, id), edits.list(), id);
  }

  /**
   * @param base what the editor saw
   */
  public static Outcome<ApplicationId> describe(
      Moment moment, ApplicationId id, FactValue.Profile base, FactValue.Profile wanted) {
    AppsView apps = apps(moment);
    Lookup<Application> found = editable(moment, apps, id);
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    if (!app.profile().equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has changed “%s” meanwhile.".formatted(app.name())));
    }
    List<Problem> problems = profileProblems(apps, id, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Application(id), clean(wanted));
    return Outcome.done(Act.of(ActName.APP_DESCRIBE, id), edits.list(), id);
  }

  public static Outcome<ApplicationId> setLink(
      Moment moment, ApplicationId id, @Nullable String base, String address) {
    Optional<Application> app = apps(moment).application(id);
    if (app.isEmpty()) {
      return Outcome.refused(Problem.absent("application"));
    }
    if (!moment.authority().reaches(Power.APPS_SIGNON, id)) {
      return Outcome.refused(missing(Power.APPS_SIGNON));
    }
    String current = app.get().wayIn() instanceof FactValue.WayIn.Link link ? link.address() : null;
    if (!java.util.Objects.equals(current, base)) {
      return Outcome.refused(
          Problem.stale("address", "Someone has set the address to “%s”.".formatted(current)));
    }
    List<Problem> problems = WebAddress.problems("address", address);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.WayIn(id), new FactValue.WayIn.Link(address.strip()));
    return Outcome.done(Act.of(ActName.APP_WAY_IN, id), edits.list(), id);
  }

  /** The most that can be told of seats, and of the price of one for a month in hundredths. */
  public static final int MOST_SEATS = 10_000_000;

  public static final long HIGHEST_PRICE = 1_000_000_000L;

  /**
   * Sets how many seats are paid for and what one costs a month.
   *
   * @param base what the editor saw; null for nothing
   * @param wanted null for nothing any more
   */
  public static Outcome<ApplicationId> setSeats(
      Moment moment,
      ApplicationId id,
      FactValue.@Nullable Seats base,
      FactValue.@Nullable Seats wanted) {
    Lookup<Application> found = editable(moment, apps(moment), id);
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    if (!java.util.Objects.equals(app.seats(), base)) {
      return Outcome.refused(
          Problem.stale("count", "Someone has changed the seats of “%s”.".formatted(app.name())));
    }
    Edits edits = moment.edits();
    if (wanted == null) {
      if (base != null) {
        edits.end(new FactKey.Seats(id));
      }
      return Outcome.done(Act.of(ActName.APP_SEATS, id), edits.list(), id);
    }
    List<Problem> problems = new ArrayList<>();
    if (wanted.count() < 1 || wanted.count() > MOST_SEATS) {
      problems.add(
          Problem.invalid("app.seats", "count", "From 1 to %,d seats.".formatted(MOST_SEATS)));
    }
    if (wanted.price() < 0 || wanted.price() > HIGHEST_PRICE) {
      problems.add(Problem.invalid("app.price", "price", "A price is from 0 to 10,000,000."));
    }
    if (!wanted.currency().matches("[A-Z]{3}")) {
      problems.add(
          Problem.invalid("app.currency", "currency", "Three letters (ISO 4217), such as NOK."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    edits.put(new FactKey.Seats(id), wanted);
    return Outcome.done(Act.of(ActName.APP_SEATS, id), edits.list(), id);
  }

  /** Opens, pauses or retires an application. Opening tells all that is still missing. */
  public static Outcome<ApplicationId> setState(
      Moment moment, ApplicationId id, ApplicationState base, ApplicationState wanted, String why) {
    Lookup<Application> found = editable(moment, apps(moment), id);
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    if (app.state() != base) {
      return Outcome.refused(
          Problem.stale("state", "It is %s by now.".formatted(app.state().word())));
    }
    List<Problem> problems = new ArrayList<>();
    boolean possible =
        switch (wanted) {
          case PROPOSED, BLOCKED -> false;
          case OPEN -> base == ApplicationState.PROPOSED || base == ApplicationState.PAUSED;
          case PAUSED -> base == ApplicationState.OPEN;
          case RETIRED -> base != ApplicationState.RETIRED;
        };
    if (!possible) {
      problems.add(
          Problem.invalid(
              "app.state",
              "state",
              "An application that is %s cannot become %s.".formatted(base.word(), wanted.word())));
    }
    if (wanted == ApplicationState.OPEN) {
      if (app.wayIn() == null) {
        problems.add(Problem.invalid("app.no-way-in", "address", "It has no way in yet."));
      }
      if (app.owners().isEmpty()) {
        problems.add(Problem.invalid("app.no-owner", "owners", "It has no owner yet."));
      }
      if (app.entitlements().isEmpty()) {
        problems.add(Problem.invalid("app.no-entitlement", "roles", "It has no entitlement yet."));
      }
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.AppState(id), new FactValue.AppState(wanted));
    return Outcome.done(
        Act.of(ActName.APP_STATE, id).because(why).with(Map.of("state", wanted.word())),
        edits.list(),
        id);
  }

  public static Outcome<ApplicationId> setOwners(
      Moment moment, ApplicationId id, Collection<PersonId> base, Collection<PersonId> owners) {
    Lookup<Application> found = editable(moment, apps(moment), id);
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    List<PersonId> current = app.owners();
    return Owners.set(moment, id, ActName.APP_OWNERS, current, base, owners);
  }

  public static Outcome<EntitlementId> addEntitlement(
      Moment moment, ApplicationId id, WantedRole wanted) {
    Lookup<Application> found = editable(moment, apps(moment), id);
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    List<Problem> problems = roleProblems(names(app, null), wanted.name(), wanted.line());
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    EntitlementId entitlement = new EntitlementId(moment.ids().get());
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(entitlement), FactValue.Present.PRESENT);
    edits.put(
        new FactKey.Entitlement(entitlement),
        new FactValue.Role(
            id,
            wanted.name().strip(),
            wanted.line().strip(),
            wanted.sensitivity(),
            wanted.requestable()));
    return Outcome.done(
        Act.of(ActName.APP_ENTITLEMENT, id, entitlement), edits.list(), entitlement);
  }

  public static Outcome<EntitlementId> changeEntitlement(
      Moment moment, EntitlementId id, FactValue.Role base, WantedRole wanted) {
    AppsView apps = apps(moment);
    Optional<Entitlement> role = apps.entitlement(id);
    if (role.isEmpty()) {
      return Outcome.refused(Problem.absent("entitlement"));
    }
    Lookup<Application> found = editable(moment, apps, role.get().application());
    if (!(found instanceof Lookup.Found<Application>(Application app))) {
      return Outcome.refused(found.problems());
    }
    if (!role.get().role().equals(base)) {
      return Outcome.refused(
          Problem.stale(
              "name", "Someone has changed “%s” meanwhile.".formatted(role.get().title())));
    }
    List<Problem> problems = roleProblems(names(app, id), wanted.name(), wanted.line());
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(
        new FactKey.Entitlement(id),
        new FactValue.Role(
            app.id(),
            wanted.name().strip(),
            wanted.line().strip(),
            wanted.sensitivity(),
            wanted.requestable()));
    return Outcome.done(Act.of(ActName.APP_ENTITLEMENT, app.id(), id), edits.list(), id);
  }

  // ---- what stands in the way

  private static Lookup<Application> editable(Moment moment, AppsView apps, ApplicationId id) {
    Optional<Application> app = apps.application(id);
    if (app.isEmpty()) {
      return Lookup.refused(Problem.absent("application"));
    }
    if (!moment.authority().reaches(Power.APPS_EDIT, id) && !moment.authority().owns(id)) {
      return Lookup.refused(missing(Power.APPS_EDIT));
    }
    return Lookup.found(app.get());
  }

  private static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }

  private static FactValue.Profile clean(FactValue.Profile p) {
    return new FactValue.Profile(
        p.name().strip(),
        p.line().strip(),
        p.picture(),
        p.hue(),
        p.sensitivity(),
        p.contact().strip(),
        p.nicknames().stream()
            .map(String::strip)
            .filter(nickname -> !nickname.isEmpty())
            .distinct()
            .toList());
  }

  private static List<Problem> profileProblems(
      AppsView apps, @Nullable ApplicationId id, FactValue.Profile profile) {
    List<Problem> problems = new ArrayList<>();
    String name = profile.name().strip();
    if (name.isEmpty()) {
      problems.add(Problem.invalid("app.no-name", "name", "An application has a name."));
    }
    length(problems, "name", name, LONGEST_NAME);
    length(problems, "line", profile.line(), LONGEST_LINE);
    length(problems, "contact", profile.contact(), LONGEST_LINE);
    if (profile.nicknames().size() > MOST_NICKNAMES) {
      problems.add(
          Problem.invalid(
              "app.nicknames",
              "nicknames",
              "An application has at most %d nicknames.".formatted(MOST_NICKNAMES)));
    }
    profile.nicknames().forEach(each -> length(problems, "nicknames", each, LONGEST_NICKNAME));
    for (Application app : apps.applications()) {
      if (!app.id().equals(id)
          && app.state() != ApplicationState.RETIRED
          && Folding.fold(app.name()).equals(Folding.fold(name))) {
        problems.add(
            Problem.invalid(
                "app.name-taken", "name", "There is an application “%s” already.".formatted(name)));
      }
    }
    if (!Pictures.PICTURES.contains(profile.picture())) {
      problems.add(Problem.invalid("app.picture", "picture", "There is no such picture."));
    }
    if (!Pictures.HUES.contains(profile.hue())) {
      problems.add(Problem.invalid("app.hue", "hue", "There is no such colour."));
    }
    return problems;
  }

  /** Adds a problem where a text is too long. */
  public static void length(List<Problem> problems, String field, String text, int most) {
    if (text.strip().length() > most) {
      problems.add(
          Problem.invalid(
              "too-long",
              field,
              "It has %d characters; at most %d fit.".formatted(text.strip().length(), most)));
    }
  }

  private static Set<String> names(Application app, @Nullable EntitlementId without) {
    Set<String> names = new HashSet<>();
    app.entitlements().stream()
        .filter(e -> !e.id().equals(without))
        .forEach(e -> names.add(Folding.fold(e.role().name())));
    return names;
  }

  private static List<Problem> roleProblems(Set<String> taken, String name, String line) {
    List<Problem> problems = new ArrayList<>();
    if (name.isBlank()) {
      problems.add(Problem.invalid("entitlement.no-name", "roles", "An entitlement has a name."));
    } else if (!taken.add(Folding.fold(name.strip()))) {
      problems.add(
          Problem.invalid(
              "entitlement.name-taken",
              "roles",
              "The application has an entitlement “%s” already.".formatted(name.strip())));
    }
    length(problems, "roles", name, LONGEST_NAME);
    length(problems, "roles", line, LONGEST_LINE);
    return problems;
  }
}
