package eleutheria.demo;

import static eleutheria.server.tables.Tables.OWN_LINK;
import static eleutheria.server.tables.Tables.OWN_PORTAL;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.portal.Complaint;
import eleutheria.core.portal.ComplaintDecisions;
import eleutheria.core.portal.PortalRules;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Wish;
import eleutheria.core.suggestions.SelfService;
import eleutheria.core.suggestions.SelfServiceDecisions;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.core.suggestions.SuggestionDecisions;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.suggestions.SuggestionStore;
import eleutheria.server.writing.Loader;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.JSON;

/** Apps that people bring, problems that they report, and how some have set up their portal. */
final class Suggestions {
  /** name | address | line | kind | picture | hue | who keeps it. */
  private static final String APPROVED =
      """
      Skerry Weather | https://weather.skerry.example/ | Wind and waves, hour by hour | Weather | wind | tide | ines.roth
      Ice and Fog | https://ice.skerry.example/charts | Charts of ice and visibility | Weather | waves | tide | ines.roth
      Lowland Trains | https://trains.lowland.example/ | Times from the ferry quays | Travel | truck | violet | maren.quist
      Island Buses | https://buses.island.example/ | Times and delays | Travel | signpost | violet | maren.quist
      Knot School | https://knots.example/learn | Knots and splices, with pictures | Learning | graduation | amber | petra.lindholm
      Phrasebook | https://phrases.example/sea | Words for passengers in twelve languages | Learning | books | amber | petra.lindholm
      Seafarers' Line | https://help.seafarers.example/ | Somebody to talk to, day and night | Health | lifebuoy | rust | petra.lindholm
      Paper Sizes | https://paper.example/sizes | For whoever prints posters | Tools | printer | slate | emre.demir
      """;

  private final Loader loader;
  private final List<Suggestion> suggestions = new ArrayList<>();
  private final List<Complaint> complaints = new ArrayList<>();

  Suggestions(Loader loader) {
    this.loader = loader;
  }

  private PersonId person(String userName) {
    return loader.directory().byUserName(userName).orElseThrow();
  }

  private Actor as(String userName) {
    return new Actor.OfPerson(person(userName));
  }

  /** The ready-made apps, listed some weeks ago. */
  void begin(Instant at) {
    int minute = 0;
    for (String line : APPROVED.lines().toList()) {
      String[] parts = line.split("\\|");
      for (int i = 0; i < parts.length; i++) {
        parts[i] = parts[i].strip();
      }
      loader.act(
          at.plus(Duration.ofMinutes(minute++)),
          as("ines.roth"),
          moment ->
              SelfServiceDecisions.list(
                  moment,
                  new FactValue.Listing(parts[0], parts[1], parts[2], parts[3], parts[4], parts[5]),
                  List.of(person(parts[6]))));
    }
    loader.act(
        at.plus(Duration.ofHours(1)),
        as("ines.roth"),
        moment ->
            SelfServiceDecisions.setPolicy(
                moment,
                new FactValue.SelfService(List.of()),
                new FactValue.SelfService(
                    List.of(
                        rule("employment eq \"contractor\"", FactValue.Links.NOTHING, false),
                        rule("unit eq \"Yard & office\"", FactValue.Links.ANYTHING, true))),
                audience -> PortalRules.audienceProblems(moment, audience)));
  }

  private static FactValue.SelfServiceLine rule(
      String filter, FactValue.Links links, boolean suggest) {
    return new FactValue.SelfServiceLine(
        new FactValue.Audience(false, List.of(new FactValue.Subject.ByFilter(filter))),
        links,
        suggest);
  }

  /** What has waited for an answer for some days. */
  void before(Instant now) {
    suggest(
        now.minus(Duration.ofHours(52)),
        "lena.aho",
        "Queue Minder",
        "https://queue.minder.example/app",
        "Everyone at the counters",
        "We write numbers on paper slips when the summer boats come in.");
    suggest(
        now.minus(Duration.ofHours(40)),
        "maren.quist",
        "QueueMinder",
        "https://queue.minder.example/app/",
        "The vehicle lanes at Gull Point",
        "Drivers leave their cars to ask how long it takes.");
    report(
        now.minus(Duration.ofHours(31)),
        "oda.brekke",
        "Farebox",
        "The family ticket to Lowisle shows last year's price.");
  }

