package eleutheria.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import eleutheria.server.writing.Acts;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Whoever waits for a large act is told whose it is. */
class WritingTest {
  private final RunningServer server = RunningServer.shop();

  @Test
  void whoWaitsIsToldForWhom() throws Exception {
    Visitor ines = server.signedIn("ines");
    Visitor oda = server.signedIn("oda");
    CountDownLatch begun = new CountDownLatch(1);
    CountDownLatch enough = new CountDownLatch(1);
    CompletableFuture<Void> large =
        CompletableFuture.runAsync(
            () ->
                server
                    .context()
                    .getBean(Acts.class)
                    .perform(
                        new Actor.OfPerson(server.seed().person("maren")),
                        null,
                        Integer.class,
                        moment -> {
                          begun.countDown();
                          awaited(enough);
                          return Outcome.refused(Problem.absent("anything"));
                        }));
    assertThat(begun.await(20, TimeUnit.SECONDS)).isTrue();
    JsonNode told = ines.get("/api/writing").expect(200).json();
    assertThat(told.path("busy").asBoolean()).isTrue();
    assertThat(told.path("who").asString()).startsWith("Maren");
    JsonNode less = oda.get("/api/writing").expect(200).json();
    assertThat(less.path("busy").asBoolean()).isTrue();
    assertThat(less.path("who").isNull()).as("staff see nobody").isTrue();
    enough.countDown();
    assertThatThrownBy(large::join).hasCauseInstanceOf(Refusal.class);
    assertThat(ines.get("/api/writing").expect(200).json().path("busy").asBoolean()).isFalse();
  }

  private static void awaited(CountDownLatch latch) {
    try {
      assertThat(latch.await(20, TimeUnit.SECONDS)).isTrue();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
