package eleutheria.server.state;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.portal.PortalView;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.writing.Acts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.FutureTask;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Whoever looks keeps acts waiting, and must never wait for one of them, nor for themselves. */
@Timeout(value = 60, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
class LookingTest {
  private final RunningServer server = RunningServer.shared();
  private final World world = server.context().getBean(World.class);
  private final Acts acts = server.context().getBean(Acts.class);
  private final Clock clock = server.context().getBean(Clock.class);
  private final FactKey title =
      Attributes.key(server.seed().person("oda"), Attributes.TITLE, false, "");

  @Test
  void somethingEndsByItselfWhileSomebodyLooks() {
    Instant end = clock.instant().plus(Duration.ofMillis(500));
    set(m -> new Spell(new FactValue.Text("Deckhand for a moment"), m.at(), end));

    PortalView seen =
        world.look(
            (facts, now) -> {
              until(() -> clock.instant().isAfter(end));
              assertThat(world.whole()).isSameAs(now);
              assertThat(world.now()).isSameAs(now.directory());
              return now;
            });

    assertThat(world.whole()).isNotSameAs(seen);
    assertThat(world.whole().at()).isAfterOrEqualTo(end);
  }

  @Test
  void thePastIsAskedForByWhoLooksAndByOthersWhileAnActWaits() throws Exception {
    Instant before = world.whole().at();
    FutureTask<Long> act =
        new FutureTask<>(
            () ->
                set(m -> new Spell(new FactValue.Text("Purser"), m.at(), Moments.FOREVER))
                    .position());
    FutureTask<PortalView> other = new FutureTask<>(() -> world.whole(before));

    PortalView seen =
        world.look(
            (facts, now) -> {
              Thread writer = started(act);
              until(() -> waiting(writer) && acts.holding() != null);
              Thread asks = started(other);
              until(() -> waiting(asks));
              return world.whole(before);
            });

    assertThat(act.get()).isEqualTo(world.position());
    assertThat(other.get().at()).isEqualTo(seen.at());
  }

  private static Thread started(Runnable task) {
    Thread thread = new Thread(task);
    thread.start();
    return thread;
  }

  private static boolean waiting(Thread thread) {
    return thread.getState() == Thread.State.WAITING;
  }

  private static void until(BooleanSupplier so) {
    while (!so.getAsBoolean()) {
      Thread.onSpinWait();
    }
  }

  private Acts.Receipt<Integer> set(Function<Moment, Spell> spell) {
    return acts.perform(
        new Actor.Setup(),
        null,
        Integer.class,
        m -> {
          Edits edits = m.edits();
          edits.timeline(title, List.of(spell.apply(m)));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1)
              .by(Outcome.Right.BY_RULE);
        });
  }
}
