package eleutheria.server.requests;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.Reading;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.RequestReaders;
import eleutheria.core.requests.Stage;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.use.UseBook;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** One request with its evidence, for who decides on it. */
@RestController
class RequestCaseController {
  /** More people than these are told as a bar. */
  private static final int MOST_SQUARES = 60;

  private final World world;
  private final RequestStore requests;
  private final ThreadStore threads;
  private final UseBook use;
  private final Organisation organisation;
  private final ServerSettings settings;
  private final Clock clock;

  RequestCaseController(
      World world,
      RequestStore requests,
      ThreadStore threads,
      UseBook use,
      Organisation organisation,
      ServerSettings settings,
      Clock clock) {
    this.world = world;
    this.requests = requests;
    this.threads = threads;
    this.use = use;
    this.organisation = organisation;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * A request for who decides on it.
   *
   * @param person whom it is for
   * @param step which step of the route waits, from 0; null once it is over
   * @param mine whether the reader is among those who decide it
   * @param behalf as whose deputy the reader decides; null for themselves
   * @param grants whether a yes of the reader's would be the last that it needs
   * @param stepIn whether the reader may decide in another's place
   * @param takeBackUntil until when the reader can take the last decision back; null if they can't
   * @param thread whether the reader reads what was said about it
   * @param evidence whether what follows is told: to whoever decides, while they do
   * @param others who holds it already, by unit: their place, the rest of the unit, the rest
   * @param holdsNow whether they hold it already, on another ground or until a day
   * @param tiles names of the tiles that would come to their front page
   * @param app the state of the application
   * @param askedBefore earlier requests of it for them
   * @param apart what separation rules keep from it, that they hold
   */
  record RequestCase(
      RequestView request,
      PersonLine person,
      @Nullable String manager,
      @Nullable Integer step,
      @Nullable String as,
      boolean mine,
      @Nullable String behalf,
      boolean grants,
      boolean stepIn,
      @Nullable Instant takeBackUntil,
      boolean thread,
      boolean evidence,
      List<ShareLine> others,
      boolean holdsNow,
      @Nullable Instant heldUntil,
      List<String> tiles,
      String app,
      int holdings,
      int unused,
      List<EntitlementRef> holds,
      List<EarlierRequest> askedBefore,
      List<KeptApart> apart,
      long position) {}

  /**
   * A breach of a separation rule that a yes would bring.
   *
   * @param one the rule's first side of the pair, and {@code other} its second
   * @param held what they hold of the two
   * @param acceptedUntil until when it is accepted; null if nobody has
   * @param mayAccept whether the reader may accept it
   */
  record KeptApart(
      String rule,
      String ruleName,
      String why,
      String one,
      String other,
      EntitlementRef held,
      @Nullable Instant acceptedUntil,
      boolean mayAccept) {}

  /**
   * @param place unit and site, or null for everybody else
   * @param people how many active people there are
   * @param squares who of the first sixty holds it, whom it is for marked
   */
  record ShareLine(
      @Nullable String unit,
      @Nullable String site,
      boolean elsewhere,
      int holders,
      int people,
      List<Square> squares) {}

  record Square(String name, boolean holds, boolean person) {}

  record EarlierRequest(String number, String stage, Instant asked, @Nullable LocalDate until) {}

  /** A request that is found by its number. */
  record RequestRef(String id, String number, String person, String title) {}

  @GetMapping("/api/requests/numbered/{number}")
  @Needs(signedIn = true, desk = true)
  RequestRef numbered(Viewer viewer, @PathVariable int number) {
    AccessView access = world.whole().access();
    return requests
        .numbered(number)
        .filter(request -> RequestReaders.reads(viewer.authority(), access, request))
        .map(
            request ->
                new RequestRef(
                    request.id().value().toString(),
                    request.name(),
                    access
                        .directory()
                        .person(request.person())
                        .map(p -> p.name().displayed())
                        .orElseThrow(),
                    access.apps().entitlement(request.entitlement()).orElseThrow().title()))
        .orElseThrow(() -> Refusal.of(Problem.absent("request")));
  }

  @GetMapping("/api/requests/{id}")
  @Needs(signedIn = true, desk = true)
  RequestCase request(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    AccessView access = whole.access();
    AccessRequest request =
        requests
            .find(new RequestId(id))
            .filter(r -> access.apps().entitlement(r.entitlement()).isPresent())
            .orElseThrow(() -> Refusal.of(Problem.absent("request")));
    Entitlement entitlement = access.apps().entitlement(request.entitlement()).orElseThrow();
    Application app = access.apps().applicationOf(entitlement);
    Person person = access.directory().person(request.person()).orElseThrow();
    Stage.Open waiting = request.stage() instanceof Stage.Open w ? w : null;
    Deciders deciders = waiting == null ? null : Deciders.of(access, request, waiting);
    boolean mine = deciders != null && deciders.include(viewer.person());
    PersonId behalf = deciders == null ? null : deciders.behalf(viewer.person());
    boolean stepIn = Deciders.maySteward(access, viewer.authority(), request.wish());
    if (!RequestReaders.reads(viewer.authority(), access, request)) {
      throw Refusal.of(Problem.absent("request"));
    }
    // Evidence is for whoever decides, while they decide.
    boolean decides = (mine || stepIn) && !request.wish().isOf(viewer.person());
    List<Entitlement> holds = decides ? access.holdings(person.id()) : List.of();
    return new RequestCase(
        world.look(
            (facts, now) -> RequestView.of(facts, now.access(), request, organisation.zone())),
        decides ? PersonLine.of(person) : PersonLine.named(person),
        access
            .directory()
            .manager(person.id())
            .flatMap(m -> access.directory().person(m))
            .map(p -> p.name().displayed())
            .orElse(null),
        waiting == null ? null : waiting.step(),
        deciders == null ? null : RequestView.word(deciders.capacity()),
        mine,
        behalf == null ? null : RequestView.name(access, behalf),
        waiting != null
            && decides
            && RequestDecisions.grants(access, request, waiting, viewer.person()),
        stepIn && !mine,
        takeBackUntil(viewer, request),
        RequestReaders.readsThread(viewer.authority(), access, request, threads.of(request.id())),
        decides,
        decides ? shares(access, entitlement, person) : List.of(),
        decides && access.holds(person.id(), entitlement.id()),
        decides ? access.ends(person.id(), entitlement.id()) : null,
        decides ? newTiles(whole, person, entitlement) : List.of(),
        app.state().word(),
        holds.size(),
        decides ? unused(viewer, whole, person) : 0,
        holds.stream().map(e -> EntitlementRef.of(access.apps(), e)).toList(),
        requests.forPerson(person.id(), decides ? 100 : 0).stream()
            .filter(
                r -> r.entitlement().equals(request.entitlement()) && !r.id().equals(request.id()))
            .map(
                r ->
                    new EarlierRequest(
                        r.name(), RequestStore.word(r.stage()), r.asked(), r.lastDay()))
            .toList(),
        decides ? apart(viewer, access, request, person) : List.of(),
        world.position());
  }

  private List<KeptApart> apart(
      Viewer viewer, AccessView access, AccessRequest request, Person person) {
    SeparationRules rules = rules();
    boolean mayAccept =
        viewer.authority().reaches(Power.ACCESS_EXCEPT, unit(person))
            && !viewer.person().equals(person.id());
    List<KeptApart> found = new ArrayList<>();
    for (Conflict conflict : rules.caused(access, person.id(), request.entitlement())) {
      SeparationRules.Rule rule = rules.rule(conflict.rule()).orElseThrow();
      EntitlementId held =
          conflict.one().equals(request.entitlement()) ? conflict.other() : conflict.one();
      found.add(
          new KeptApart(
              rule.id().value().toString(),
              rule.terms().name(),
              rule.terms().why(),
              conflict.one().value().toString(),
              conflict.other().value().toString(),
              access
                  .apps()
                  .entitlement(held)
                  .map(e -> EntitlementRef.of(access.apps(), e))
                  .orElseThrow(),
              rules.accepted(conflict).orElse(null),
              mayAccept));
    }
    return found;
  }

  private SeparationRules rules() {
    return world.look((facts, whole) -> SeparationRules.of(facts, whole.access().at()));
  }

  private @Nullable Instant takeBackUntil(Viewer viewer, AccessRequest request) {
    Instant now = clock.instant();
    return request
        .lastAnswer()
        .filter(a -> a.by().equals(viewer.person()))
        .map(a -> a.at().plus(settings.takeBack()))
        .filter(until -> until.isAfter(now))
        .orElse(null);
  }

  private static @Nullable String unit(Person person) {
    return person.value(Attributes.UNIT);
  }

  /** Who holds it: in their unit and site, elsewhere in the unit, and among all others. */
  private static List<ShareLine> shares(AccessView access, Entitlement e, Person whom) {
    Set<PersonId> holders = access.holders(e.id());
    Map<String, List<Person>> parts = new LinkedHashMap<>();
    parts.put("here", new ArrayList<>());
    parts.put("unit", new ArrayList<>());
    parts.put("rest", new ArrayList<>());
    for (Person person : access.directory().people()) {
      if (person.status() != PersonStatus.ACTIVE) {
        continue;
      }
      boolean unit = java.util.Objects.equals(unit(person), unit(whom));
      boolean site =
          java.util.Objects.equals(person.value(Attributes.SITE), whom.value(Attributes.SITE));
      requireNonNull(parts.get(unit ? (site ? "here" : "unit") : "rest")).add(person);
    }
    List<ShareLine> lines = new ArrayList<>();
    parts.forEach(
        (part, people) -> {
          if (people.isEmpty()) {
            return;
          }
          List<Person> order = new ArrayList<>(people);
          order.sort(
              java.util.Comparator.comparing((Person p) -> !holders.contains(p.id()))
                  .thenComparing(p -> !p.id().equals(whom.id())));
          lines.add(
              new ShareLine(
                  part.equals("rest") ? null : unit(whom),
                  part.equals("here") ? whom.value(Attributes.SITE) : null,
                  part.equals("unit"),
                  (int) people.stream().filter(p -> holders.contains(p.id())).count(),
                  people.size(),
                  part.equals("rest")
                      ? List.of()
                      : order.stream()
                          .limit(MOST_SQUARES)
                          .map(
                              p ->
                                  new Square(
                                      p.name().displayed(),
                                      holders.contains(p.id()),
                                      p.id().equals(whom.id())))
                          .toList()));
        });
    return lines;
  }

  private static List<String> newTiles(PortalView whole, Person person, Entitlement e) {
    return whole.tiles().stream()
        .filter(t -> t.face().needs().contains(e.id()) && !whole.held(t, person.id()))
        .map(t -> t.name())
        .toList();
  }

  /** How much of what they hold they are known not to have used; none where use is not seen. */
  private int unused(Viewer viewer, PortalView whole, Person person) {
    return new Reading(viewer.authority(), whole.directory()).seesAllUse(person.id())
        ? (int) use.unused(whole, person.id()).values().stream().filter(unused -> unused).count()
        : 0;
  }
}
