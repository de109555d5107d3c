package eleutheria.server.writing;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.state.World;
import eleutheria.server.testing.RunningServer;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.FutureTask;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.slf4j.LoggerFactory;

/** An act that keeps all others waiting is told once, with where it stands. */
@Timeout(60)
class LongHeldTest {
  private final RunningServer server = RunningServer.shared();
  private final Acts acts = server.context().getBean(Acts.class);
  private final World world = server.context().getBean(World.class);
  private final CountDownLatch begun = new CountDownLatch(1);
  private final CountDownLatch end = new CountDownLatch(1);

  @Test
  void told() throws Exception {
    Logger logger = (Logger) LoggerFactory.getLogger(LongHeld.class);
    ListAppender<ILoggingEvent> lines = new ListAppender<>();
    lines.start();
    logger.addAppender(lines);
    PersonId ines = server.seed().person("ines");
    FutureTask<?> act =
        new FutureTask<>(
            () ->
                acts.perform(new Actor.OfPerson(ines), null, Integer.class, this::standsForAWhile));
    try {
      LongHeld now = new LongHeld(acts, world, Clock.systemUTC());
      LongHeld later =
          new LongHeld(acts, world, Clock.offset(Clock.systemUTC(), Duration.ofSeconds(90)));
      later.look();
      assertThat(lines.list).as("nobody acts").isEmpty();

      Thread.ofVirtual().start(act);
      begun.await();
      now.look();
      assertThat(lines.list).as("an act has just begun").isEmpty();

      later.look();
      later.look();
      assertThat(lines.list)
          .singleElement()
          .satisfies(
              line ->
                  assertThat(line.getFormattedMessage())
                      .startsWith("An act of " + new Actor.OfPerson(ines).text())
                      .contains("for 9", "LongHeldTest.standsForAWhile"));
    } finally {
      end.countDown();
      logger.detachAppender(lines);
      act.get();
    }
  }

  private Outcome<Integer> standsForAWhile(Moment moment) {
    begun.countDown();
    try {
      end.await();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
    return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), List.of(), 1).by(Outcome.Right.BY_RULE);
  }
}
