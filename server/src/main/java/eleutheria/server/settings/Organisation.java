package eleutheria.server.settings;

import java.time.ZoneId;
import org.springframework.stereotype.Component;

/** The organisation that this database belongs to. */
@Component
public class Organisation {
  private final ServerSettings settings;

  Organisation(ServerSettings settings) {
    this.settings = settings;
  }

  public String name() {
    return settings.organisation();
  }

  public ZoneId zone() {
    return settings.zone();
  }
}
