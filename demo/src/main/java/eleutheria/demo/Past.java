package eleutheria.demo;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.AttributeDecisions;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.FirstSteward;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.intake.DeliveredFile;
import eleutheria.core.directory.intake.Intake;
import eleutheria.core.directory.intake.Matching;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.server.writing.Loader;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;
import java.util.random.RandomGenerator;

/** Two years of Tern Sound Ferries, performed act by act through the same decisions as today's. */
final class Past {
  private static final Actor SETUP = new Actor.Setup();

  private final Loader loader;
  private final Wearing wearing;
  private final ZoneId zone;
  private final LocalDate today;
  private final RandomGenerator random;
  private final Company company;
  private final SourceId hr =
      new SourceId(new UUID(0x0193_0000_0000_7000L, 0x8000_0000_0000_0001L));
  private final Matching people;
  private final LocalDate begins;
  private final Shore shore;
  private final Suggestions suggestions;

  /**
   * @param size how many people work there all year round
   * @param weeks how long the past is
   */
  Past(
      Loader loader,
      Wearing wearing,
      ZoneId zone,
      LocalDate today,
      RandomGenerator random,
      int size,
      int weeks) {
    this.loader = loader;
    this.wearing = wearing;
    this.zone = zone;
    this.today = today;
    this.random = random;
    this.begins = today.minusWeeks(weeks).with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    this.company = new Company(random, size, begins);
    this.people = new Matching(columns());
    this.shore = new Shore(loader, zone, today, random);
    this.suggestions = new Suggestions(loader);
  }

  Company company() {
    return company;
  }

  Suggestions suggestions() {
    return suggestions;
  }

  Shore shore() {
    return shore;
  }

  static Map<String, String> columns() {
    return Map.ofEntries(
        Map.entry("staff_no", Matching.KEY),
        Map.entry("given_name", Matching.GIVEN),
        Map.entry("family_name", Matching.FAMILY),
        Map.entry("sign_in", Matching.ATTRIBUTE + Attributes.USER_NAME),
        Map.entry("email", Matching.ATTRIBUTE + Attributes.MAIL),
        Map.entry("phone", Matching.ATTRIBUTE + "phone"),
        Map.entry("unit", Matching.ATTRIBUTE + Attributes.UNIT),
        Map.entry("site", Matching.ATTRIBUTE + Attributes.SITE),
        Map.entry("title", Matching.ATTRIBUTE + Attributes.TITLE),
        Map.entry("manager_no", Matching.ATTRIBUTE + Attributes.MANAGER),
        Map.entry("employment", Matching.ATTRIBUTE + "employment"),
        Map.entry("vessel", Matching.ATTRIBUTE + "vessel"),
        Map.entry("licences", Matching.ATTRIBUTE + "licences"),
        Map.entry("first_day", Matching.FIRST_DAY),
        Map.entry("last_day", Matching.LAST_DAY));
  }

  /** Performs everything up to now; gives the day of the last delivery. */
  LocalDate perform() {
    begin();
    shore.begin(begins.plusDays(1));
    shore.stories(begins.plusDays(2));
    suggestions.begin(begins.plusDays(3).atTime(9, 0).atZone(zone).toInstant());
    wearing.begin(begins.plusDays(3).atTime(11, 0).atZone(zone).toInstant());
    LocalDate monday = begins;
    while (monday.plusWeeks(1).isBefore(today)) {
      monday = monday.plusWeeks(1);
      company.week(monday);
      if (monday.getDayOfYear() % 9 == 0) {
        company.vanish(monday);
      }
      if (!monday.plusWeeks(1).isBefore(today)) {
        company.cast("tomas.ilves").lastDay = today;
      }
      deliver(monday, "Weekly delivery");
      groupsIn(monday);
      shore.week(monday);
    }
    loader.flush();
    return monday;
  }

  private Instant at(LocalDate day, int hour, int minute) {
    return day.atTime(LocalTime.of(hour, minute, random.nextInt(60))).atZone(zone).toInstant();
  }

  // ---- the first days

