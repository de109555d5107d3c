package eleutheria.server.access;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.engine.Losses;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.SubjectView;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.use.Openings;
import eleutheria.server.use.UseBook;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who holds what and why; giving and ending. */
@NullMarked
@RestController
class AccessController {

  private final World world;
  private final Acts acts;
  private final Commands commands;
  private final Grounds grounds;
  private final WhoDid whoDid;
  private final Openings openings;
  private final UseBook use;
  private final Organisation organisation;

  AccessController(
      World world,
      Acts acts,
      Commands commands,
      Grounds grounds,
      WhoDid whoDid,
      Openings openings,
      UseBook use,
      Organisation organisation) {
    this.world = world;
    this.acts = acts;
    this.commands = commands;
    this.grounds = grounds;
    this.whoDid = whoDid;
    this.openings = openings;
    this.use = use;
    this.organisation = organisation;
  }

  /**
   * An entitlement's page.
   *
   * @param holders how many hold it, within the reader's reach
   * @param without how many are entitled and do not hold it, being paused or because the app is
   * @param units holders by unit, most first
   */
  record EntitlementPage(
      EntitlementRef entitlement,
      boolean requestable,
      int holders,
      int without,
      List<UnitShare> units,
      List<Grounds.GrantLine> grants,
      boolean mayGive,
      boolean mayEnd,
      boolean mayEdit,
      Instant at,
      long position) {}

  /**
   * @param people how many active people the unit has
   */
  record UnitShare(String unit, int holders, int people) {}

  record HoldersPage(int total, List<HolderLine> lines) {}

  /**
   * @param signs by what and whence of each ground
   * @param until when the last ground ends by itself; null if it does not
   * @param lastOpened when the person last opened a tile that needs it; null if that is not known
   */
  record HolderLine(
      PersonLine person,
      List<Grounds.Sign> signs,
      @Nullable Instant until,
      @Nullable Instant lastOpened) {}

  /**
   * What a person holds.
   *
   * @param unreached how many more they hold, outside the reader's reach
   */
  record PersonHoldings(
      PersonLine person,
      List<HoldingLine> held,
      int unreached,
      boolean mayDepart,
      Instant at,
      long position) {}

  /**
   * @param holds false where person or application is paused, so that being entitled has no effect
   * @param since the start of the unbroken time of holding; null while it is not held
   * @param unused whether it has been held and not used for 90 days; null where that is not known
   */
  record HoldingLine(
      EntitlementRef entitlement,
      boolean holds,
      List<Grounds.Sign> signs,
      @Nullable Instant since,
      @Nullable Instant until,
      @Nullable Instant lastOpened,
      @Nullable Boolean unused) {}

  /**
   * One holding with all its grounds.
   *
   * @param since the start of the unbroken time of holding; null while it is not held
   */
  record HoldingPage(
      PersonLine person,
      EntitlementRef entitlement,
      boolean holds,
      @Nullable Instant since,
      @Nullable Instant until,
      @Nullable Instant lastOpened,
      List<GroundView> grounds,
      Instant at,
      long position) {}

  record GiveForm(
      @NotNull @Size(max = 1000) List<SubjectView.@Valid SubjectForm> subjects,
      @Nullable LocalDate from,
      @Nullable LocalDate until,
      @NotNull @Size(max = 2000) String reason) {}

  record EndForm(
      @NotNull @Size(max = 1000) List<UUID> grants,
      @NotNull @Size(max = 100) List<@Valid MembershipRef> memberships,
      @NotNull @Size(max = 2000) String reason) {}

  /**
   * @param kind person or group
   */
  record MembershipRef(
      @NotNull UUID group,
      @NotNull @Pattern(regexp = "person|group") String kind,
      @NotNull UUID member) {
    GrantDecisions.Place place() {
      return new GrantDecisions.Place(
          new GroupId(group), kind.equals("person") ? new PersonId(member) : new GroupId(member));
    }
  }

  /**
   * What would take a holding away.
   *
   * @param cutOff whether there are more ways than are told
   */
  record WaysOut(List<WayOut> ways, boolean cutOff) {}

