package eleutheria.server.apps;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reading;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.Seen;
import eleutheria.core.access.engine.Unused;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.apps.Pictures;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.use.UseBook;
import eleutheria.server.use.UseFigures;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.function.Predicate;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Applications and their entitlements: listed, looked at, imported, changed. */
@RestController
class AppsController {

  private final World world;
  private final Commands commands;
  private final UseBook use;
  private final UseFigures figures;

  AppsController(World world, Commands commands, UseBook use, UseFigures figures) {
    this.world = world;
    this.commands = commands;
    this.use = use;
    this.figures = figures;
  }

  /**
   * @param of how many there are to be seen at all; of them so many are open, are proposed, and
   *     have no owner
   * @param most how many hold anything of the one that most people hold
   * @param weeks the Mondays on which the weeks begin whose openings are told; the last is this
   *     week's
   */
  record AppsPage(
      int total,
      int of,
      int open,
      int proposed,
      int ownerless,
      int most,
      List<LocalDate> weeks,
      List<AppLine> lines,
      Instant at,
      long position) {}

  /**
   * @param holders how many people hold at least one of its entitlements
   * @param unused how many of them are known not to have used it for {@link UseBook#DAYS} days;
   *     null where nothing tells, on a past day, or if the reader may not see everyone's use of it
   * @param openings by week; null where the reader may not know
   */
  record AppLine(
      AppRef app,
      String line,
      String sensitivity,
      List<String> owners,
      int entitlements,
      int holders,
      @Nullable Integer unused,
      int @Nullable [] openings) {}

  /**
   * An application's page.
   *
   * @param missing what it still lacks before it can be opened
   * @param tiles the tiles that lead to it
   */
  record AppPage(
      AppRef app,
      String line,
      String sensitivity,
      String contact,
      List<String> nicknames,
      @Nullable String address,
      @Nullable SeatsForm seats,
      Instant since,
      List<PersonLine> owners,
      List<RoleLine> entitlements,
      List<TileRef> tiles,
      List<String> missing,
      boolean mayEdit,
      boolean maySetWayIn,
      boolean mayArrange,
      Instant at,
      long position) {}

  /**
   * @param grants how many grants of it are in force
   */
  record RoleLine(
      String id,
      String name,
      String line,
      String sensitivity,
      boolean requestable,
      int holders,
      int grants) {}

  record TileRef(String id, String name) {}

  /** The small sets to choose from. */
  record PictureSet(List<String> pictures, List<String> hues) {}

