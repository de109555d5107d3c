package eleutheria.core.ledger;

import eleutheria.core.facts.Duty;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;

/** Facts of who decides requests as JSON. */
public final class RequestJson {
  private static final String MANAGER = "manager";
  private static final String MANAGERS_MANAGER = "managers-manager";
  private static final String OWNER = "owner";
  private static final String STEWARD = "steward";
  private static final String ANY_OF = "any-of";
  private static final String NAMED = "named";

  private RequestJson() {}

  static Map<String, Object> key(FactKey.OfRequests key) {
    return switch (key) {
      case FactKey.Deputy k ->
          Map.of("deputy", FactJson.id(k.deputy()), "person", FactJson.id(k.subject()));
      case FactKey.Route k -> Map.of("scope", k.scope().word());
      case FactKey.RequestForm k -> Map.of("scope", k.scope().word());
    };
  }

  public static Object value(FactValue.Route route) {
    return route.steps().stream().map(RequestJson::step).toList();
  }

  private static Map<String, Object> step(RouteStep step) {
    Map<String, Object> json = new TreeMap<>(seat(step));
    if (!step.always()) {
      json.put("only-if", step.onlyIf());
    }
    return json;
  }

  private static Map<String, Object> seat(RouteStep step) {
    return switch (step.seat()) {
      case Seat.Manager s -> Map.of("days", step.days(), "seat", MANAGER);
      case Seat.ManagersManager s -> Map.of("days", step.days(), "seat", MANAGERS_MANAGER);
      case Seat.Owner s -> Map.of("days", step.days(), "seat", OWNER);
      case Seat.Steward s -> Map.of("days", step.days(), "seat", STEWARD);
      case Seat.AnyOf s ->
          Map.of("days", step.days(), "group", FactJson.id(s.group()), "seat", ANY_OF);
      case Seat.Named s ->
          Map.of("days", step.days(), "person", FactJson.id(s.person()), "seat", NAMED);
    };
  }

  private static Seat seat(Map<?, ?> json) {
    String word = JsonMembers.text(json, "seat");
    return switch (word) {
      case MANAGER -> new Seat.Manager();
      case MANAGERS_MANAGER -> new Seat.ManagersManager();
      case OWNER -> new Seat.Owner();
      case STEWARD -> new Seat.Steward();
      case ANY_OF -> new Seat.AnyOf(GroupId.parse(JsonMembers.text(json, "group")));
      case NAMED -> new Seat.Named(PersonId.parse(JsonMembers.text(json, "person")));
      default -> throw new IllegalArgumentException("unknown seat: " + word);
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfRequests key, Object json) {
    return switch (key) {
      case FactKey.Deputy k -> {
        TreeSet<Duty> duties = new TreeSet<>();
        for (Object word : (List<?>) json) {
          duties.add(
              Duty.of(String.valueOf(word))
                  .orElseThrow(() -> new IllegalArgumentException("unknown duty: " + word)));
        }
        yield new FactValue.Duties(duties);
      }
      case FactKey.Route k -> route((List<?>) json);
      case FactKey.RequestForm k -> FormJson.form((Map<?, ?>) json);
    };
  }

  /**
   * @throws IllegalArgumentException if these are not steps
   */
  public static FactValue.Route route(List<?> json) {
    return new FactValue.Route(
        json.stream()
            .map(each -> (Map<?, ?>) each)
            .map(
                each ->
                    new RouteStep(
                        seat(each),
                        JsonMembers.number(each, "days").intValue(),
                        each.get("only-if") instanceof String filter ? filter : ""))
            .toList());
  }
}