  /**
   * One way of ending one ground.
   *
   * @param cut grant, nearest_the_person, nearest_the_grant or attributes, which nothing here ends
   * @param enough whether this alone takes the holding away
   * @param others how many other people would lose the same; null where the reader's reach ends
   * @param besides how many holdings of other things would end, of anybody; null likewise
   * @param may whether the reader can do it
   * @param mirrored whether a source keeps one of the places
   */
  record WayOut(
      String grant,
      String cut,
      List<MemberPlace> places,
      boolean enough,
      @Nullable Integer others,
      @Nullable Long besides,
      boolean may,
      boolean mirrored) {}

  record MemberPlace(PersonView.GroupRef group, String kind, String member, String name) {}

  record UntilForm(
      @Nullable LocalDate base,
      @Nullable LocalDate until,
      @NotNull @Size(max = 2000) String reason) {}

  // ---- reading

  @GetMapping("/api/entitlements/{id}")
  @Needs(
      value = {Power.ACCESS_READ, Power.APPS_READ},
      orOwnerOf = ObjectKind.APPLICATION)
  EntitlementPage entitlement(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant asOf) {
    AccessView access = world.whole(asOf).access();
    Entitlement entitlement = seen(viewer, access, id);
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    boolean now = asOf == null;
    boolean grantsSeen = reach.sees(entitlement.application());
    Map<String, Integer> held = holdersByUnit(access, reach, entitlement);
    // Not the sum: somebody may work in two units.
    int holders =
        reach.seesAll(entitlement)
            ? access.holders(entitlement.id(), "", 0, 1).total()
            : held.values().stream().mapToInt(Integer::intValue).sum();
    int entitled = people(access, access.entitled(entitlement.id()), reach, entitlement).size();
    return new EntitlementPage(
        EntitlementRef.of(access.apps(), entitlement),
        entitlement.role().requestable(),
        holders,
        entitled - holders,
        units(viewer, access, held),
        grantsSeen
            ? grounds.lines(access, reach, entitlement, access.grants(entitlement.id()))
            : List.of(),
        now && viewer.authority().reaches(Power.ACCESS_GIVE, entitlement.application()),
        now && viewer.authority().reaches(Power.ACCESS_END, entitlement.application()),
        now
            && (viewer.authority().reaches(Power.APPS_EDIT, entitlement.application())
                || viewer.authority().owns(entitlement.application())),
        access.at(),
        world.position());
  }

  private static Entitlement seen(Viewer viewer, AccessView access, UUID id) {
    return access
        .apps()
        .entitlement(new EntitlementId(id))
        .filter(
            e ->
                viewer.authority().reaches(Power.ACCESS_READ, e.application())
                    || viewer.authority().reaches(Power.APPS_READ, e.application())
                    || viewer.authority().owns(e.application()))
        .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
  }

  /** Those of a set whom the reader may see with this entitlement, who have not departed. */
  private static List<Person> people(
      AccessView access, Set<PersonId> ids, AccessReach reach, Entitlement entitlement) {
    return ids.stream()
        .flatMap(p -> access.directory().person(p).stream())
        .filter(p -> p.status() != PersonStatus.DEPARTED)
        .filter(p -> reach.seesWith(access, p, entitlement))
        .sorted()
        .toList();
  }

  private static Map<String, Integer> holdersByUnit(
      AccessView access, AccessReach reach, Entitlement entitlement) {
    if (reach.seesAll(entitlement)) {
      return access.holdersByUnit(entitlement.id());
    }
    Map<String, Integer> held = new TreeMap<>();
    for (Person person : people(access, access.holders(entitlement.id()), reach, entitlement)) {
      held.merge(unit(person), 1, Integer::sum);
    }
    return held;
  }

  /** How large a unit is, is told to whoever its people are within reach of. */
  private static List<UnitShare> units(
      Viewer viewer, AccessView access, Map<String, Integer> held) {
    Map<String, Integer> all = new TreeMap<>(access.activeByUnit());
    all.keySet()
        .removeIf(
            unit ->
                !viewer.authority().reaches(Power.PEOPLE_READ, unit)
                    && !viewer.authority().reaches(Power.ACCESS_READ, unit));
    return held.entrySet().stream()
        .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
        .map(
            e ->
                new UnitShare(e.getKey(), e.getValue(), all.getOrDefault(e.getKey(), e.getValue())))
        .toList();
  }

