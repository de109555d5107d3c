package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Power;
import eleutheria.server.state.World;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Random mandates, and every endpoint that tells anything: none names or counts among its words
 * anybody whom the definitions of reach leave out. Only people are looked for who own nothing and
 * lead nobody, since owners and managers are told with what is theirs.
 */
class ReachTest {
  private static final List<String> UNITS = List.of("Deck crew", "Finance", "Ticketing", "Yard");
  private static final MandateId MANDATE = new MandateId(new UUID(8, 8));

  /** Powers whose reach decides who is told. */
  private static final List<Power> POWERS =
      List.of(
          Power.PEOPLE_READ,
          Power.APPS_READ,
          Power.ACCESS_READ,
          Power.ACCESS_GIVE,
          Power.GROUPS_EDIT,
          Power.USE_READ,
          Power.ACCESS_RULES,
          Power.PORTAL_ARRANGE);

  private static ConfigurableApplicationContext context;
  private static Seed seed;
  private static PersonId reader;
  private static Instant before;
  private static final List<PersonId> HIDDEN = new ArrayList<>();
  private static final List<String> APPS =
      List.of("Farebox", "Crewsheet", "Refund Bench", "Tide Table", "Quaynotes");

  @BeforeAll
  static void start() {
    String database = RunningServer.newDatabase();
    var maria = RunningServer.mariaDb();
    seed = Seed.shop(maria.url(database), maria.user(), maria.password());
    context = RunningServer.start(database, "--eleutheria.take-back=1s");
    reader = seed.person("new");
    act(
        m -> {
          var edits = m.edits();
          edits.put(new FactKey.Status(reader), FactValue.Standing.of(PersonStatus.ACTIVE));
          edits.put(
              Attributes.key(reader, Attributes.UNIT, false, ""), new FactValue.Text("Elsewhere"));
          edits.put(
              new FactKey.Defined("mail"),
              new FactValue.Definition(
                  "Mail", eleutheria.core.facts.ValueType.TEXT, false, true, null));
          edits.put(
              new FactKey.Defined("userName"),
              new FactValue.Definition(
                  "Sign-in name", eleutheria.core.facts.ValueType.TEXT, false, true, null));
          edits.put(
              new FactKey.Defined("unit"),
              new FactValue.Definition(
                  "Unit", eleutheria.core.facts.ValueType.TEXT, false, false, null));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    GroupId group = act(m -> GroupDecisions.make(m, "Quills", new FactValue.Form.Listed(), ""));
    for (int i = 0; i < 8; i++) {
      HIDDEN.add(hide(i, group));
    }
    before = context.getBean(World.class).now().at();
    // Two of them work elsewhere since: what counts is where they are now.
    move(HIDDEN.get(0), "Yard");
    move(HIDDEN.get(3), "Deck crew");
  }

  @AfterAll
  static void stop() {
    context.close();
  }

  private static <T> T act(Function<Moment, Outcome<T>> decision) {
    @SuppressWarnings("unchecked")
    Class<T> type = (Class<T>) Object.class;
    return context.getBean(Acts.class).perform(new Actor.Setup(), null, type, decision).result();
  }

  private static void move(PersonId person, String unit) {
    act(
        m -> {
          var edits = m.edits();
          edits.put(Attributes.key(person, Attributes.UNIT, false, ""), new FactValue.Text(unit));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  /** Somebody who holds two things, one through a group. */
  private static PersonId hide(int i, GroupId group) {
    String token = "Quill" + (char) ('a' + i) + "x";
    PersonId id =
        act(
            m -> {
              PersonId person = new PersonId(m.ids().get());
              var edits = m.edits();
              edits.put(new FactKey.Existence(person), FactValue.Present.PRESENT);
              edits.put(
                  new FactKey.Naming(person),
                  new FactValue.PersonName("Zea", token, "Zea " + token));
              edits.put(new FactKey.Status(person), FactValue.Standing.of(PersonStatus.ACTIVE));
              edits.put(
                  Attributes.key(person, Attributes.UNIT, false, ""),
                  new FactValue.Text(UNITS.get(i % 4)));
              edits.put(
                  Attributes.key(person, Attributes.USER_NAME, false, ""),
                  new FactValue.Text("u-" + token.toLowerCase()));
              edits.put(
                  Attributes.key(person, Attributes.MAIL, false, ""),
                  new FactValue.Text(token.toLowerCase() + "@x.example"));
              edits.put(new FactKey.Membership(group, person), FactValue.Present.PRESENT);
              return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), person);
            });
    act(
        m ->
            GrantDecisions.give(
                m,
                seed.shop().role(APPS.get(i % 4)),
                List.of(new FactValue.Subject.OfPerson(id)),
                null,
                null,
                "for the test"));
    return id;
  }

  private static Visitor signedIn(String name) {
    Visitor visitor =
        new Visitor(
            "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
    visitor.signIn(name, Seed.PASSWORD).expect(200);
    return visitor;
  }

  // ---- the definitions

  private record Mandate(Set<Power> powers, Reach reach, Set<EntitlementId> own) {
    boolean reaches(Power power, String unit) {
      return powers.contains(power) && (reach.units() == null || reach.units().contains(unit));
    }
  }

  private static String unit(PersonId person) {
    return context.getBean(World.class).now().person(person).orElseThrow().value(Attributes.UNIT);
  }

  private static ApplicationId app(EntitlementId role) {
    return context
        .getBean(World.class)
        .whole()
        .access()
        .apps()
        .entitlement(role)
        .orElseThrow()
        .application();
  }

  /** Whether somebody may be told at all, by any of the mandate's rights. */
  private static boolean may(Mandate mandate, PersonId person, Instant at) {
    String unit = unit(person);
    if (mandate.reaches(Power.PEOPLE_READ, unit) || mandate.reaches(Power.USE_READ, unit)) {
      return true;
    }
    if (mandate.reaches(Power.ACCESS_READ, unit) && mandate.reach().applications() == null) {
      return true;
    }
    var access = context.getBean(World.class).whole(at).access();
    for (String name : APPS) {
      EntitlementId role = seed.shop().role(name);
      boolean app =
          mandate.own().contains(role)
              || (mandate.reaches(Power.ACCESS_READ, unit)
                  && (mandate.reach().applications() == null
                      || mandate.reach().applications().contains(app(role).value().toString())));
      if (app && access.entitled(person, role)) {
        return true;
      }
    }
    return false;
  }

  private Mandate draw(SplittableRandom random) {
    Set<Power> powers = EnumSet.noneOf(Power.class);
    for (Power power : POWERS) {
      if (random.nextInt(2) == 0) {
        powers.add(power);
      }
    }
    TreeSet<String> units = null;
    if (random.nextInt(4) > 0) {
      units = new TreeSet<>(List.of(UNITS.get(random.nextInt(4))));
      if (random.nextBoolean()) {
        units.add(UNITS.get(random.nextInt(4)));
      }
    }
    TreeSet<String> apps = null;
    if (random.nextBoolean()) {
      apps =
          new TreeSet<>(
              List.of(app(seed.shop().role(APPS.get(random.nextInt(4)))).value().toString()));
    }
    Set<EntitlementId> own =
        random.nextInt(3) == 0 ? Set.of(seed.shop().role(APPS.get(random.nextInt(4)))) : Set.of();
    return new Mandate(powers, new Reach(units, apps, null), own);
  }

  private static void hold(Mandate mandate) {
    act(
        m -> {
          var edits = m.edits();
          TreeSet<String> words = new TreeSet<>();
          mandate.powers().forEach(p -> words.add(p.word()));
          edits.put(
              new FactKey.Mandate(MANDATE),
              new FactValue.Terms("Drawn", "", words, mandate.reach()));
          edits.put(new FactKey.MandateHeld(MANDATE, reader), FactValue.Present.PRESENT);
          for (String name : APPS) {
            FactKey key = new FactKey.Ownership(app(seed.shop().role(name)), reader);
            if (mandate.own().contains(seed.shop().role(name))) {
              edits.put(key, FactValue.Present.PRESENT);
            } else {
              edits.end(key);
            }
          }
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  // ---- every endpoint

  private static Set<String> paths() {
    TreeSet<String> paths = new TreeSet<>();
    RequestMappingHandlerMapping mapping =
        context.getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class);
    for (Map.Entry<?, HandlerMethod> entry : mapping.getHandlerMethods().entrySet()) {
      String text = entry.getKey().toString();
      if (entry.getValue().getBeanType().getName().startsWith("eleutheria.")
          && text.startsWith("{GET ")
          && !text.contains("/api/stream")) {
        paths.add(text.substring(text.indexOf('[') + 1, text.indexOf(']')));
      }
    }
    return paths;
  }

  /** The addresses of a path, with things that are there in the place of its variables. */
  private static List<String> addresses(String path) {
    List<String> found = new ArrayList<>();
    List<String> ids = new ArrayList<>();
    if (path.startsWith("/api/people/")) {
      HIDDEN.forEach(p -> ids.add(p.value().toString()));
    } else if (path.startsWith("/api/entitlements/")) {
      APPS.forEach(a -> ids.add(seed.shop().role(a).value().toString()));
    } else if (path.startsWith("/api/apps/")) {
      APPS.forEach(a -> ids.add(app(seed.shop().role(a)).value().toString()));
    } else if (path.startsWith("/api/groups/")) {
      context.getBean(World.class).now().groups().forEach(g -> ids.add(g.id().value().toString()));
    } else {
      ids.add(seed.shop().counter().value().toString());
    }
    for (String id : path.contains("{id}") ? ids : List.of("")) {
      String one =
          path.replace("{id}", id)
              .replace("{kind}", "person")
              .replace("{scope}", "high")
              .replace("{number}", "1")
              .replace("{seq}", "1")
              .replace("{position}", "1")
              .replace("{hash}", "00")
              .replace("{tip}", "MENU")
              .replace("{name}", "unit")
              .replace("{tile}", seed.shop().tile("Farebox").value().toString())
              .replace("{collection}", seed.shop().counter().value().toString())
              .replace("{member}", HIDDEN.getFirst().value().toString());
      if (one.contains("{entitlement}")) {
        APPS.forEach(
            a -> found.add(one.replace("{entitlement}", seed.shop().role(a).value().toString())));
      } else {
        found.add(one);
      }
    }
    if (path.equals("/api/find")) {
      found.replaceAll(a -> a + "?text=quill");
    } else if (path.startsWith("/api/holdings")) {
      for (String query :
          List.of(
              "rows=unit&open=Yard&open=Ticketing&open=Finance&open=Deck%20crew",
              "rows=userName", "rows=mail", "where=mail%20pr")) {
        found.add(found.getFirst() + "?" + query);
      }
    }
    return found;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void nobodyOutOfReachIsTold(long seedOf) {
    SplittableRandom random = new SplittableRandom(seedOf);
    Mandate mandate = draw(random);
    hold(mandate);
    Visitor visitor = signedIn("new");
    Map<String, String> leaks = new LinkedHashMap<>();
    int told = 0;
    for (String path : paths()) {
      for (String address : addresses(path)) {
        for (Instant at : new Instant[] {null, before}) {
          String asked =
              at == null ? address : address + (address.contains("?") ? "&" : "?") + "asOf=" + at;
          Visitor.Answer answer = visitor.get(asked);
          assertThat(answer.status()).as(asked + " " + answer.body()).isLessThan(500);
          if (path.equals("/api/find") && !mandate.own().isEmpty()) {
            // Owners name whom they add: name and unit of those whose name they know.
            continue;
          }
          for (PersonId person : HIDDEN) {
            if (names(answer.body(), address, person)) {
              told++;
              if (!may(mandate, person, at)) {
                leaks.putIfAbsent(path, asked + " tells of " + unit(person) + " " + person);
              }
            }
          }
        }
      }
    }
    Map<String, Object> asked = new LinkedHashMap<>();
    for (String only : List.of("", "conflict", "ending")) {
      asked.put("only", only.isEmpty() ? List.of() : List.of(only));
      for (Map.Entry<String, Object> form :
          Map.<String, Object>of(
                  "/api/queries/answer",
                  Map.of(
                      "spec",
                      Map.of(
                          "asked",
                          asked,
                          "columns",
                          List.of("person", "userName", "title", "app", "role", "clashes"))),
                  "/api/filters/try",
                  Map.of("filter", "userName pr"))
              .entrySet()) {
        Visitor.Answer answer = visitor.post(form.getKey(), form.getValue());
        assertThat(answer.status()).as(form.getKey() + answer.body()).isIn(200, 403);
        for (PersonId person : HIDDEN) {
          if (names(answer.body(), "", person) && !may(mandate, person, null)) {
            leaks.putIfAbsent(form.getKey(), "tells of " + unit(person) + " " + person);
          }
        }
      }
    }
    assertThat(leaks).as(mandate.toString()).isEmpty();
    // Something is told, where there is a power to see anybody.
    if (mandate.powers().contains(Power.PEOPLE_READ)) {
      assertThat(told).as(mandate.toString()).isPositive();
    }
  }

  /** Whether an answer names somebody, by name, sign-in name or address. */
  private static boolean names(String body, String address, PersonId person) {
    String token = "Quill" + (char) ('a' + HIDDEN.indexOf(person)) + "x";
    return body.contains(token)
        || body.contains(token.toLowerCase())
        || (!address.contains(person.value().toString())
            && body.contains(person.value().toString()));
  }

  /** All holdings are seen; when they were used, of the one app that the power reaches. */
  @Test
  void useIsToldOfTheAppsThatThePowerReaches() {
    String crewsheet = seed.shop().role("Crewsheet").value().toString();
    Map<String, Object> subject =
        Map.of("kind", "person", "id", seed.person("oda").value().toString());
    signedIn("ines")
        .post(
            "/api/entitlements/" + crewsheet + "/grants",
            Map.of("subjects", List.of(subject), "reason", "for the test"))
        .expect(200);
    Visitor oda = signedIn("oda");
    for (String name : List.of("Quaynotes", "Crewsheet")) {
      oda.get("/go/" + seed.shop().tile(name).value());
    }
    hold(new Mandate(Set.of(Power.ACCESS_READ, Power.PEOPLE_READ), Reach.ALL, Set.of()));
    MandateId narrow = new MandateId(new UUID(8, 9));
    TreeSet<String> one =
        new TreeSet<>(Set.of(app(seed.shop().role("Quaynotes")).value().toString()));
    act(
        m -> {
          var edits = m.edits();
          edits.put(
              new FactKey.Mandate(narrow),
              new FactValue.Terms(
                  "Narrow", "", new TreeSet<>(Set.of("use.read")), new Reach(null, one, null)));
          edits.put(new FactKey.MandateHeld(narrow, reader), FactValue.Present.PRESENT);
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    String person = "/api/people/" + seed.person("oda").value();
    Map<String, Boolean> told = new HashMap<>();
    Visitor visitor = signedIn("new");
    visitor
        .get(person + "/holdings")
        .expect(200)
        .json()
        .path("held")
        .forEach(
            line ->
                told.put(
                    line.at("/entitlement/app/name").asString(),
                    !line.path("lastOpened").isNull()));
    assertThat(told).containsEntry("Quaynotes", true).containsEntry("Crewsheet", false);
    assertThat(
            visitor
                .get(person + "/holdings/" + crewsheet)
                .expect(200)
                .json()
                .path("lastOpened")
                .isNull())
        .isTrue();
    // When they signed in is told to whoever may see all of it.
    visitor.get(person + "/use").expect(404);
    assertThat(visitor.get("/api/use").expect(200).json().path("signIns")).isEmpty();
    act(
        m -> {
          var edits = m.edits();
          edits.end(new FactKey.MandateHeld(narrow, reader));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  @Test
  void whoHasAskedLearnsNothingOfWhoHoldsIt() {
    EntitlementId role = seed.shop().role("Crewsheet");
    String id =
        signedIn("oda")
            .post("/api/requests", Map.of("entitlement", role.value(), "reason", "for the desk"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    var own = signedIn("oda").get("/api/requests/" + id).expect(200).json();
    assertThat(own.path("evidence").asBoolean()).isFalse();
    assertThat(own.path("others")).isEmpty();
    assertThat(own.path("holds")).isEmpty();
    // Lena decides as her manager, while she decides, and not afterwards.
    Visitor lena = signedIn("lena");
    assertThat(lena.get("/api/requests/" + id).json().path("evidence").asBoolean()).isTrue();
    lena.post("/api/requests/" + id + "/answer", Map.of("step", 0, "yes", false, "note", "no"))
        .expect(200);
    var after = lena.get("/api/requests/" + id).expect(200).json();
    assertThat(after.path("evidence").asBoolean()).isFalse();
    assertThat(after.path("others")).isEmpty();
  }
}