  private void begin() {
    loader.act(at(begins, 7, 0), SETUP, FirstSteward::shipped);
    define(begins, "vessel", "Vessel", false, false);
    define(begins, "licences", "Licences", true, false);
    deliver(begins, "The first delivery of all staff");
    for (String name :
        List.of(
            "userName",
            "mail",
            "phone",
            "unit",
            "site",
            "title",
            "manager",
            "employment",
            "vessel",
            "licences")) {
      own(begins, name);
    }
    give(ShippedMandate.STEWARD.id(), person("ines.roth"));
    give(ShippedMandate.JOINERS_AND_LEAVERS.id(), person("petra.lindholm"));
    give(ShippedMandate.AUDITOR.id(), person("jonas.weir"));
    MandateId counter = new MandateId(new UUID(0x0193_0000_0000_7000L, 0x8000_0000_0000_0002L));
    loader.act(
        at(begins, 9, 0),
        new Actor.OfPerson(person("ines.roth")),
        moment -> {
          Edits edits = moment.edits();
          edits.put(
              new FactKey.Mandate(counter),
              new FactValue.Terms(
                  "Counter staff keeper",
                  "joiners, leavers and groups of the counter and the quay",
                  new TreeSet<>(ShippedMandate.JOINERS_AND_LEAVERS.terms().powers()),
                  Reach.units("Ticketing", "Terminals")));
          edits.put(
              new FactKey.MandateHeld(counter, person("maren.quist")), FactValue.Present.PRESENT);
          return Outcome.done(
              Act.of(ActName.MANDATE_MAKE, counter, person("maren.quist")), edits.list(), 1);
        });
    firstGroups();
  }

  private void define(LocalDate day, String name, String label, boolean many, boolean personal) {
    loader.act(
        at(day, 7, 10),
        SETUP,
        moment ->
            AttributeDecisions.define(
                moment,
                name,
                null,
                new FactValue.Definition(label, ValueType.TEXT, many, personal, null)));
  }

  /** HR owns what its files bring, so that it is read-only here. */
  private void own(LocalDate day, String name) {
    loader.act(
        at(day, 8, 30),
        SETUP,
        moment -> {
          FactValue.Definition base = requireNonNull(moment.directory().definitions().get(name));
          return AttributeDecisions.define(
              moment,
              name,
              base,
              new FactValue.Definition(
                  base.label(), base.type(), base.many(), base.personal(), hr));
        });
  }

  private void give(MandateId mandate, ObjectId holder) {
    loader.act(
        at(begins, 8, 45),
        SETUP,
        moment -> {
          Edits edits = moment.edits();
          edits.put(new FactKey.MandateHeld(mandate, holder), FactValue.Present.PRESENT);
          return Outcome.done(Act.of(ActName.MANDATE_GIVE, mandate, holder), edits.list(), 1);
        });
  }

  PersonId person(String userName) {
    return loader.directory().byUserName(userName).orElseThrow();
  }

  // ---- the weekly file

  private void deliver(LocalDate day, String reason) {
    byte[] bytes = Csv.write(Staff.COLUMNS, company.rows());
    DeliveredFile file = ((DeliveredFile.Reading.Good) DeliveredFile.read(bytes)).file();
    Intake.Delivery delivery =
        new Intake.Delivery(
            hr,
            "Staff register",
            file,
            people,
            Intake.Scope.ALL,
            LedgerChain.hash(new String(bytes, java.nio.charset.StandardCharsets.UTF_8)));
    boolean first = loader.directory().size() == 0;
    Actor actor = first ? SETUP : new Actor.OfPerson(person("petra.lindholm"));
    boolean lately = !day.isBefore(today.minusDays(8));
    loader.act(
        at(day, 8, 5 + random.nextInt(40)),
        actor,
        moment -> Intake.ahead(moment, delivery, lately, reason));
  }

  // ---- groups