  static String unit(Person person) {
    String unit = person.value(Attributes.UNIT);
    return unit == null ? "" : unit;
  }

  @GetMapping("/api/entitlements/{id}/holders")
  @Needs(value = Power.ACCESS_READ, orOwnerOf = ObjectKind.APPLICATION)
  HoldersPage holders(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") String unit,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit,
      @RequestParam(required = false) @Nullable Instant asOf) {
    AccessView access = world.whole(asOf).access();
    Entitlement entitlement = seen(viewer, access, id);
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    int skip = Pages.from(offset);
    int size = Pages.size(limit);
    List<Person> page;
    int total;
    if (find.isBlank() && reach.seesAll(entitlement)) {
      AccessView.Page found = access.holders(entitlement.id(), unit, skip, size);
      page = found.people().stream().flatMap(p -> access.directory().person(p).stream()).toList();
      total = found.total();
    } else {
      String wanted = Folding.bare(find.strip());
      List<Person> fitting =
          people(access, access.holders(entitlement.id()), reach, entitlement).stream()
              .filter(p -> wanted.isEmpty() || Folding.bare(p.name().displayed()).contains(wanted))
              .filter(p -> unit.isEmpty() || unit.equals(unit(p)))
              .toList();
      page = fitting.stream().skip(skip).limit(size).toList();
      total = fitting.size();
    }
    Map<PersonId, Instant> last =
        asOf == null
            ? openings.last(world.whole(), entitlement.id(), page.stream().map(Person::id).toList())
            : Map.of();
    List<List<Grounds.Sign>> signs =
        grounds.signs(
            access,
            access.directory().words(p -> reach.reading().seesPerson(p.id())),
            page.stream().map(p -> access.grounds(p.id(), entitlement.id())).toList());
    return new HoldersPage(
        total,
        IntStream.range(0, page.size())
            .mapToObj(
                i -> {
                  Person p = page.get(i);
                  return new HolderLine(
                      PersonLine.by(reach, p),
                      signs.get(i),
                      access.ends(p.id(), entitlement.id()),
                      reach.reading().seesUse(entitlement.application(), p.id())
                          ? last.get(p.id())
                          : null);
                })
            .toList());
  }

  /** Those whose use by a person the reader may see. */
  private static Set<EntitlementId> useSeen(
      AccessReach reach, Person person, List<Entitlement> entitlements) {
    return entitlements.stream()
        .filter(e -> reach.reading().seesUse(e.application(), person.id()))
        .map(Entitlement::id)
        .collect(Collectors.toSet());
  }

  @GetMapping("/api/people/{id}/holdings")
  @Needs(signedIn = true)
  PersonHoldings holdings(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    AccessView access = whole.access();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    Person person = seenPerson(reach, access, id);
    List<Entitlement> all = access.entitlements(person.id());
    List<Entitlement> seen = all.stream().filter(e -> reach.sees(person, e)).toList();
    Set<EntitlementId> used = asOf == null ? useSeen(reach, person, seen) : Set.of();
    Map<EntitlementId, Instant> last =
        used.isEmpty() ? Map.of() : openings.lastOf(whole, person.id());
    Map<EntitlementId, Boolean> unused = used.isEmpty() ? Map.of() : use.unused(whole, person.id());
    List<List<Grounds.Sign>> signs =
        grounds.signs(
            access,
            access.directory().words(p -> reach.reading().seesPerson(p.id())),
            seen.stream().map(e -> access.grounds(person.id(), e.id())).toList());
    return new PersonHoldings(
        PersonLine.by(reach, person),
        IntStream.range(0, seen.size())
            .mapToObj(
                i -> {
                  Entitlement e = seen.get(i);
                  return new HoldingLine(
                      EntitlementRef.of(access.apps(), e),
                      access.holds(person.id(), e.id()),
                      signs.get(i),
                      world.since(whole, person.id(), e.id()),
                      access.ends(person.id(), e.id()),
                      used.contains(e.id()) ? last.get(e.id()) : null,
                      used.contains(e.id()) ? unused.get(e.id()) : null);
                })
            .toList(),
        all.size() - seen.size(),
        asOf == null
            && person.status() != PersonStatus.DEPARTED
            && !person.id().equals(viewer.person())
            && reach.reading().reaches(Power.DEPARTURES_RUN, person.id()),
        access.at(),
        world.position());
  }

