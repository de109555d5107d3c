package eleutheria.server.settings;

import java.net.InetAddress;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.env.Environment;
import org.springframework.core.env.Profiles;
import org.springframework.stereotype.Component;

/** A server whose sign-ins everybody knows answers only on this machine. */
@Component
class DemoStaysAtHome implements org.springframework.beans.factory.InitializingBean {
  private final Settings settings;
  private final Environment environment;
  private final @Nullable InetAddress address;

  DemoStaysAtHome(
      Settings settings,
      Environment environment,
      @Value("${server.address:#{null}}") @Nullable InetAddress address) {
    this.settings = settings;
    this.environment = environment;
    this.address = address;
  }

  @Override
  public void afterPropertiesSet() {
    boolean demo =
        environment.acceptsProfiles(Profiles.of("demo")) || settings.get(Settings.DEMO).isPresent();
    if (demo && (address == null || !address.isLoopbackAddress())) {
      throw new IllegalStateException(
          "The demo's sign-ins are known to everyone, so it listens on loopback only:"
              + " set SERVER_ADDRESS=127.0.0.1, or use a database without the demo.");
    }
  }
}
