package eleutheria.journeys;

import eleutheria.core.apps.Application;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.portal.PortalView;
import eleutheria.server.writing.Acts;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Function;

/** A great many tiles on everybody's page, for a while; they come and go in one act each. */
final class ManyTiles implements AutoCloseable {
  private final Acts acts;
  private final List<TileId> made = new ArrayList<>();

  /** Tiles that are called Many 1 and so on, and some with names of their own. */
  ManyTiles(Acts acts, int count, List<String> named) {
    this.acts = acts;
    List<String> names = new ArrayList<>();
    for (int i = 1; i <= count; i++) {
      names.add("Many " + i);
    }
    names.addAll(named);
    act(
        moment -> {
          Application gangway =
              PortalView.at(moment).access().apps().applications().stream()
                  .filter(app -> app.name().equals("Quaynotes"))
                  .findFirst()
                  .orElseThrow();
          EntitlementId reader =
              gangway.entitlements().stream()
                  .filter(role -> role.role().name().equals("Reader"))
                  .findFirst()
                  .orElseThrow()
                  .id();
          Edits edits = moment.edits();
          for (String name : names) {
            TileId id = new TileId(moment.ids().get());
            made.add(id);
            edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
            edits.put(
                new FactKey.Tile(id),
                new FactValue.TileFace(
                    name, "", "waves", "tide", gangway.id(), new TreeSet<>(List.of(reader))));
          }
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), names.size());
        });
  }

  @Override
  public void close() {
    act(
        moment -> {
          Edits edits = moment.edits();
          for (TileId id : made) {
            edits.end(new FactKey.Existence(id));
            edits.end(new FactKey.Tile(id));
          }
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), made.size());
        });
  }

  private void act(Function<Moment, Outcome<Integer>> decision) {
    // Whose power it is does not matter here: what is tested is what staff see.
    acts.perform(
        new Actor.Setup(),
        null,
        Integer.class,
        moment ->
            switch (decision.apply(moment)) {
              case Outcome.Refused<Integer> refused -> refused;
              case Outcome.Done<Integer> done -> done.by(Outcome.Right.BY_RULE);
            });
  }
}
