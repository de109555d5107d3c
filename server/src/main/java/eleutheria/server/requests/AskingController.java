package eleutheria.server.requests;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.NearWords;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.Problem;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.AskSheet;
import eleutheria.core.requests.AskedForm;
import eleutheria.core.requests.Asking;
import eleutheria.core.requests.Pace;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.RouteDecisions;
import eleutheria.core.requests.Wish;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.Colleague;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.RequestForms;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What can be asked for, for whom, and asking for it. */
@RestController
class AskingController {
  private static final int MINE = 100;

  /** For how many people one looks at once what asking would come to. */
  private static final int MOST_LOOKED_AT = 50;

  private static final int MOST_AT_ONCE = 200;
  private static final int MOST_BYTES = 2 * 1024 * 1024;
  private static final int MOST_ANSWERS = 150;
  private static final Duration LATELY = Duration.ofDays(365);

  private final World world;
  private final RequestActs acts;
  private final RequestStore store;
  private final Organisation organisation;
  private final Clock clock;

  AskingController(
      World world, RequestActs acts, RequestStore store, Organisation organisation, Clock clock) {
    this.organisation = organisation;
    this.world = world;
    this.acts = acts;
    this.store = store;
    this.clock = clock;
  }

  record AskablePage(int total, List<AskableLine> lines) {}

  /**
   * Something that one could ask for.
   *
   * @param high whether it is given until a day only
   * @param heldUntil when one's own holding ends by itself; null if it is not held
   * @param waiting the number of one's own request that waits
   */
  record AskableLine(
      EntitlementRef entitlement,
      boolean high,
      @Nullable Instant heldUntil,
      @Nullable String waiting) {}

  /**
   * What asking for one thing would come to.
   *
   * @param whom the people whom it would be for
   * @param forOthers whether one may ask for anybody but oneself
   * @param mostDays how many days can be asked for at most; null for no limit
   * @param days what is offered as how long, in days
   * @param form which form it is: another where what is asked has changed
   * @param questions what is asked beside the reason
   * @param colleagues whom one may name where a colleague is asked for
   * @param earlier what one said the last time one asked for it; empty if one never has; the same
   *     for {@code earlierAnswers}, by key
   * @param pace how long it took for the application in the last year, of the newest 200 requests;
   *     null where too few were decided
   */
  record AskView(
      EntitlementRef entitlement,
      List<AskFor> whom,
      boolean forOthers,
      boolean needsEnd,
      @Nullable Integer mostDays,
      List<Integer> days,
      String form,
      List<AskQuestion> questions,
      List<Colleague> colleagues,
      String earlier,
      Map<String, List<String>> earlierAnswers,
      @Nullable PaceView pace) {}

  /**
   * What asking would come to for one person.
   *
   * @param self whether that is oneself
   * @param askable false where it cannot be asked for now; {@code why} says why
   * @param steps who would decide, in their order
   */
  record AskFor(
      Colleague person,
      boolean self,
      boolean askable,
      @Nullable String why,
      @Nullable Instant heldUntil,
      List<AskStep> steps) {}

  /**
   * @param maybe whether it depends on what is answered
   * @param deputies who decides for whom of them
   */
  record AskStep(
      int step,
      boolean maybe,
      String as,
      List<String> people,
      List<RequestView.DeputyRef> deputies) {}

  /**
   * Whom one could ask for.
   *
   * @param team whether they are below oneself
   * @param why why it cannot be asked for them now; null where it can
   */
  record AskWhom(Colleague person, boolean team, @Nullable String why) {}

  record AskWhomPage(int total, List<AskWhom> lines) {}