  private static Person seenPerson(AccessReach reach, AccessView access, UUID id) {
    return access
        .directory()
        .person(new PersonId(id))
        .filter(p -> reach.seesHere(access, p))
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }

  /** A person and an entitlement that the reader may see together. */
  private record Seen(Person person, Entitlement entitlement) {}

  private static Seen seen(AccessReach reach, AccessView access, UUID person, UUID entitlement) {
    Entitlement wanted =
        access
            .apps()
            .entitlement(new EntitlementId(entitlement))
            .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
    return access
        .directory()
        .person(new PersonId(person))
        .filter(p -> reach.seesWith(access, p, wanted))
        .map(p -> new Seen(p, wanted))
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }

  @GetMapping("/api/people/{id}/holdings/{entitlement}")
  @Needs(signedIn = true)
  HoldingPage holding(
      Viewer viewer,
      @PathVariable UUID id,
      @PathVariable UUID entitlement,
      @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    AccessView access = whole.access();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    Seen seen = seen(reach, access, id, entitlement);
    Entitlement wanted = seen.entitlement();
    Person person = seen.person();
    boolean holds = access.holds(person.id(), wanted.id());
    Instant since = holds ? world.since(whole, person.id(), wanted.id()) : null;
    return new HoldingPage(
        PersonLine.by(reach, person),
        EntitlementRef.of(access.apps(), wanted),
        holds,
        since,
        access.ends(person.id(), wanted.id()),
        asOf == null && reach.reading().seesUse(wanted.application(), person.id())
            ? openings.last(world.whole(), wanted.id(), List.of(person.id())).get(person.id())
            : null,
        grounds.of(viewer, access, person.id(), wanted, asOf == null),
        access.at(),
        world.position());
  }

  /** What would take a holding away: for each ground what ends it, and what else that would do. */
  @GetMapping("/api/people/{id}/holdings/{entitlement}/ways-out")
  @Needs(
      value = {Power.ACCESS_END, Power.GROUPS_EDIT},
      orGroupOwner = true)
  WaysOut waysOut(Viewer viewer, @PathVariable UUID id, @PathVariable UUID entitlement) {
    AccessView access = world.whole().access();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    Seen seen = seen(reach, access, id, entitlement);
    Entitlement wanted = seen.entitlement();
    Person person = seen.person();
    Losses.Options options = world.taking(person.id(), wanted.id());
    boolean mayEnd = viewer.authority().reaches(Power.ACCESS_END, wanted.application());
    return new WaysOut(
        options.options().stream()
            .map(option -> wayOut(viewer, access.directory(), option, mayEnd, reach))
            .toList(),
        options.cutOff());
  }

  private static WayOut wayOut(
      Viewer viewer,
      DirectoryView directory,
      Losses.Option option,
      boolean mayEnd,
      AccessReach reach) {
    boolean mirrored = false;
    boolean fills = true;
    for (Losses.Place place : option.places()) {
      mirrored |= directory.group(place.group()).filter(Group::listed).isEmpty();
      fills &= viewer.authority().has(Power.GROUPS_EDIT) || viewer.authority().owns(place.group());
    }
    boolean may =
        switch (option.cut()) {
          case GRANT -> mayEnd;
          case ATTRIBUTES -> false;
          case NEAREST_THE_PERSON, NEAREST_THE_GRANT -> fills && !mirrored;
        };
    boolean all = reach.seesEveryone();
    return new WayOut(
        option.grant().value().toString(),
        option.cut().name().toLowerCase(Locale.ROOT),
        option.places().stream().map(place -> place(directory, place)).toList(),
        option.enough(),
        all ? option.others() : null,
        all ? option.besides() - option.others() : null,
        may,
        mirrored);
  }

  private static MemberPlace place(DirectoryView directory, Losses.Place place) {
    return new MemberPlace(
        PersonView.ref(directory, place.group()),
        place.member().kind().word(),
        place.member().value().toString(),
        place.member() instanceof GroupId group
            ? PersonView.ref(directory, group).name()
            : directory
                .person((PersonId) place.member())
                .map(p -> p.name().displayed())
                .orElse(""));
  }

