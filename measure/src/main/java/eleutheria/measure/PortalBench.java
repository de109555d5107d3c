package eleutheria.measure;

import eleutheria.measure.Results.Goal;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/**
 * Arranging over HTTP, one client: what a new front page for everyone takes to be counted and to be
 * in force, and what it takes to tell how much of a large collection its audience can open.
 */
final class PortalBench {
  static final int TILES = 60;
  private static final int COLLECTIONS = 8;
  private static final int PAGES = 40;
  private static final int LARGE = 50;
  private static final int TRIES = 15;

  private final Connection connection;
  private final String set;
  private final int rounds;
  private final Results results;
  private final Keyboards keyboards;
  private final Server server;

  PortalBench(Connection connection, String database, String set, int rounds, Results results) {
    this.connection = connection;
    this.set = set;
    this.rounds = rounds;
    this.results = results;
    this.keyboards = new Keyboards(connection, new Sql(connection));
    this.server = new Server(database);
  }

  void run() throws Exception {
    keyboards.people(1);
    List<UUID> roles = open();
    server.start();
    try {
      Server.Signed steward = server.signedIn("bench.steward", Keyboards.PASSWORD);
      arrange(steward, roles, set, results);
      String large = large(steward);
      JsonNode seen = steward.get("/api/collections/" + large + "/people?opens=some");
      System.out.printf("  of a large collection, %,d can open some%n", seen.path("total").asInt());
      for (int round = 0; round < rounds; round++) {
        System.out.printf("  portal round %d of %d%n", round + 1, rounds);
        results.round("H beside arranging", median(400, i -> steward.timed("/api/session/alive")));
        results.round(
            "how much",
            median(TRIES, i -> steward.timed("/api/collections/" + large + "/people?opens=some")));
        results.round("arranging view", median(TRIES, i -> steward.timed("/api/portal")));
        newPage(steward);
      }
      steward.delete("/api/collections/" + large);
    } finally {
      server.stop();
    }
    results.ratio(
        "how much of a collection of 50 tiles everyone can open",
        set,
        "H",
        Goal.atMost(5),
        "how much",
        "H beside arranging");
    results.ratio(
        "the arranging view: 60 tiles, 9 collections with how much can be opened, 40 front pages",
        set,
        "H",
        null,
        "arranging view",
        "H beside arranging");
    results.ratio(
        "a new front page for everyone, counted after an edit",
        set,
        "H",
        Goal.atMost(10),
        "new page",
        "H beside arranging");
    results.tell(
        "a new front page for everyone, in force with one publish",
        set,
        "ms",
        null,
        Arrays.stream(results.rounds("new page published")).map(t -> t / 1e6).toArray());
  }

  private interface Timed {
    double take(int i) throws Exception;
  }

  private static double median(int tries, Timed timed) throws Exception {
    double[] times = new double[tries];
    for (int i = 0; i < tries; i++) {
      times[i] = timed.take(i);
    }
    return Timing.percentile(times, 0.5);
  }