  /** What has come today. */
  void lately(Instant now) {
    suggest(
        now.minus(Duration.ofHours(2)),
        "emre.demir",
        "Cable Map",
        "https://cables.example/",
        "The three of us on the help desk",
        "To see which socket leads where.");
    report(
        now.minus(Duration.ofHours(1)),
        "emre.demir",
        "Quaynotes",
        "Pictures in the news do not load on the bridge computers.");
  }

  private void suggest(
      Instant at, String by, String name, String address, String whom, String why) {
    PersonId person = person(by);
    loader.act(
        at,
        as(by),
        moment ->
            kept(
                suggestions,
                SuggestionDecisions.suggest(
                    moment,
                    1001 + suggestions.size(),
                    person,
                    name,
                    address,
                    whom,
                    why,
                    List.of(),
                    SelfService.at(moment.facts(), moment.at())
                        .of(person, PortalView.at(moment)::has))));
  }

  private void report(Instant at, String by, String tile, String text) {
    PersonId person = person(by);
    loader.act(
        at,
        as(by),
        moment -> {
          PortalView portal = PortalView.at(moment);
          return kept(
              complaints,
              ComplaintDecisions.make(
                  moment,
                  1001 + complaints.size(),
                  person,
                  tile(portal, tile),
                  text,
                  portal.visible(
                      person, (p, e) -> Deciders.resolves(portal.access(), Wish.own(p, e))),
                  List.of()));
        });
  }

  private static TileId tile(PortalView portal, String name) {
    return portal.tiles().stream()
        .filter(tile -> tile.name().equals(name))
        .findFirst()
        .orElseThrow()
        .id();
  }

  private static <T> eleutheria.core.ledger.Outcome<T> kept(
      List<T> all, eleutheria.core.ledger.Outcome<T> outcome) {
    if (outcome instanceof eleutheria.core.ledger.Outcome.Done<T> done) {
      all.add(done.result());
    }
    return outcome;
  }

  /** Writes what is no fact, once the acts are written. */
  void write(DSLContext db, Instant now) {
    suggestions.forEach(each -> SuggestionStore.save(db, each));
    complaints.forEach(each -> ComplaintStore.save(db, each));
    PortalView portal = loader.portal();
    List<String> pinned =
        List.of("Crewsheet", "Farebox", "Halyard Mail", "Tidewatch").stream()
            .map(name -> "\"" + tile(portal, name).value() + "\"")
            .toList();
    db.insertInto(OWN_PORTAL)
        .set(OWN_PORTAL.PERSON_ID, person("oda.brekke").value())
        .set(OWN_PORTAL.VERSION, 1L)
        .set(
            OWN_PORTAL.SAID,
            JSON.json(
                "{\"pinned\":%s,\"hidden\":[],\"forms\":{},\"hushed\":[],\"tips\":[\"type\",\"menu\",\"form\"]}"
                    .formatted(pinned)))
        .execute();
    Map<String, String[]> links =
        Map.of(
            "oda.brekke",
            new String[] {
              "Wind today", "https://weather.skerry.example/westhaven", "wind", "tide"
            });
    links.forEach(
        (who, link) ->
            db.insertInto(OWN_LINK)
                .set(OWN_LINK.PERSON_ID, person(who).value())
                .set(OWN_LINK.ID, UUID.nameUUIDFromBytes(link[1].getBytes()))
                .set(OWN_LINK.NAME, link[0])
                .set(OWN_LINK.ADDRESS, link[1])
                .set(OWN_LINK.PICTURE, link[2])
                .set(OWN_LINK.HUE, link[3])
                .set(OWN_LINK.MADE_AT, now.minus(Duration.ofDays(20)))
                .execute());
  }
}