  private void firstGroups() {
    Actor ines = new Actor.OfPerson(person("ines.roth"));
    for (String unit : List.of("Ticketing", "Terminals", "Finance", "Workshop")) {
      make(begins, ines, unit + " staff", "unit eq \"" + unit + "\"");
    }
    make(begins, ines, "Everyone at Harrow Quay", "site eq \"Harrow Quay\"");
    make(begins, ines, "Everyone at Skarholm", "site eq \"Skarholm\"");
    make(begins, ines, "Summer staff", "employment eq \"seasonal\"");
    make(begins, ines, "Cadets", "employment eq \"cadet\"");
    make(begins, ines, "Dockyard contractors", "employment eq \"contractor\"");
    make(begins, ines, "All leads", "title ew \"lead\" or title eq \"Master\"");
    make(
        begins,
        ines,
        "Counter, without contractors",
        "(unit eq \"Ticketing\" or unit eq \"Terminals\") and not (employment eq \"contractor\")");
    for (String vessel : Unit.VESSELS) {
      make(begins, ines, "Crew of " + vessel, "vessel eq \"" + vessel + "\"");
    }
    make(begins, ines, "All crews", null);
    for (String vessel : Unit.VESSELS) {
      nest(begins, ines, "All crews", "Crew of " + vessel);
    }
    make(begins, ines, "Counter leads", null);
    make(begins, ines, "Refund desk", null);
    make(begins, ines, "Ticket office", null);
    nest(begins, ines, "Ticket office", "Ticketing staff");
    nest(begins, ines, "Ticket office", "Counter leads");
    make(begins, ines, "Fire wardens", null);
    make(begins, ines, "First aiders", null);
    make(begins, ines, "Safety council", null);
    nest(begins, ines, "Safety council", "Fire wardens");
    nest(begins, ines, "Safety council", "First aiders");
    make(begins, ines, "Night watch", null);
    make(begins, ines, "Help desk", null);
    make(begins, ines, "Quay and counter", null);
    nest(begins, ines, "Quay and counter", "Ticket office");
    nest(begins, ines, "Quay and counter", "Terminals staff");
    give(ShippedMandate.HELP_DESK.id(), group("Help desk"));
    add(begins, ines, "Help desk", List.of(person("emre.demir")), "Runs the help desk");
    add(begins, ines, "Counter leads", List.of(person("lena.aho")), "");
    add(begins, ines, "Refund desk", List.of(person("mina.sato"), person("lena.aho")), "");
    owner(begins, ines, "Counter leads", person("lena.aho"));
    owner(begins, ines, "Refund desk", person("lena.aho"));
    owner(begins, ines, "Night watch", person("maren.quist"));
    fill(ines, "Fire wardens", 24, "Deck crew", "Terminals", "Catering");
    fill(ines, "First aiders", 31, "Deck crew", "Workshop", "Catering");
    fill(ines, "Night watch", 9, "Harbour control");
    fill(ines, "Refund desk", 4, "Ticketing");
  }

  private GroupId group(String name) {
    return loader.directory().groups().stream()
        .filter(g -> g.name().equals(name))
        .map(Group::id)
        .findFirst()
        .orElseThrow();
  }

  private void make(
      LocalDate day, Actor actor, String name, @org.jspecify.annotations.Nullable String filter) {
    FactValue.Form form =
        filter == null ? new FactValue.Form.Listed() : new FactValue.Form.ByFilter(filter);
    loader.act(at(day, 9, 5), actor, moment -> GroupDecisions.make(moment, name, form, ""));
  }

  private void nest(LocalDate day, Actor actor, String outer, String inner) {
    add(day, actor, outer, List.of(group(inner)), "");
  }

  private void add(
      LocalDate day, Actor actor, String name, List<? extends ObjectId> members, String reason) {
    GroupId id = group(name);
    loader.act(
        at(day, 9, 20 + random.nextInt(30)),
        actor,
        moment -> GroupDecisions.add(moment, id, List.copyOf(members), null, reason));
  }

  private void owner(LocalDate day, Actor actor, String name, PersonId owner) {
    GroupId id = group(name);
    loader.act(
        at(day, 9, 50),
        actor,
        moment -> GroupDecisions.setOwners(moment, id, List.of(), List.of(owner)));
  }

