package eleutheria.server.demo;

import eleutheria.server.settings.ServerSettings;
import eleutheria.server.settings.Settings;
import eleutheria.server.web.Needs;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** The demo's sign-ins, shown on its sign-in page. */
@RestController
@Profile("demo")
class DemoController {
  private final Settings settings;
  private final ServerSettings server;

  DemoController(Settings settings, ServerSettings server) {
    this.settings = settings;
    this.server = server;
  }

  record DemoView(List<DemoSignIn> signIns, String password, @Nullable String mailroom) {}

  record DemoSignIn(String userName, String line) {}

  @GetMapping("/api/demo")
  @Needs(nothing = true)
  DemoView demo() {
    List<DemoSignIn> signIns = new ArrayList<>();
    String password = "";
    for (String line : settings.get(Settings.DEMO).orElse("").lines().toList()) {
      int tab = line.indexOf('\t');
      if (tab < 0) {
        password = line;
      } else {
        signIns.add(new DemoSignIn(line.substring(0, tab), line.substring(tab + 1)));
      }
    }
    return new DemoView(
        signIns, password, server.mailroom() == null ? null : server.mailroom().toString());
  }
}
