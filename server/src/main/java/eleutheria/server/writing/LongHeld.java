package eleutheria.server.writing;

import eleutheria.server.state.World;
import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Says in the log where an act stands that keeps all others waiting for long, once for each, so
 * that the people who run the server need not guess.
 */
@Component
class LongHeld {
  private static final Logger log = LoggerFactory.getLogger(LongHeld.class);
  static final Duration LONG = Duration.ofSeconds(20);
  private static final int FRAMES = 40;

  private final Acts acts;
  private final World world;
  private final Clock clock;
  private Acts.@Nullable Holding told;

  LongHeld(Acts acts, World world, Clock clock) {
    this.acts = acts;
    this.world = world;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 5_000)
  void look() {
    Acts.Holding holding = acts.holding();
    if (holding == null || holding.equals(told)) {
      return;
    }
    Duration held = Duration.between(holding.since(), clock.instant());
    if (held.compareTo(LONG) < 0) {
      return;
    }
    told = holding;
    log.warn(
        "An act of {} has kept all others waiting for {} s; {} look at the state meanwhile. It stands at\n{}",
        holding.actor().text(),
        held.toSeconds(),
        world.lookers(),
        Arrays.stream(holding.in().getStackTrace())
            .limit(FRAMES)
            .map(frame -> "    " + frame)
            .collect(Collectors.joining("\n")));
  }
}
