package eleutheria.server.state;

import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.RequestJson;
import java.util.List;

/** The steps of a route in a column, as they stand in the ledger. */
public final class Routes {
  private Routes() {}

  public static String text(FactValue.Route route) {
    return CanonicalJson.write(RequestJson.value(route));
  }

  public static FactValue.Route read(String text) {
    return RequestJson.route(FactTable.JSON.readValue(text, List.class));
  }
}