  private void fill(Actor actor, String name, int count, String... units) {
    List<Person> from =
        loader.directory().people().stream()
            .filter(p -> p.status() == PersonStatus.ACTIVE)
            .filter(p -> List.of(units).contains(p.value(Attributes.UNIT)))
            .filter(p -> !"oda.brekke".equals(p.value(Attributes.USER_NAME)))
            .toList();
    List<PersonId> chosen = new ArrayList<>();
    for (int i = 0; i < Math.min(count, from.size()); i++) {
      PersonId id = from.get(random.nextInt(from.size())).id();
      if (!chosen.contains(id)) {
        chosen.add(id);
      }
    }
    add(begins, actor, name, chosen, "");
  }

  /**
   * What is done by an administrator through a week: people come into groups and go out of them.
   */
  private void groupsIn(LocalDate monday) {
    Actor ines = new Actor.OfPerson(person("ines.roth"));
    Actor lena = new Actor.OfPerson(person("lena.aho"));
    change(monday.plusDays(1), ines, "Fire wardens", "Yearly drill passed");
    if (random.nextInt(2) == 0) {
      change(monday.plusDays(2), ines, "First aiders", "Course completed");
    }
    if (random.nextInt(3) == 0) {
      change(monday.plusDays(3), lena, "Refund desk", "Covers the refund desk");
    }
    if (random.nextInt(8) == 0) {
      out(monday.plusDays(4), ines, "First aiders", "Certificate has expired");
    }
    // Made for one summer, and forgotten since.
    if (monday.equals(begins.plusWeeks(30))) {
      make(monday, ines, "Regatta weekend helpers", null);
      add(
          monday,
          ines,
          "Regatta weekend helpers",
          loader.directory().people().stream()
              .filter(p -> p.status() == PersonStatus.ACTIVE)
              .filter(p -> "Catering".equals(p.value(Attributes.UNIT)))
              .limit(14)
              .map(Person::id)
              .toList(),
          "For the regatta in July only");
    }
    if (monday.equals(begins.plusWeeks(60))) {
      GroupId id = group("All leads");
      loader.act(
          at(monday.plusDays(1), 10, 12),
          ines,
          moment ->
              GroupDecisions.setFilter(
                  moment,
                  id,
                  "title ew \"lead\" or title eq \"Master\"",
                  "title ew \"lead\" or title eq \"Master\" or title eq \"Controller\"",
                  "Controllers lead too since the reorganisation"));
    }
  }

  private void change(LocalDate day, Actor actor, String name, String reason) {
    if (!day.isBefore(today)) {
      return;
    }
    loader.pass(at(day, 8, 0));
    DirectoryView directory = loader.directory();
    GroupId id = group(name);
    Group group = directory.group(id).orElseThrow();
    List<Person> outside =
        directory.people().stream()
            .filter(p -> p.status() == PersonStatus.ACTIVE && !group.people().contains(p.id()))
            .filter(
                p -> !name.equals("Refund desk") || "Ticketing".equals(p.value(Attributes.UNIT)))
            // She asks for it, in the story.
            .filter(p -> !"oda.brekke".equals(p.value(Attributes.USER_NAME)))
            .toList();
    if (!outside.isEmpty() && group.people().size() < 40) {
      PersonId person = outside.get(random.nextInt(outside.size())).id();
      add(day, actor, name, List.of(person), reason);
    } else {
      out(day, actor, name, "Makes room");
    }
  }

  private void out(LocalDate day, Actor actor, String name, String reason) {
    GroupId id = group(name);
    List<PersonId> inside =
        loader.directory().group(id).orElseThrow().people().stream().sorted().toList();
    if (inside.isEmpty() || !day.isBefore(today)) {
      return;
    }
    PersonId person = inside.get(random.nextInt(inside.size()));
    loader.act(
        at(day, 15, random.nextInt(60)),
        actor,
        moment -> GroupDecisions.remove(moment, id, person, reason));
  }
}
