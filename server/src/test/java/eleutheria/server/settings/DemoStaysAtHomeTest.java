package eleutheria.server.settings;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import eleutheria.server.testing.RunningServer;
import java.net.InetAddress;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.springframework.mock.env.MockEnvironment;

class DemoStaysAtHomeTest {
  private final Settings settings =
      new Settings(RunningServer.shared().context().getBean(DSLContext.class));

  private DemoStaysAtHome at(String address, String... profiles) throws Exception {
    MockEnvironment environment = new MockEnvironment();
    environment.setActiveProfiles(profiles);
    return new DemoStaysAtHome(
        settings, environment, address == null ? null : InetAddress.getByName(address));
  }

  @Test
  void theDemoListensOnLoopbackOnly() throws Exception {
    assertThatThrownBy(() -> at("0.0.0.0", "demo").afterPropertiesSet())
        .hasMessageContaining("listens on loopback only");
    assertThatThrownBy(() -> at(null, "demo").afterPropertiesSet())
        .hasMessageContaining("listens on loopback only");
    assertThatCode(() -> at("127.0.0.1", "demo").afterPropertiesSet()).doesNotThrowAnyException();
    assertThatCode(() -> at("0.0.0.0").afterPropertiesSet()).doesNotThrowAnyException();
  }

  @Test
  void withoutItsProfileThereIsNoDemo() {
    RunningServer.shared().nobody().get("/api/demo").expect(404);
  }
}