  /** Entitlements of open applications. */
  private List<UUID> open() throws SQLException {
    List<UUID> found = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("select e from now_role where open order by e limit " + TILES)) {
      while (rows.next()) {
        found.add(keyboards.id("now_role", "e", rows.getInt(1)));
      }
    }
    return found;
  }

  private static String result(JsonNode receipt) {
    return receipt.path("result").asString();
  }

  private static Map<String, Object> audience(boolean everyone, String filter) {
    return Map.of(
        "everyone",
        everyone,
        "firstDays",
        0,
        "subjects",
        filter.isEmpty() ? List.of() : List.of(Map.of("kind", "filter", "filter", filter)));
  }

  private static Map<String, Object> page(String name, Map<String, Object> audience) {
    return new HashMap<>(
        Map.of("name", name, "only", false, "audience", audience, "waves", List.of()));
  }

  private static void place(Server.Signed steward, String collection, List<String> tiles)
      throws Exception {
    List<Map<String, Object>> moves = new ArrayList<>();
    String last = null;
    for (String tile : tiles) {
      Map<String, Object> spot = new HashMap<>();
      spot.put("after", last);
      spot.put("offered", false);
      moves.add(Map.of("tile", tile, "wanted", spot));
      last = tile;
    }
    steward.put("/api/collections/" + collection + "/tiles", Map.of("moves", moves));
  }

  /**
   * Sixty tiles in eight collections that everyone is shown, and forty front pages of which the
   * fortieth is the first that fits; made as a steward makes them, in place of what there was.
   */
  static void arrange(Server.Signed steward, List<UUID> roles, String set, Results results)
      throws Exception {
    JsonNode there = steward.get("/api/portal");
    if (there.path("pages").size() == PAGES + 1 && there.path("tiles").size() == TILES) {
      return;
    }
    for (JsonNode one : there.path("collections")) {
      steward.delete("/api/collections/" + one.path("id").asString());
    }
    for (JsonNode one : there.path("tiles")) {
      steward.delete("/api/tiles/" + one.path("id").asString());
    }
    for (JsonNode one : there.path("pages")) {
      if (!one.path("everyones").asBoolean()) {
        steward.delete("/api/front-pages/" + one.path("id").asString());
      }
    }
    double[] times = new double[TILES];
    List<String> tiles = new ArrayList<>();
    for (int i = 0; i < TILES; i++) {
      UUID role = roles.get(i % roles.size());
      String app = steward.get("/api/entitlements/" + role).at("/entitlement/app/id").asString();
      Map<String, Object> form = new HashMap<>();
      form.put("name", "Measured " + i);
      form.put("line", "A tile like others");
      form.put("picture", "key");
      form.put("hue", "tide");
      form.put("application", app);
      form.put("needs", List.of(role.toString()));
      form.put("address", "");
      form.put("contact", "");
      form.put("apart", false);
      form.put("audience", audience(true, ""));
      long begun = System.nanoTime();
      JsonNode made = steward.post("/api/tiles", form);
      times[i] = System.nanoTime() - begun;
      tiles.add(result(made));
    }
    for (int i = 0; i < COLLECTIONS; i++) {
      String id =
          result(
              steward.post(
                  "/api/collections",
                  Map.of(
                      "face",
                      Map.of("name", "Collection " + i, "line", ""),
                      "audience",
                      audience(true, ""))));
      place(steward, id, tiles.subList(i * TILES / COLLECTIONS, (i + 1) * TILES / COLLECTIONS));
    }
    for (int i = 1; i <= PAGES; i++) {
      steward.post(
          "/api/front-pages",
          page(
              "Page " + i,
              i == PAGES
                  ? audience(true, "")
                  : audience(false, "title eq \"page %d\"".formatted(i))));
    }
    Arrays.sort(times);
    results.tell("an act over HTTP (making a tile)", set, "ms", null, times[TILES / 2] / 1e6);
  }

  /** Fifty tiles for everyone. */
  private static String large(Server.Signed steward) throws Exception {
    String id =
        result(
            steward.post(
                "/api/collections",
                Map.of(
                    "face",
                    Map.of("name", "Large " + UUID.randomUUID(), "line", ""),
                    "audience",
                    audience(true, ""))));
    List<String> tiles = new ArrayList<>();
    for (JsonNode tile : steward.get("/api/portal").path("tiles")) {
      if (tiles.size() < LARGE) {
        tiles.add(tile.path("id").asString());
      }
    }
    place(steward, id, tiles);
    return id;
  }

  /** A page that everyone meets: one edit of it, then the consequences; at last it is published. */
  private void newPage(Server.Signed steward) throws Exception {
    String draft = result(steward.post("/api/drafts", Map.of("name", "New page")));
    steward.gatherInto(draft);
    Map<String, Object> form = page("New for all", audience(true, ""));
    String id = result(steward.post("/api/front-pages", form));
    // Before all others, so that everyone meets it.
    JsonNode view = steward.get("/api/portal?draft=" + draft);
    for (JsonNode one : view.path("pages")) {
      if (one.path("id").asString().equals(id)) {
        steward.put(
            "/api/front-pages/" + id + "/place", Map.of("base", one.path("rank").asString()));
      }
    }
    String path = "/api/drafts/" + draft + "/consequences";
    JsonNode told = steward.get(path);
    System.out.printf("  a new page: %,d meet it%n", told.at("/moments/0/counts/met").asInt());
    List<Map<String, Object>> forms = new ArrayList<>(List.of(form));
    results.round(
        "new page",
        median(
            TRIES,
            i -> {
              Map<String, Object> next = page("New for all " + i, audience(true, ""));
              steward.put(
                  "/api/front-pages/" + id, Map.of("base", forms.getLast(), "wanted", next));
              forms.add(next);
              return steward.timed(path);
            }));
    String digest = steward.get(path).path("digest").asString();
    long begun = System.nanoTime();
    steward.post(
        "/api/drafts/" + draft + "/publish",
        Map.of("reason", "measured", "tell", false, "ahead", false, "digest", digest));
    results.round("new page published", System.nanoTime() - begun);
    steward.gatherInto(null);
    steward.delete("/api/front-pages/" + id);
  }
}
