package eleutheria.server.signon;

import eleutheria.core.directory.FirstSteward;
import eleutheria.core.ledger.Actor;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.server.state.World;
import eleutheria.server.writing.Acts;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;

/** An empty database gets what ships; without a steward, a link for the first one is written. */
@Component
class Beginning implements ApplicationRunner {
  private final World world;
  private final Acts acts;
  private final OneTimeLinks links;
  private final @Nullable Path linkFile;

  Beginning(
      World world,
      Acts acts,
      OneTimeLinks links,
      @Value("${eleutheria.first-steward-link:#{null}}") @Nullable Path linkFile) {
    this.world = world;
    this.acts = acts;
    this.links = links;
    this.linkFile = linkFile;
  }

  @Override
  public void run(ApplicationArguments arguments) throws IOException {
    if (world.position() == 0) {
      acts.perform(new Actor.Setup(), null, Integer.class, FirstSteward::shipped);
    }
    boolean steward =
        world.now().mandates().stream()
            .anyMatch(m -> m.id().equals(ShippedMandate.STEWARD.id()) && !m.holders().isEmpty());
    if (!steward && linkFile != null) {
      Files.deleteIfExists(linkFile);
      Files.createFile(
          linkFile,
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      Files.writeString(linkFile, links.make(OneTimeLinks.FIRST_STEWARD, null, null) + "\n");
    }
  }
}
