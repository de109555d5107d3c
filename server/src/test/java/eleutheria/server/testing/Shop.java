package eleutheria.server.testing;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.portal.CollectionDecisions;
import eleutheria.core.portal.Placing;
import eleutheria.core.portal.TileDecisions;
import eleutheria.server.writing.Loader;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Some applications for the small organisation. Oda's manager is Lena, Lena's is Ines; Nils has
 * none, and the one of his namesake has departed, whose own manager is Jonas.
 */
public final class Shop {
  private final Loader loader;
  private final Map<String, PersonId> people;
  private final Map<String, EntitlementId> roles = new TreeMap<>();
  private final Map<String, TileId> tiles = new TreeMap<>();
  private CollectionId counter;
  private Instant at = Seed.BEGIN.plusSeconds(120);

  Shop(Loader loader, Map<String, PersonId> people) {
    this.loader = loader;
    this.people = people;
  }

  /** The only role of an application. */
  public EntitlementId role(String app) {
    return roles.get(app);
  }

  public TileId tile(String app) {
    return tiles.get(app);
  }

  public CollectionId counter() {
    return counter;
  }

  void fill() {
    manager("oda", "lena");
    manager("lena", "ines");
    manager("nils.desk", "gone");
    manager("gone", "jonas");
    // Lena manages and owns; Crewsheet has two owners beside the manager; Tide Table only Oda.
    app("Farebox", "Seller", Sensitivity.LOW, "lena");
    app("Crewsheet", "Viewer", Sensitivity.LOW, "nils", "jonas");
    app("Refund Bench", "Approver", Sensitivity.HIGH, "nils");
    app("Tide Table", "Reader", Sensitivity.LOW, "oda");
    app("Quaynotes", "Reader", Sensitivity.LOW, "ines");
    act(
        m ->
            GrantDecisions.give(
                m,
                role("Quaynotes"),
                List.of(new FactValue.Subject.ByFilter("userName pr")),
                null,
                null,
                "Comes with the work."));
    counter =
        act(
            m ->
                CollectionDecisions.make(
                    m,
                    new FactValue.CollectionFace("Counter", "For the counter"),
                    new FactValue.Audience(
                        false, List.of(new FactValue.Subject.ByFilter("unit eq \"Ticketing\"")))));
    act(
        m ->
            CollectionDecisions.arrange(
                m,
                counter,
                Placing.all(
                    List.of(tile("Farebox"), tile("Crewsheet")), t -> t.equals(tile("Farebox")))));
  }

  private <T> T act(
      java.util.function.Function<eleutheria.core.directory.Moment, Outcome<T>> decision) {
    at = at.plusSeconds(1);
    return loader.act(at, new Actor.Setup(), decision);
  }

  private void manager(String person, String manager) {
    act(
        m -> {
          Edits edits = m.edits();
          edits.put(
              Attributes.key(people.get(person), Attributes.MANAGER, false, ""),
              new FactValue.Text(people.get(manager).value().toString()));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  private void app(String name, String role, Sensitivity sensitivity, String... owners) {
    ApplicationId app =
        act(
            m ->
                AppDecisions.propose(
                    m,
                    new FactValue.Profile(name, "", "ticket", "plum", sensitivity, "ext. 4400"),
                    "https://%s.x.example/"
                        .formatted(name.toLowerCase(java.util.Locale.ROOT).replace(' ', '-')),
                    List.of(owners).stream().map(people::get).toList(),
                    List.of(new AppDecisions.WantedRole(role, "", sensitivity, true))));
    act(m -> AppDecisions.setState(m, app, ApplicationState.PROPOSED, ApplicationState.OPEN, ""));
    EntitlementId id =
        loader
            .portal()
            .access()
            .apps()
            .application(app)
            .orElseThrow()
            .entitlements()
            .getFirst()
            .id();
    roles.put(name, id);
    tiles.put(
        name,
        act(
            m ->
                TileDecisions.make(
                    m,
                    TileDecisions.Terms.of(
                        new FactValue.TileFace(
                            name, "", "ticket", "plum", app, new TreeSet<>(List.of(id)))))));
  }
}