  /**
   * @param person whom it is for; null for oneself
   * @param form which form was answered, as it was told; null where that does not matter
   * @param answers to its questions, by key; days as ISO 8601, yes and no as true and false, people
   *     by id
   */
  record AskForm(
      @Nullable UUID person,
      @NotNull UUID entitlement,
      @Nullable LocalDate until,
      @NotNull @Size(max = 4000) String reason,
      @Nullable @Size(max = 40) String form,
      @Nullable @Size(max = MOST_ANSWERS)
          Map<
                  @Size(max = 100) String,
                  @NotNull @Size(max = MOST_ANSWERS) List<@NotNull @Size(max = 8000) String>>
              answers) {
    Map<String, List<String>> given() {
      return answers == null ? Map.of() : answers;
    }
  }

  /** At most 200 at once. */
  record AskManyForm(
      @NotNull @Size(min = 1, max = MOST_AT_ONCE) List<@NotNull @Valid AskForm> requests) {}

  /**
   * What became of each, in the order in which they were sent.
   *
   * @param request null where it was refused
   * @param problems why it was refused; empty where it was not
   */
  record SentLine(@Nullable UUID request, List<ProblemView.Item> problems) {}

  record SentView(List<SentLine> lines) {}

  record SheetView(List<SheetLine> lines) {}

  /**
   * A line of a file that asks for many.
   *
   * @param line in the file; the heading is line 1
   * @param wantedPerson what the line says, where nobody is found by it; the same for {@code
   *     wantedEntitlement}
   * @param wrong why it cannot be asked for; empty where it can
   */
  record SheetLine(
      long line,
      String wantedPerson,
      String wantedEntitlement,
      @Nullable Colleague person,
      @Nullable EntitlementRef entitlement,
      @Nullable LocalDate until,
      String reason,
      Map<String, List<String>> answers,
      List<String> wrong) {
    static SheetLine of(AccessView access, AskSheet.Line line) {
      return new SheetLine(
          line.line(),
          line.wantedPerson(),
          line.wantedEntitlement(),
          line.person() == null
              ? null
              : access.directory().person(line.person()).map(Colleague::of).orElse(null),
          line.entitlement() == null
              ? null
              : access
                  .apps()
                  .entitlement(line.entitlement())
                  .map(e -> EntitlementRef.of(access.apps(), e))
                  .orElse(null),
          line.until(),
          line.reason(),
          line.answers(),
          line.wrong());
    }
  }

