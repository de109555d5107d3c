package eleutheria.server.testing;

import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * An open application of a test's own with one entitlement, so that tests on a shared server do not
 * meet.
 *
 * @param role the id of its entitlement
 * @param title of the entitlement
 */
public record OwnApp(String id, String role, String title) {
  private static final AtomicInteger NUMBER = new AtomicInteger();

  public static OwnApp open(RunningServer server, String name) {
    Visitor steward = server.signedIn("ines");
    String called = name + " " + NUMBER.incrementAndGet();
    String made =
        steward
            .post(
                "/api/apps",
                Map.of(
                    "profile",
                    Map.of(
                        "name",
                        called,
                        "line",
                        "",
                        "picture",
                        "key",
                        "hue",
                        "tide",
                        "sensitivity",
                        "LOW",
                        "contact",
                        "",
                        "nicknames",
                        List.of()),
                    "address",
                    "https://a.x.example/",
                    "owners",
                    List.of(server.seed().person("jonas").value().toString()),
                    "entitlements",
                    List.of(
                        Map.of(
                            "name",
                            "User",
                            "line",
                            "",
                            "sensitivity",
                            "LOW",
                            "requestable",
                            true))))
            .expect(200)
            .json()
            .path("result")
            .asString();
    steward
        .put("/api/apps/" + made + "/state", Map.of("base", "PROPOSED", "state", "OPEN"))
        .expect(200);
    String role = steward.get("/api/apps/" + made).json().at("/entitlements/0/id").asString();
    return new OwnApp(made, role, called + " · User");
  }
}
