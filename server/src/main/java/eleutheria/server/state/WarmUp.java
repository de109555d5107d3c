package eleutheria.server.state;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The first answers after a start are slow because the Java machine still interprets the walk over
 * grounds; it is walked a while before anybody asks.
 */
@Component
class WarmUp {
  private static final Duration LONGEST = Duration.ofSeconds(3);

  private final World world;

  WarmUp(World world) {
    this.world = world;
  }

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    Thread.ofPlatform().name("warm-up").daemon().start(this::walk);
  }

  private void walk() {
    long end = System.nanoTime() + LONGEST.toNanos();
    AccessView access = world.whole().access();
    for (Entitlement entitlement : access.apps().entitlements()) {
      for (PersonId person : access.holders(entitlement.id(), "", 0, 200).people()) {
        if (System.nanoTime() > end) {
          return;
        }
        access.grounds(person, entitlement.id());
        access.ends(person, entitlement.id());
      }
    }
  }
}