  @GetMapping("/api/askable")
  @Needs(signedIn = true)
  AskablePage askable(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "60") int limit) {
    AccessView access = world.whole().access();
    List<AccessRequest> asked =
        store.forPerson(viewer.person(), MINE).stream().filter(r -> r.stage().open()).toList();
    List<Entitlement> open = new ArrayList<>();
    for (Application app : access.apps().applications()) {
      for (Entitlement e : app.entitlements()) {
        if (app.open() && e.role().requestable() && !heldForEver(access, viewer.person(), e.id())) {
          open.add(e);
        }
      }
    }
    List<Entitlement> fitting =
        NearWords.find(
            open,
            find,
            e -> {
              FactValue.Profile profile = access.apps().applicationOf(e).profile();
              return List.of(
                  e.title(),
                  profile.line(),
                  e.role().line(),
                  String.join(" ", profile.nicknames()));
            });
    return new AskablePage(
        fitting.size(),
        Pages.of(fitting.stream(), offset, limit)
            .map(
                e ->
                    new AskableLine(
                        EntitlementRef.of(access.apps(), e),
                        high(e),
                        access.holds(viewer.person(), e.id())
                            ? access.ends(viewer.person(), e.id())
                            : null,
                        asked.stream()
                            .filter(r -> r.entitlement().equals(e.id()))
                            .map(AccessRequest::name)
                            .findFirst()
                            .orElse(null)))
            .toList());
  }

  private static boolean high(Entitlement e) {
    return e.role().sensitivity() == Sensitivity.HIGH;
  }

  private static boolean heldForEver(AccessView access, PersonId person, EntitlementId id) {
    return access.entitled(person, id) && access.entitledUntil(person, id) == null;
  }

  /** What asking for an entitlement would come to: for oneself, or for these people. */
  @GetMapping("/api/askable/{id}")
  @Needs(signedIn = true)
  AskView ask(
      Viewer viewer, @PathVariable UUID id, @RequestParam(defaultValue = "") List<UUID> person) {
    AccessView access = world.whole().access();
    Entitlement e = known(access, id);
    AccessReach reach = reach(viewer, access);
    if (person.size() > MOST_LOOKED_AT) {
      throw Refusal.of(
          Problem.invalid(
              "too-many",
              "person",
              "That is more than %d people at once.".formatted(MOST_LOOKED_AT)));
    }
    List<AskFor> whom = new ArrayList<>();
    for (PersonId one :
        person.isEmpty()
            ? List.of(viewer.person())
            : person.stream().map(PersonId::new).distinct().toList()) {
      Person found =
          access
              .directory()
              .person(one)
              .filter(p -> Asking.mayAskFor(reach, p, e))
              .orElseThrow(() -> Refusal.of(Problem.absent("person")));
      Wish wish = new Wish(viewer.person(), one, e.id());
      String why = why(access, wish, found, e, store.forPerson(one, MINE));
      whom.add(
          new AskFor(
              Colleague.of(found),
              wish.forSelf(),
              why == null,
              why,
              access.holds(one, e.id()) ? access.ends(one, e.id()) : null,
              steps(access, wish)));
    }
    FactValue.RequestForm form = access.apps().form(e);
    AskedForm asked = AskedForm.of(form, access.directory(), viewer.person());
    Integer most = mostDays(e, form.term());
    Optional<AccessRequest> earlier =
        store.of(viewer.person(), MINE).stream()
            .filter(r -> r.entitlement().equals(e.id()) && r.wish().asker().equals(viewer.person()))
            .findFirst();
    return new AskView(
        EntitlementRef.of(access.apps(), e),
        whom,
        Asking.others(reach, access, e).findAny().isPresent(),
        high(e) || !form.term().endless(),
        most,
        form.term().choices().stream().filter(days -> most == null || days <= most).toList(),
        RequestForms.version(form),
        AskQuestion.of(asked, LocalDate.ofInstant(clock.instant(), organisation.zone())),
        asked.colleagues().stream()
            .flatMap(one -> access.directory().person(one).stream())
            .map(Colleague::of)
            .toList(),
        earlier.map(AccessRequest::reason).orElse(""),
        earlier.map(AskingController::answers).orElse(Map.of()),
        PaceView.of(
            Pace.of(store.took(access.apps().applicationOf(e), clock.instant().minus(LATELY)))
                .orElse(null)));
  }

  private static @Nullable Integer mostDays(Entitlement e, Term term) {
    Integer most = term.most();
    return !high(e)
        ? most
        : Integer.valueOf(
            most == null
                ? RequestDecisions.LONGEST_HIGH
                : Math.min(most, RequestDecisions.LONGEST_HIGH));
  }

  private static Map<String, List<String>> answers(AccessRequest request) {
    Map<String, List<String>> answers = new LinkedHashMap<>();
    request.form().forEach(each -> answers.put(each.key(), each.values()));
    return answers;
  }

  private static Entitlement known(AccessView access, UUID id) {
    return access
        .apps()
        .entitlement(new EntitlementId(id))
        .filter(x -> access.apps().applicationOf(x).open())
        .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
  }

  private static AccessReach reach(Viewer viewer, AccessView access) {
    return new AccessReach(viewer.authority(), access.directory());
  }

  /** Why somebody's asking would be refused now, whatever they write; null if it would not. */
  private static @Nullable String why(
      AccessView access, Wish wish, Person person, Entitlement e, List<AccessRequest> theirs) {
    return Asking.standing(access, wish, person, e, theirs).stream()
        .map(Problem::sentence)
        .findFirst()
        .orElse(null);
  }

  private static List<AskStep> steps(AccessView access, Wish wish) {
    FactValue.Route route =
        access.apps().route(access.apps().entitlement(wish.entitlement()).orElseThrow());
    return RouteDecisions.drawn(access, wish, route).stream()
        .filter(step -> !step.settled())
        .map(
            step ->
                new AskStep(
                    step.at(),
                    step.maybe(),
                    RequestView.word(step.deciders().capacity()),
                    step.deciders().people().stream()
                        .limit(5)
                        .map(p -> RequestView.name(access, p))
                        .toList(),
                    RequestView.deputies(access, step.deciders())))
        .toList();
  }

  /** Whom one could ask for, one's own team first. */
  @GetMapping("/api/askable/{id}/people")
  @Needs(signedIn = true)
  AskWhomPage people(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "60") int limit) {
    AccessView access = world.whole().access();
    Entitlement e = known(access, id);
    AccessReach reach = reach(viewer, access);
    String bare = Folding.bare(find.strip());
    List<Person> fitting =
        Asking.others(reach, access, e)
            .filter(p -> p.foundBy(bare))
            .sorted(
                Comparator.comparing((Person p) -> !reach.leads(p.id()))
                    .thenComparing(Comparator.naturalOrder()))
            .toList();
    List<AccessRequest> waiting = store.open(e.id());
    return new AskWhomPage(
        fitting.size(),
        Pages.of(fitting, offset, limit).stream()
            .map(
                p ->
                    new AskWhom(
                        Colleague.of(p),
                        reach.leads(p.id()),
                        why(access, new Wish(viewer.person(), p.id(), e.id()), p, e, waiting)))
            .toList());
  }

  @PostMapping("/api/requests")
  @Needs(signedIn = true)
  Receipt ask(Viewer viewer, @Valid @RequestBody AskForm form, IdempotencyKey repeatKey) {
    return Receipt.of(ask(viewer, form, repeatKey.value()));
  }

  private Acts.Receipt<RequestId> ask(Viewer viewer, AskForm form, @Nullable String repeatKey) {
    return acts.ask(
        viewer,
        repeatKey,
        form.person() == null ? viewer.person() : new PersonId(form.person()),
        new EntitlementId(form.entitlement()),
        form.until(),
        form.reason(),
        form.form(),
        form.given());
  }

  /** Several requests, each by itself: what is refused of one does not touch the others. */
  @PostMapping("/api/requests/many")
  @Needs(signedIn = true)
  SentView askMany(Viewer viewer, @Valid @RequestBody AskManyForm form, IdempotencyKey repeatKey) {
    List<SentLine> lines = new ArrayList<>();
    for (AskForm one : form.requests()) {
      try {
        // A repeat sends the same lines in the same order.
        RequestId asked = ask(viewer, one, repeatKey.of(lines.size())).result();
        lines.add(new SentLine(asked.value(), List.of()));
      } catch (Refusal refused) {
        lines.add(
            new SentLine(null, refused.problems().stream().map(ProblemView.Item::of).toList()));
      }
    }
    return new SentView(lines);
  }

  /** A CSV file (RFC 4180, UTF-8, at most 2 MB and 5,000 lines), with nothing done yet. */
  @PostMapping("/api/requests/sheet")
  @Needs(signedIn = true)
  SheetView sheet(Viewer viewer, HttpServletRequest request) throws IOException {
    // Never more than this is read, whatever is sent.
    byte[] file = request.getInputStream().readNBytes(MOST_BYTES + 1);
    if (file.length > MOST_BYTES) {
      throw Refusal.of(
          Problem.invalid(
              "request.sheet", "file", "The file is larger than 2 MB. Split it into several."));
    }
    AccessView access = world.whole().access();
    return switch (AskSheet.read(
        file,
        reach(viewer, access),
        access,
        LocalDate.ofInstant(clock.instant(), organisation.zone()),
        viewer.person(),
        store.open())) {
      case AskSheet.Reading.Bad bad ->
          throw Refusal.of(Problem.invalid("request.sheet", "file", bad.sentence()));
      case AskSheet.Reading.Good good ->
          new SheetView(good.lines().stream().map(line -> SheetLine.of(access, line)).toList());
    };
  }
}