  /** A time for which something was held. */
  record HeldTime(Instant from, @Nullable Instant until) {}

  /**
   * When somebody held something, as far as anything is on record.
   *
   * @param until null where it is held at the end
   */
  record HeldTimes(Instant begins, Instant at, List<HeldTime> times) {}

  /** All the times for which a person held something, until the day that is shown. */
  @GetMapping("/api/people/{id}/holdings/{entitlement}/times")
  @Needs(signedIn = true)
  HeldTimes times(
      Viewer viewer,
      @PathVariable UUID id,
      @PathVariable UUID entitlement,
      @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    AccessView access = whole.access();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    Person person = seenPerson(reach, access, id);
    Entitlement wanted =
        access
            .apps()
            .entitlement(new EntitlementId(entitlement))
            .filter(e -> reach.sees(person, e))
            .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
    Instant at = access.at();
    return new HeldTimes(
        requireNonNull(world.begins()),
        at,
        world.times(whole, person.id(), wanted.id()).stream()
            .map(t -> new HeldTime(t.from(), t.until().isAfter(at) ? null : t.until()))
            .toList());
  }

  // ---- giving

  @PostMapping("/api/entitlements/{id}/grants")
  @Needs(value = Power.ACCESS_GIVE, foresees = true)
  Receipt give(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody GiveForm form,
      IdempotencyKey repeatKey) {
    List<FactValue.Subject> subjects = subjects(form);
    return act(
        viewer, repeatKey.value(), Integer.class, moment -> give(moment, id, form, subjects));
  }

  private static List<FactValue.Subject> subjects(GiveForm form) {
    return form.subjects().stream().map(SubjectView.SubjectForm::subject).toList();
  }

  private static Outcome<Integer> give(
      Moment moment, UUID id, GiveForm form, List<FactValue.Subject> subjects) {
    return GrantDecisions.give(
        moment, new EntitlementId(id), subjects, form.from(), form.until(), form.reason());
  }

  // ---- ending

  /** Ends grants, and takes people out of listed groups, in one act. */
  @PostMapping("/api/grants/end")
  @Needs(
      value = {Power.ACCESS_END, Power.GROUPS_EDIT},
      orGroupOwner = true,
      foresees = true)
  Receipt end(Viewer viewer, @Valid @RequestBody EndForm form, IdempotencyKey repeatKey) {
    return act(viewer, repeatKey.value(), Integer.class, moment -> end(moment, form));
  }

  private static Outcome<Integer> end(Moment moment, EndForm form) {
    return GrantDecisions.end(
        moment,
        form.grants().stream().map(GrantId::new).toList(),
        form.memberships().stream().map(MembershipRef::place).toList(),
        form.reason());
  }

  @PutMapping("/api/grants/{id}/until")
  @Needs(
      value = {Power.ACCESS_GIVE, Power.ACCESS_END},
      foresees = true)
  Receipt setUntil(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody UntilForm form) {
    return act(
        viewer,
        null,
        GrantId.class,
        moment ->
            GrantDecisions.setUntil(
                moment, new GrantId(id), form.base(), form.until(), form.reason()));
  }

  private <T> Receipt act(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    try {
      return commands.perform(viewer, repeatKey, type, decision);
    } catch (Refusal refusal) {
      throw new Refusal(refusal.problems().stream().map(this::whoEnded).toList());
    }
  }

  /** Says who was quicker, where a grant has ended already. */
  private Problem whoEnded(Problem problem) {
    if (!problem.code().equals("grant.ended")) {
      return problem;
    }
    return whoDid
        .last(ObjectId.parse(problem.field()))
        .map(
            did ->
                new Problem(
                    problem.kind(),
                    problem.code(),
                    "",
                    "%s ended it already, at %s."
                        .formatted(
                            did.person() == null
                                ? "The clock"
                                : world
                                    .now()
                                    .person(did.person())
                                    .map(p -> p.name().displayed())
                                    .orElse("Someone"),
                            DateTimeFormatter.ofPattern("HH:mm")
                                .withZone(organisation.zone())
                                .format(did.at()))))
        .orElse(problem);
  }
}
