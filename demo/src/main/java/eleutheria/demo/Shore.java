package eleutheria.demo;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.SOUGHT;
import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.facts.Term;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.portal.CollectionDecisions;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.FrontPageDecisions;
import eleutheria.core.portal.Placing;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.TileDecisions;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.AskedForm;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.DeputyDecisions;
import eleutheria.core.requests.FormDecisions;
import eleutheria.core.requests.Message;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.RouteDecisions;
import eleutheria.core.requests.Stage;
import eleutheria.core.requests.ThreadDecisions;
import eleutheria.core.requests.Wish;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.requests.ThreadStore;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Loader;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.random.RandomGenerator;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** The applications, grants, collections, requests and openings of the demo's past. */
final class Shore {
  private static final Actor SETUP = new Actor.Setup();
  private static final int WATCHED = 182;
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);
  private static final List<String> NEEDS =
      List.of(
          "Covering for a colleague on leave.",
          "I take over the late shift from Monday.",
          "For the winter timetable.",
          "The lead asked me to help out with this.",
          "I need to look things up for customers.",
          "For the stock count at the end of the month.",
          "Standing in while we are short of people.",
          "New on this vessel; the others all have it.");

  /** What people call some apps. */
  private static final Map<String, List<String>> NICKNAMES =
      Map.of(
          "Crewsheet", List.of("rota", "shifts", "watch bill"),
          "Farebox", List.of("tickets", "till"),
          "Payrow", List.of("salary", "payslip"),
          "Expense Slip", List.of("receipts", "travel money"),
          "Halyard Mail", List.of("email", "inbox"),
          "Safe Passage", List.of("accident", "near miss"));

  private final Loader loader;
  private final ZoneId zone;
  private final LocalDate today;
  private final RandomGenerator random;
  private final Map<String, ApplicationId> apps = new HashMap<>();
  private final Map<String, CollectionId> collections = new LinkedHashMap<>();
  private final Map<String, TileId> tiles = new HashMap<>();
  private final Map<RequestId, AccessRequest> requests = new LinkedHashMap<>();
  private final List<Said> said = new ArrayList<>();

  /** The first message of a request's thread. */
  private record Said(RequestId request, Message message, long position) {}

  private final Map<RequestId, Long> positions = new HashMap<>();

  /** A request whose decider is away. */
  private @Nullable RequestId forDeputy;

  private int nextNumber = 2001;

  Shore(Loader loader, ZoneId zone, LocalDate today, RandomGenerator random) {
    this.loader = loader;
    this.zone = zone;
    this.today = today;
    this.random = random;
  }

  private Instant at(LocalDate day, int hour, int minute) {
    return day.atTime(LocalTime.of(hour, minute, random.nextInt(60))).atZone(zone).toInstant();
  }

  private PersonId person(String userName) {
    return loader.directory().byUserName(userName).orElseThrow();
  }

  private Actor as(String userName) {
    return new Actor.OfPerson(person(userName));
  }

  private static FactValue.Subject subject(Loader loader, String to) {
    if (to.startsWith("group ")) {
      String name = to.substring("group ".length());
      return new FactValue.Subject.OfGroup(
          loader.directory().groups().stream()
              .filter(g -> g.name().equals(name))
              .map(Group::id)
              .findFirst()
              .orElseThrow());
    }
    return new FactValue.Subject.ByFilter(to.substring("filter ".length()));
  }

  // ---- the first days

  /** Adds all applications, grants what everyone gets, and makes the portal. */
  void begin(LocalDate day) {
    for (Catalogue.App app : Catalogue.APPS) {
      importFile(day, app);
    }
    collection(day, "Today aboard", "", everyone(), person("petra.lindholm"));
    collection(
        day,
        "Ticket office",
        "For the counter and the quay",
        audience(
            "filter unit eq \"Ticketing\"", "filter unit eq \"Terminals\"", "group Ticket office"),
        person("lena.aho"));
    collection(
        day, "On the bridge", "", audience("filter unit eq \"Deck crew\""), lead("Deck crew"));
    collection(
        day,
        "Harbour and traffic",
        "Berths, boards and calls",
        audience("filter unit eq \"Harbour control\"", "filter unit eq \"Terminals\""),
        lead("Harbour control"));
    collection(
        day,
        "Workshop floor",
        "",
        audience("filter unit eq \"Workshop\"", "group Dockyard contractors"),
        person("tomas.ilves"));
    collection(day, "Money", "", audience("filter unit eq \"Finance\""), lead("Finance"));
    collection(day, "My work life", "", everyone(), person("petra.lindholm"));
    // Whoever owned it has left, and nobody has noticed.
    collection(
        day,
        "First weeks aboard",
        "What you need to find your way",
        audience("filter employment eq \"seasonal\"", "filter employment eq \"cadet\""),
        null);
    collections.forEach((name, id) -> fill(day, name, id));
    frontPage(
        day,
        "Counter and quay",
        audience("filter unit eq \"Ticketing\"", "filter unit eq \"Terminals\""),
        List.of("Ticket office", "Today aboard"),
        "The %s timetable is in Farebox from Monday.".formatted(nextSeason(today)));
    frontPage(
        day,
        "On board",
        audience("filter unit eq \"Deck crew\""),
        List.of("On the bridge", "Today aboard"),
        null);
    frontPage(
        day,
        "New here",
        new FactValue.Audience(false, List.of(), 30),
        List.of("First weeks aboard", "Today aboard"),
        "Good to have you. Help Bell, ext. 4400, answers every question.");
    // A tile that needs nothing, and one whose days are over and which nobody has taken away.
    TileId plan = plain(day, "Sailing Plan", "All departures of today", "clock", null);
    plain(day, "Summer Extras", "Extra boats of the season", "sun", today.minusDays(60));
    CollectionId aboard = requireNonNull(collections.get("Today aboard"));
    loader.act(
        at(day, 17, 5),
        SETUP,
        moment ->
            CollectionDecisions.arrange(
                moment,
                aboard,
                List.of(
                    new Placing<>(plan, null, new Placing.Spot<>(tiles.get("Tidewatch"), false)))));
  }

  private TileId plain(
      LocalDate day, String name, String line, String picture, @Nullable LocalDate until) {
    String host = name.toLowerCase(java.util.Locale.ROOT).replace(' ', '-');
    return loader.act(
        at(day, 17, 2),
        SETUP,
        moment ->
            TileDecisions.make(
                moment,
                new TileDecisions.Terms(
                    new FactValue.TileFace(
                        name,
                        line,
                        picture,
                        "tide",
                        requireNonNull(apps.get("Quaynotes")),
                        new TreeSet<>(),
                        "https://gangway.ternsound.example/" + host,
                        "",
                        true,
                        false),
                    everyone(),
                    null,
                    until)));
  }

  private void frontPage(
      LocalDate day,
      String name,
      FactValue.Audience audience,
      List<String> named,
      @Nullable String notice) {
    FrontPageId id =
        loader.act(
            at(day, 16, 30),
            SETUP,
            moment ->
                FrontPageDecisions.make(
                    moment,
                    new FrontPageDecisions.Terms(
                        name,
                        false,
                        audience,
                        List.of(),
                        notice == null
                            ? null
                            : new FrontPageDecisions.Notice(notice, null, null))));
    loader.act(
        at(day, 16, 59),
        SETUP,
        moment ->
            FrontPageDecisions.arrange(
                moment,
                id,
                exactly(
                    named.stream().map(collections::get).toList(),
                    PortalView.at(moment).page(id).orElseThrow().ranks())));
  }

  /** The moves after which these alone are named, in this order. */
  private static List<Placing<CollectionId, String>> exactly(
      List<CollectionId> wanted, Map<CollectionId, String> ranks) {
    List<Placing<CollectionId, String>> moves = new ArrayList<>();
    ranks.forEach(
        (collection, rank) -> {
          if (!wanted.contains(collection)) {
            moves.add(new Placing<>(collection, rank, null));
          }
        });
    CollectionId last = null;
    for (CollectionId collection : wanted) {
      moves.add(new Placing<>(collection, ranks.get(collection), new Placing.Spot<>(last, false)));
      last = collection;
    }
    return moves;
  }

  private PersonId lead(String unit) {
    String title =
        Unit.ALL.stream().filter(u -> u.name().equals(unit)).findFirst().orElseThrow().lead();
    return loader.directory().people().stream()
        .filter(p -> p.status() == PersonStatus.ACTIVE)
        .filter(p -> unit.equals(p.value(Attributes.UNIT)) && title.equals(p.value("title")))
        .min(java.util.Comparator.comparing(Person::since))
        .map(Person::id)
        .orElseGet(() -> person("ines.roth"));
  }

  private void importFile(LocalDate day, Catalogue.App app) {
    PersonId owner =
        Unit.ALL.stream().anyMatch(u -> u.name().equals(app.owner()))
            ? lead(app.owner())
            : person(app.owner());
    String host = app.name().toLowerCase(java.util.Locale.ROOT).replace(" ", "-");
    ApplicationId id =
        loader.act(
            at(day, 10, random.nextInt(60)),
            SETUP,
            moment ->
                AppDecisions.propose(
                    moment,
                    new FactValue.Profile(
                        app.name(),
                        app.line(),
                        app.picture(),
                        app.hue(),
                        app.sensitivity(),
                        "Help Bell, ext. 4400",
                        NICKNAMES.getOrDefault(app.name(), List.of())),
                    "https://" + host + ".ternsound.example/",
                    List.of(owner),
                    app.roles().stream()
                        .map(
                            r ->
                                new AppDecisions.WantedRole(
                                    r.name(), r.line(), r.sensitivity(), r.requestable()))
                        .toList()));
    apps.put(app.name(), id);
    loader.act(
        at(day, 11, random.nextInt(60)),
        SETUP,
        moment ->
            AppDecisions.setState(
                moment, id, ApplicationState.PROPOSED, ApplicationState.OPEN, ""));
    for (Catalogue.Role role : app.roles()) {
      if (!role.to().isEmpty()) {
        EntitlementId entitlement = entitlement(app.name(), role.name());
        loader.act(
            at(day, 12, random.nextInt(60)),
            SETUP,
            moment ->
                GrantDecisions.give(
                    moment,
                    entitlement,
                    List.of(subject(loader, role.to())),
                    null,
                    null,
                    Catalogue.everyones(role)
                        ? "Everyone has it from the first day."
                        : "Comes with the work."));
      }
    }
    tiles.put(
        app.name(),
        loader.act(
            at(day, 13, random.nextInt(60)),
            SETUP,
            moment ->
                TileDecisions.make(
                    moment,
                    TileDecisions.Terms.of(
                        new FactValue.TileFace(
                            app.name(),
                            app.line(),
                            app.picture(),
                            app.hue(),
                            id,
                            new TreeSet<>(
                                app.roles().stream()
                                    .map(r -> entitlement(app.name(), r.name()))
                                    .toList()))))));
  }

  private EntitlementId entitlement(String app, String role) {
    return access()
        .apps()
        .application(requireNonNull(apps.get(app)))
        .orElseThrow()
        .entitlements()
        .stream()
        .filter(e -> e.role().name().equals(role))
        .map(Entitlement::id)
        .findFirst()
        .orElseThrow();
  }

  private AccessView access() {
    return loader.portal().access();
  }

  private static FactValue.Audience everyone() {
    return new FactValue.Audience(true, List.of());
  }

  private FactValue.Audience audience(String... to) {
    List<FactValue.Subject> subjects = new ArrayList<>();
    for (String one : to) {
      subjects.add(subject(loader, one));
    }
    return new FactValue.Audience(false, subjects);
  }

  private void collection(
      LocalDate day,
      String name,
      String line,
      FactValue.Audience audience,
      @Nullable PersonId owner) {
    CollectionId id =
        loader.act(
            at(day, 14, random.nextInt(60)),
            SETUP,
            moment ->
                CollectionDecisions.make(
                    moment, new FactValue.CollectionFace(name, line), audience));
    collections.put(name, id);
    if (owner != null) {
      loader.act(
          at(day, 14, 59),
          SETUP,
          moment -> CollectionDecisions.setOwners(moment, id, List.of(), List.of(owner)));
    }
  }

  private void fill(LocalDate day, String name, CollectionId id) {
    Map<TileId, Boolean> wanted = new LinkedHashMap<>();
    for (Catalogue.App app : Catalogue.APPS) {
      if (app.collections().contains(name)) {
        wanted.put(
            tiles.get(app.name()), app.roles().stream().anyMatch(Catalogue.Role::requestable));
      }
    }
    loader.act(
        at(day, 15, random.nextInt(60)),
        SETUP,
        moment ->
            CollectionDecisions.arrange(
                moment, id, Placing.all(List.copyOf(wanted.keySet()), wanted::get)));
  }

  /** What is given by an administrator in the first days, for the stories. */
  void stories(LocalDate day) {
    give(day, "Refund Bench", "Approver", "mina.sato", "Stands in for the lead.");
    give(day, "Refund Bench", "Approver", "group Counter leads", "Leads approve at their counter.");
    give(day, "Coin House", "Reconciler", "mina.sato", "Reconciles the Skarholm till.");
    give(day, "Coin House", "Closer", "jonas.weir", "Closes the month.");
    give(day, "Farebox", "Admin", "lena.aho", "Sets up the counters.");
    give(day, "Spare Shelf", "Buyer", "tomas.ilves", "Orders for the inspectors.");
    loader.act(
        at(day, 17, 30),
        as("ines.roth"),
        moment ->
            SeparationDecisions.set(
                moment,
                null,
                null,
                new FactValue.Separation(
                    "Who refunds does not reconcile",
                    "A refund to oneself could be hidden in the till.",
                    new TreeSet<>(List.of(entitlement("Refund Bench", "Approver"))),
                    new TreeSet<>(
                        List.of(
                            entitlement("Coin House", "Reconciler"),
                            entitlement("Coin House", "Closer")))),
                null,
                ""));
  }

  /** Mina stands in for the lead and reconciles a till: accepted until the lead is back. */
  private void accept(Instant at) {
    loader.act(
        at,
        as("ines.roth"),
        moment -> {
          SeparationRules.Rule rule =
              SeparationRules.of(moment.facts(), moment.at()).rules().getFirst();
          return SeparationDecisions.except(
              moment,
              new Conflict(
                  rule.id(),
                  person("mina.sato"),
                  entitlement("Refund Bench", "Approver"),
                  entitlement("Coin House", "Reconciler")),
              today.plusDays(47),
              "Skarholm has one cashier until the lead is back.");
        });
    loader.act(
        at.plusSeconds(60),
        as("ines.roth"),
        moment ->
            RouteDecisions.set(
                moment,
                new RequestScope.OfApp(requireNonNull(apps.get("Coin House"))),
                null,
                new FactValue.Route(
                    List.of(
                        new RouteStep(new Seat.Manager(), 7),
                        new RouteStep(new Seat.ManagersManager(), 7),
                        new RouteStep(new Seat.Owner(), 14))),
                "Tills are closed with it."));
  }

  private void give(LocalDate day, String app, String role, String to, String reason) {
    FactValue.Subject subject =
        to.startsWith("group ") ? subject(loader, to) : new FactValue.Subject.OfPerson(person(to));
    loader.act(
        at(day, 16, random.nextInt(60)),
        as("ines.roth"),
        moment ->
            GrantDecisions.give(
                moment, entitlement(app, role), List.of(subject), null, null, reason));
  }

  // ---- week by week

  /** Some people ask for something, and are answered within the week. */
  void week(LocalDate monday) {
    for (int i = 0; i < 1 + random.nextInt(2); i++) {
      LocalDate day = monday.plusDays(random.nextInt(5));
      if (day.isBefore(today.minusDays(3))) {
        someoneAsks(day);
      }
    }
  }

  private void someoneAsks(LocalDate day) {
    loader.pass(at(day, 8, 0));
    AccessView access = access();
    List<Entitlement> requestable =
        access.apps().entitlements().stream().filter(e -> e.role().requestable()).toList();
    Entitlement wanted = requestable.get(random.nextInt(requestable.size()));
    List<Person> people =
        access.directory().people().stream()
            .filter(p -> p.status() == PersonStatus.ACTIVE && !access.entitled(p.id(), wanted.id()))
            .filter(p -> Deciders.resolves(access, Wish.own(p.id(), wanted.id())))
            .toList();
    if (people.isEmpty()) {
      return;
    }
    PersonId asker = people.get(random.nextInt(people.size())).id();
    LocalDate until = day.plusDays(20 + random.nextInt(160));
    RequestId id =
        ask(
            at(day, 9, random.nextInt(60)),
            asker,
            wanted.id(),
            until,
            NEEDS.get(random.nextInt(NEEDS.size())));
    boolean refused = random.nextInt(6) == 0;
    answer(at(day, 13, random.nextInt(60)), id, !refused);
    answer(at(day.plusDays(1), 10, random.nextInt(60)), id, true);
  }

  private static final String COVERING = "I’m covering for someone";

  private static final String TILL = "Harrow Quay, Saturdays";

  private RequestId ask(
      Instant when,
      PersonId person,
      EntitlementId entitlement,
      @Nullable LocalDate until,
      String why) {
    return ask(when, person, person, entitlement, until, why);
  }

  private RequestId ask(
      Instant when,
      PersonId asker,
      PersonId person,
      EntitlementId entitlement,
      @Nullable LocalDate until,
      String why) {
    AccessRequest request =
        loader.act(
            when,
            new Actor.OfPerson(asker),
            moment ->
                RequestDecisions.ask(
                    moment,
                    nextNumber,
                    person,
                    entitlement,
                    until,
                    why,
                    answers(asker, entitlement),
                    List.of()));
    nextNumber++;
    keep(request);
    return request.id();
  }

  private void keep(AccessRequest request) {
    requests.put(request.id(), request);
    positions.put(request.id(), loader.position());
  }

  /** Whoever decides the step that waits decides it; nothing happens where none waits. */
  private void answer(Instant when, RequestId id, boolean yes) {
    AccessRequest request = requireNonNull(requests.get(id));
    if (!(request.stage() instanceof Stage.Open waiting)) {
      return;
    }
    Instant begins = waiting.from().plusSeconds(60);
    Instant at = when.isAfter(begins) ? when : begins;
    Deciders deciders = Deciders.of(access(), request, waiting);
    keep(
        loader.act(
            at,
            new Actor.OfPerson(deciders.people().getFirst()),
            moment ->
                RequestDecisions.answer(
                    moment,
                    request,
                    waiting.step(),
                    yes,
                    null,
                    yes ? "" : "Not needed for this work; ask your lead.",
                    TAKE_BACK)));
  }

  /** Whoever decides the step that waits asks something first. */
  private void askBack(Instant when, RequestId id, String question) {
    AccessRequest request = requireNonNull(requests.get(id));
    if (!(request.stage() instanceof Stage.Open open)) {
      return;
    }
    PersonId decider = Deciders.of(access(), request, open).people().getFirst();
    ThreadDecisions.Spoken spoken =
        loader.act(
            when,
            new Actor.OfPerson(decider),
            moment -> ThreadDecisions.askBack(moment, request, List.of(), question));
    keep(spoken.request());
    said.add(new Said(id, requireNonNull(spoken.message()), loader.position()));
  }

  /** Whoever decides one of the requests is away, and somebody else decides for them. */
  private void standIn(Instant when, LocalDate day) {
    AccessRequest request = requireNonNull(requests.get(forDeputy));
    if (request.stage() instanceof Stage.Open open) {
      PersonId away = Deciders.of(access(), request, open).people().getFirst();
      loader.act(
          when,
          as("ines.roth"),
          moment ->
              DeputyDecisions.name(
                  moment,
                  away,
                  person("lena.aho"),
                  null,
                  day.plusDays(12),
                  new TreeSet<>(List.of(Duty.values()))));
    }
  }

  // ---- the last days

  /** Whoever wants to approve refunds is asked for whom, and at which till. */
  private void askMore(Instant at) {
    loader.act(
        at,
        as("ines.roth"),
        moment ->
            FormDecisions.set(
                moment,
                new RequestScope.OfEntitlement(entitlement("Refund Bench", "Approver")),
                null,
                new FactValue.RequestForm(
                    List.of(
                        new Question(
                            "need",
                            "What is it for?",
                            "",
                            true,
                            new Question.OneOf(List.of(COVERING, "It is part of my work now")),
                            ""),
                        new Question(
                            "covering-for",
                            "Who are you covering for?",
                            "",
                            true,
                            new Question.Colleague(),
                            "need eq \"%s\"".formatted(COVERING)),
                        new Question(
                            "till",
                            "Which till do you close?",
                            "The one whose refunds you will approve.",
                            true,
                            new Question.OneOf(List.of(TILL, "Grey Mole", "Skarholm")),
                            "need pr"),
                        new Question(
                            "most",
                            "Largest refund you expect to approve, in euros",
                            "Above 500 the owner calls you first.",
                            false,
                            new Question.Number(BigDecimal.ONE, new BigDecimal(2_000)),
                            "need pr")),
                    new Term(List.of(14, 30), 60, false)),
                "Owners asked for the same three things in every second request."));
  }

  private Map<String, List<String>> answers(PersonId asker, EntitlementId entitlement) {
    FactValue.RequestForm form =
        access().apps().form(access().apps().entitlement(entitlement).orElseThrow());
    if (form.questions().isEmpty()) {
      return Map.of();
    }
    List<PersonId> colleagues = AskedForm.of(form, loader.directory(), asker).colleagues();
    PersonId away =
        colleagues.stream()
            .filter(one -> !loader.directory().manager(asker).equals(Optional.of(one)))
            .findFirst()
            .orElseGet(colleagues::getFirst);
    return Map.of(
        "need", List.of(COVERING),
        "covering-for", List.of(away.value().toString()),
        "till", List.of(TILL),
        "most", List.of("350"));
  }

  /** What waits on the dockets now. */
  void lately(Instant now) {
    loader.pass(now.minus(Duration.ofHours(30)));
    askMore(now.minus(Duration.ofHours(29)));
    LocalDate day = now.atZone(zone).toLocalDate();
    Instant morning = now.minus(Duration.ofHours(26));
    RequestId oda =
        ask(
            morning,
            person("oda.brekke"),
            entitlement("Refund Bench", "Approver"),
            day.plusDays(45),
            "At the counter until the middle of January. I close the Harrow Quay till on Saturdays.");
    answer(morning.plus(Duration.ofHours(2)), oda, true);
    List<Person> cadets =
        loader.directory().people().stream()
            .filter(p -> p.status() == PersonStatus.ACTIVE && "cadet".equals(p.value("employment")))
            .limit(11)
            .toList();
    int i = 0;
    for (Person cadet : cadets) {
      Instant when = now.minus(Duration.ofHours(20)).plusSeconds(300L * i++);
      RequestId id =
          ask(
              when,
              cadet.id(),
              entitlement("Crewsheet", "Viewer"),
              day.plusDays(150),
              "To see my watches.");
      answer(when.plus(Duration.ofHours(3)), id, true);
    }
    String[][] waiting = {
      {"Farebox", "Pricer", "Ticketing"},
      {"Manifest Desk", "Loader", "Terminals"},
      {"Lost Luggage", "Keeper", "Terminals"},
      {"Quaynotes", "Writer", "Safety"},
      {"Hullcare", "Technician", "Yard & office"},
      {"Refund Bench", "Approver", "Ticketing"}
    };
    for (String[] one : waiting) {
      EntitlementId wanted = entitlement(one[0], one[1]);
      AccessView access = access();
      access.directory().people().stream()
          .filter(p -> p.status() == PersonStatus.ACTIVE && one[2].equals(p.value(Attributes.UNIT)))
          .filter(p -> !access.entitled(p.id(), wanted) && !p.id().equals(person("oda.brekke")))
          .filter(p -> access.directory().reports(p.id()).isEmpty())
          .findFirst()
          .ifPresent(
              p -> {
                boolean byManager = one[0].equals("Lost Luggage");
                RequestId id =
                    ask(
                        now.minus(Duration.ofHours(9 + random.nextInt(6))),
                        byManager ? access.directory().manager(p.id()).orElseThrow() : p.id(),
                        p.id(),
                        wanted,
                        day.plusDays(30 + random.nextInt(30)),
                        byManager
                            ? "Takes over the lost luggage counter on weekends."
                            : NEEDS.get(random.nextInt(NEEDS.size())));
                if (one[0].equals("Quaynotes")) {
                  answer(now.minus(Duration.ofHours(5)), id, true);
                }
                if (one[0].equals("Hullcare")) {
                  forDeputy = id;
                }
                if (one[0].equals("Manifest Desk")) {
                  askBack(now.minus(Duration.ofHours(3)), id, "Which sailings do you load?");
                }
              });
    }
    // Moved from the workshop long ago, and kept what she had there by an administrator.
    AccessView access = access();
    access.directory().people().stream()
        .filter(p -> p.status() == PersonStatus.ACTIVE && "Terminals".equals(p.value("unit")))
        .skip(7)
        .findFirst()
        .ifPresent(
            p ->
                loader.act(
                    now.minus(Duration.ofHours(4)),
                    as("ines.roth"),
                    moment ->
                        GrantDecisions.give(
                            moment,
                            entitlement("Hullcare", "Technician"),
                            List.of(new FactValue.Subject.OfPerson(p.id())),
                            null,
                            null,
                            "Kept from the workshop until the hand-over is done.")));
    // Everybody in Safety was given this one by one; a rule would say it in one line.
    List<FactValue.Subject> safety =
        access.directory().people().stream()
            .filter(
                p ->
                    p.status() != PersonStatus.DEPARTED
                        && "Safety".equals(p.value(Attributes.UNIT)))
            .map(p -> (FactValue.Subject) new FactValue.Subject.OfPerson(p.id()))
            .toList();
    loader.act(
        now.minus(Duration.ofHours(4)).plusSeconds(20),
        as("ines.roth"),
        moment ->
            GrantDecisions.give(
                moment,
                entitlement("Manifest Desk", "Viewer"),
                safety,
                null,
                null,
                "To see what stands on the car deck."));
    seats(now.minus(Duration.ofHours(4)).plusSeconds(30));
    standIn(now.minus(Duration.ofHours(4)).plusSeconds(45), day);
    accept(now.minus(Duration.ofHours(4)).plusSeconds(60));
    // One that is still being made ready.
    loader.act(
        now.minus(Duration.ofHours(3)),
        as("ines.roth"),
        moment ->
            AppDecisions.propose(
                moment,
                new FactValue.Profile(
                    "Wind Room",
                    "Forecasts by route",
                    "wind",
                    "tide",
                    eleutheria.core.facts.Sensitivity.LOW,
                    ""),
                null,
                List.of(),
                List.of(
                    new AppDecisions.WantedRole(
                        "Reader", "read forecasts", eleutheria.core.facts.Sensitivity.LOW, true))));
  }

  /** What the seats of some bought apps cost a month, in øre. */
  private void seats(Instant at) {
    Map<String, FactValue.Seats> bought = new LinkedHashMap<>();
    bought.put("Hullcare", new FactValue.Seats(120, 28_900, "NOK"));
    bought.put("Halyard Mail", new FactValue.Seats(1_250, 5_900, "NOK"));
    bought.put("Chart Chest", new FactValue.Seats(1_250, 3_450, "NOK"));
    bought.put("Coin House", new FactValue.Seats(40, 41_000, "NOK"));
    bought.put("Gull Post", new FactValue.Seats(1_250, 1_200, "NOK"));
    Instant when = at;
    for (Map.Entry<String, FactValue.Seats> each : bought.entrySet()) {
      for (eleutheria.core.apps.Application app : access().apps().applications()) {
        if (app.name().equals(each.getKey())) {
          when = when.plusSeconds(1);
          loader.act(
              when,
              as("ines.roth"),
              moment -> AppDecisions.setSeats(moment, app.id(), null, each.getValue()));
        }
      }
    }
  }

  /** Writes requests as they stand, once the acts are written. */
  void write(DSLContext db) {
    requests.forEach(
        (id, request) ->
            RequestStore.save(
                db, request, new Acts.Written(request.asked(), requireNonNull(positions.get(id)))));
    said.forEach(one -> ThreadStore.add(db, one.request(), 0, one.message(), one.position()));
  }

  /** Whose timetable comes next. */
  private static String nextSeason(LocalDate day) {
    return switch (day.getMonthValue()) {
      case 12, 1, 2 -> "spring";
      case 3, 4, 5 -> "summer";
      case 6, 7, 8 -> "autumn";
      default -> "winter";
    };
  }

  /** Summer is when the boats are full. */
  private double season(Instant at) {
    return switch (at.atZone(zone).getMonth()) {
      case JUNE, AUGUST -> 0.42;
      case JULY -> 0.5;
      case MAY, SEPTEMBER -> 0.32;
      default -> 0.26;
    };
  }

  /** What people typed in vain. */
  void sought(DSLContext db, Instant now) {
    Map<String, Integer> typed = new LinkedHashMap<>();
    typed.put("parking", 9);
    typed.put("canteen", 6);
    typed.put("holiday form", 4);
    typed.put("radio licence", 2);
    typed.forEach(
        (words, times) -> {
          for (int i = 0; i < times; i++) {
            db.insertInto(SOUGHT)
                .set(SOUGHT.HAPPENED_AT, now.minus(Duration.ofHours(random.nextInt(24 * 80))))
                .set(SOUGHT.WORDS, words)
                .execute();
          }
        });
  }

  /** Half a year of openings: most people open what they hold, some of it daily. */
  void openings(DSLContext db, Instant now) {
    PortalView whole = loader.portal();
    List<Object[]> rows = new ArrayList<>();
    for (Person person : whole.directory().people()) {
      if (person.status() != PersonStatus.ACTIVE) {
        continue;
      }
      FrontPage page = whole.visible(person.id(), (p, e) -> false);
      List<TileId> held = new ArrayList<>();
      page.sections().forEach(s -> s.tiles().forEach(t -> held.add(t.tile().id())));
      for (TileId tile : new java.util.LinkedHashSet<>(held)) {
        // A habit of this person with this tile: never, now and then, often.
        double habit = Math.pow(random.nextDouble(), 3);
        for (int d = WATCHED; d >= 1; d--) {
          double season = d <= 30 ? 0.35 : season(now.minus(Duration.ofDays(d)));
          if (random.nextDouble() < habit * season) {
            Instant when = now.minus(Duration.ofDays(d)).plusSeconds(random.nextInt(12 * 3600));
            rows.add(new Object[] {when, person.id().value(), tile.value()});
          }
        }
      }
    }
    for (int from = 0; from < rows.size(); from += 5_000) {
      BatchBindStep batch =
          db.batch(
              db.insertInto(OPENING, OPENING.HAPPENED_AT, OPENING.PERSON_ID, OPENING.TILE_ID)
                  .values((Instant) null, null, null));
      rows.subList(from, Math.min(from + 5_000, rows.size())).forEach(batch::bind);
      batch.execute();
    }
  }
}