  record ProfileForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue,
      @NotNull Sensitivity sensitivity,
      @NotNull @Size(max = 1000) String contact,
      @NotNull @Size(max = 100) List<@NotNull @Size(max = 500) String> nicknames) {
    FactValue.Profile profile() {
      return new FactValue.Profile(name, line, picture, hue, sensitivity, contact, nicknames);
    }
  }

  record RoleForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull Sensitivity sensitivity,
      boolean requestable) {
    AppDecisions.WantedRole role() {
      return new AppDecisions.WantedRole(name, line, sensitivity, requestable);
    }
  }

  record Propose(
      @NotNull @Valid ProfileForm profile,
      @Nullable @Size(max = 2000) String address,
      @NotNull @Size(max = 50) List<UUID> owners,
      @NotNull @Size(max = 200) List<@Valid RoleForm> entitlements) {}

  record Describe(@NotNull @Valid ProfileForm base, @NotNull @Valid ProfileForm wanted) {}

  /**
   * Seats that are paid for.
   *
   * @param price of one for a month, in hundredths of the currency's unit
   * @param currency three letters (ISO 4217)
   */
  record SeatsForm(
      @NotNull Integer count, @NotNull Long price, @NotNull @Size(max = 3) String currency) {
    static @Nullable SeatsForm of(FactValue.@Nullable Seats seats) {
      return seats == null ? null : new SeatsForm(seats.count(), seats.price(), seats.currency());
    }

    static FactValue.@Nullable Seats value(@Nullable SeatsForm form) {
      return form == null ? null : new FactValue.Seats(form.count(), form.price(), form.currency());
    }
  }

  /** What was seen and what is wanted; null for none on record. */
  record SetSeats(@Nullable @Valid SeatsForm base, @Nullable @Valid SeatsForm wanted) {}

  record SetLink(
      @Nullable @Size(max = 2000) String base, @NotNull @Size(max = 2000) String address) {}

  record SetState(
      @NotNull ApplicationState base,
      @NotNull ApplicationState state,
      @Nullable @Size(max = 1000) String reason) {}

  record SetAppOwners(
      @NotNull @Size(max = 50) List<UUID> base, @NotNull @Size(max = 50) List<UUID> owners) {}

  record ChangeRole(@NotNull @Valid RoleForm base, @NotNull @Valid RoleForm wanted) {}

  // ---- reading

  @GetMapping("/api/pictures")
  @Needs(signedIn = true)
  PictureSet pictures() {
    return new PictureSet(Pictures.PICTURES, Pictures.HUES);
  }

  @GetMapping("/api/apps")
  @Needs(value = Power.APPS_READ, orOwnerOf = ObjectKind.APPLICATION)
  AppsPage apps(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") List<String> state,
      @RequestParam(defaultValue = "name") String sort,
      @RequestParam(defaultValue = "false") boolean descending,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit,
      @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    List<Application> all =
        whole.access().apps().applications().stream().filter(a -> sees(viewer, a)).toList();
    String wanted = Folding.bare(find.strip());
    Lines lines = new Lines(viewer, whole, asOf == null);
    List<Application> fitting =
        all.stream()
            .filter(a -> wanted.isEmpty() || Folding.bare(a.name()).contains(wanted))
            .filter(a -> state.isEmpty() || state.contains(a.state().word()))
            .sorted(lines.order(sort, descending))
            .toList();
    return new AppsPage(
        fitting.size(),
        all.size(),
        count(all, a -> a.state() == ApplicationState.OPEN),
        count(all, a -> a.state() == ApplicationState.PROPOSED),
        count(all, a -> a.owners().isEmpty()),
        all.stream().mapToInt(a -> whole.access().holders(a).size()).max().orElse(0),
        lines.openings.isEmpty() ? List.of() : figures.weeks(UseFigures.WEEKS),
        Pages.of(fitting.stream(), offset, limit).map(lines::line).toList(),
        whole.at(),
        world.position());
  }

  private static int count(List<Application> all, Predicate<Application> some) {
    return (int) all.stream().filter(some).count();
  }

  private static boolean sees(Viewer viewer, Application app) {
    return viewer.authority().reaches(Power.APPS_READ, app.id())
        || viewer.authority().owns(app.id());
  }

  /** What is told of each application in the list; asked for once, not for each. */
  private final class Lines {
    private final Reading reading;
    private final PortalView whole;
    private final EngineAccess access;
    private final IntFunction<@Nullable RoaringBitmap> unused;
    private final Map<ApplicationId, int[]> openings;

    /**
     * @param now whether the present is told, which alone knows of use
     */
    Lines(Viewer viewer, PortalView whole, boolean now) {
      this.reading = new Reading(viewer.authority(), world.now());
      this.whole = whole;
      this.access = (EngineAccess) whole.access();
      this.unused =
          now && viewer.authority().has(Power.USE_READ)
              ? use.unused(
                  whole, access.snapshot(), Seen.everything(access.snapshot()), UseBook.DAYS)
              : e -> null;
      this.openings = now ? figures.byApp(viewer, whole, UseFigures.WEEKS) : Map.of();
    }

    /**
     * @param sort sensitivity, holders, unused, openings, or else name; what is alike by it, and
     *     what nothing is known of, stays in order of names
     */
    Comparator<Application> order(String sort, boolean descending) {
      ToLongFunction<Application> by =
          switch (sort) {
            case "sensitivity" -> app -> app.profile().sensitivity().ordinal();
            case "holders" -> app -> access.holders(app).size();
            case "unused" -> app -> Objects.requireNonNullElse(unused(app), -1);
            case "openings" ->
                app -> openings.containsKey(app.id()) ? sum(openings.get(app.id())) : -1;
            default -> names(access.apps().applications());
          };
      Map<ApplicationId, Long> known = new HashMap<>();
      Comparator<Application> order =
          Comparator.comparing(app -> known.computeIfAbsent(app.id(), id -> by.applyAsLong(app)));
      return descending ? order.reversed() : order;
    }

    /** They are in order of their names already. */
    private static ToLongFunction<Application> names(List<Application> all) {
      Map<ApplicationId, Integer> places = new HashMap<>();
      all.forEach(app -> places.put(app.id(), places.size()));
      return app -> places.getOrDefault(app.id(), 0);
    }

    private static long sum(int[] openings) {
      return Arrays.stream(openings).sum();
    }

    private @Nullable Integer unused(Application app) {
      if (!reading.seesEveryonesUse(app.id())) {
        return null;
      }
      RoaringBitmap left = Unused.altogether(access.snapshot(), access.numbers(app), unused);
      return left == null ? null : left.getCardinality();
    }

    AppLine line(Application app) {
      return new AppLine(
          AppRef.of(app),
          app.profile().line(),
          app.profile().sensitivity().word(),
          app.owners().stream()
              .flatMap(o -> whole.directory().person(o).stream())
              .map(PersonLine::called)
              .toList(),
          app.entitlements().size(),
          access.holders(app).size(),
          unused(app),
          openings.get(app.id()));
    }
  }

  @GetMapping("/api/apps/{id}")
  @Needs(value = Power.APPS_READ, orOwnerOf = ObjectKind.APPLICATION)
  AppPage app(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    Application app =
        whole
            .access()
            .apps()
            .application(new ApplicationId(id))
            .filter(a -> sees(viewer, a))
            .orElseThrow(() -> Refusal.of(Problem.absent("application")));
    boolean now = asOf == null;
    boolean edits =
        viewer.authority().reaches(Power.APPS_EDIT, app.id()) || viewer.authority().owns(app.id());
    return new AppPage(
        AppRef.of(app),
        app.profile().line(),
        app.profile().sensitivity().word(),
        app.profile().contact(),
        app.profile().nicknames(),
        app.wayIn() instanceof FactValue.WayIn.Link link ? link.address() : null,
        SeatsForm.of(app.seats()),
        app.since(),
        app.owners().stream()
            .flatMap(o -> whole.directory().person(o).stream())
            .map(PersonLine::named)
            .toList(),
        app.entitlements().stream().map(e -> role(whole.access(), e)).toList(),
        whole.tiles().stream()
            .filter(t -> t.face().application().equals(app.id()))
            .map(t -> new TileRef(t.id().value().toString(), t.name()))
            .toList(),
        missing(app),
        now && edits,
        now && viewer.authority().reaches(Power.APPS_SIGNON, app.id()),
        now && viewer.authority().has(Power.PORTAL_ARRANGE),
        whole.at(),
        world.position());
  }

  private static RoleLine role(AccessView access, Entitlement e) {
    return new RoleLine(
        e.id().value().toString(),
        e.role().name(),
        e.role().line(),
        e.role().sensitivity().word(),
        e.role().requestable(),
        access.holders(e.id()).size(),
        access.grants(e.id()).size());
  }

  private static List<String> missing(Application app) {
    List<String> missing = new ArrayList<>();
    if (app.wayIn() == null) {
      missing.add("way-in");
    }
    if (app.owners().isEmpty()) {
      missing.add("owner");
    }
    if (app.entitlements().isEmpty()) {
      missing.add("entitlement");
    }
    return missing;
  }

  // ---- acting

  @PostMapping("/api/apps")
  @Needs(value = Power.APPS_EDIT, foresees = true)
  Receipt propose(Viewer viewer, @Valid @RequestBody Propose form, IdempotencyKey repeatKey) {
    String address = form.address() == null || form.address().isBlank() ? null : form.address();
    return act(
        viewer,
        repeatKey.value(),
        ApplicationId.class,
        moment ->
            AppDecisions.propose(
                moment,
                form.profile().profile(),
                address,
                people(form.owners()),
                form.entitlements().stream().map(RoleForm::role).toList()));
  }

  @PutMapping("/api/apps/{id}/profile")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt describe(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Describe form) {
    return act(
        viewer,
        null,
        ApplicationId.class,
        moment ->
            AppDecisions.describe(
                moment, new ApplicationId(id), form.base().profile(), form.wanted().profile()));
  }

  @PutMapping("/api/apps/{id}/seats")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt setSeats(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetSeats form) {
    return act(
        viewer,
        null,
        ApplicationId.class,
        moment ->
            AppDecisions.setSeats(
                moment,
                new ApplicationId(id),
                SeatsForm.value(form.base()),
                SeatsForm.value(form.wanted())));
  }

  @PutMapping("/api/apps/{id}/link")
  @Needs(value = Power.APPS_SIGNON, foresees = true)
  Receipt setLink(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetLink form) {
    return act(
        viewer,
        null,
        ApplicationId.class,
        moment -> AppDecisions.setLink(moment, new ApplicationId(id), form.base(), form.address()));
  }

  @PutMapping("/api/apps/{id}/state")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt setState(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetState form) {
    return act(
        viewer,
        null,
        ApplicationId.class,
        moment ->
            AppDecisions.setState(
                moment,
                new ApplicationId(id),
                form.base(),
                form.state(),
                form.reason() == null ? "" : form.reason().strip()));
  }

  @PutMapping("/api/apps/{id}/owners")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt setOwners(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetAppOwners form) {
    return act(
        viewer,
        null,
        ApplicationId.class,
        moment ->
            AppDecisions.setOwners(
                moment, new ApplicationId(id), people(form.base()), people(form.owners())));
  }

  @PostMapping("/api/apps/{id}/entitlements")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt addEntitlement(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody RoleForm form,
      IdempotencyKey repeatKey) {
    return act(
        viewer,
        repeatKey.value(),
        EntitlementId.class,
        moment -> AppDecisions.addEntitlement(moment, new ApplicationId(id), form.role()));
  }

  @PutMapping("/api/entitlements/{id}")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.APPLICATION, foresees = true)
  Receipt changeEntitlement(
      Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeRole form) {
    return act(
        viewer,
        null,
        EntitlementId.class,
        moment -> {
          var known = AccessView.at(moment).apps().entitlement(new EntitlementId(id));
          if (known.isEmpty()) {
            return Outcome.refused(Problem.absent("entitlement"));
          }
          RoleForm base = form.base();
          return AppDecisions.changeEntitlement(
              moment,
              new EntitlementId(id),
              new FactValue.Role(
                  known.get().application(),
                  base.name(),
                  base.line(),
                  base.sensitivity(),
                  base.requestable()),
              form.wanted().role());
        });
  }

  private <T> Receipt act(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    return commands.perform(viewer, repeatKey, type, decision);
  }

  private static List<PersonId> people(List<UUID> ids) {
    return ids.stream().map(PersonId::new).toList();
  }
}
