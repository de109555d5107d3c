package eleutheria.server.settings;

import java.time.ZoneId;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** The organisation that this database belongs to. */
@Component
public class Organisation {
  private final ServerSettings settings;

  Organisation(ServerSettings settings) {
    this.settings = settings;
    // A tag that no browser would take is said when the server starts.
    if (!settings.locale().isEmpty()) {
      new Locale.Builder().setLanguageTag(settings.locale()).build();
    }
  }

  public String name() {
    return settings.organisation();
  }

  public ZoneId zone() {
    return settings.zone();
  }

  /** How dates and numbers are written; empty for as each person's browser says. */
  public String locale() {
    return settings.locale();
  }
}
