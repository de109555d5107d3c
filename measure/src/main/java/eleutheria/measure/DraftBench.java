package eleutheria.measure;

import eleutheria.measure.Results.Goal;
import java.nio.ByteBuffer;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/**
 * Drafts over HTTP, one client: what the tray takes after an edit, what the consequences of a large
 * move and of many mixed edits take, and how long publishing fifty thousand memberships holds the
 * ledger, against a bare update of as many rows.
 */
final class DraftBench {
  private static final int PAGE = 1_000;
  private static final int MIXED = 5_000;
  private static final int TRIES = 15;

  private final Connection connection;
  private final String set;
  private final int rounds;
  private final Results results;
  private final Sql sql;
  private final Keyboards keyboards;
  private final Server server;

  DraftBench(Connection connection, String database, String set, int rounds, Results results) {
    this.connection = connection;
    this.set = set;
    this.rounds = rounds;
    this.results = results;
    this.sql = new Sql(connection);
    this.keyboards = new Keyboards(connection, sql);
    this.server = new Server(database);
  }

  void run() throws Exception {
    keyboards.people(1);
    List<UUID> people =
        ids(
            """
            select p.id from now_person p join status s on s.person_id = p.id
            where s.valid_from <= utc_timestamp(6) and s.valid_until > utc_timestamp(6)
              and s.status <> 'departed' order by p.p limit 60000
            """);
    UUID large =
        ids("""
                select g.id from now_group g join (
                  select a.above, count(distinct m.p) people
                  from now_above a join now_member m on m.g = a.g
                  group by a.above order by abs(count(distinct m.p) - 50000) limit 1) most on most.above = g.g
                """)
            .getFirst();
    server.start();
    try {
      Server.Signed steward = server.signedIn("bench.steward", Keyboards.PASSWORD);
      for (int round = 0; round < rounds; round++) {
        System.out.printf("  drafts round %d of %d%n", round + 1, rounds);
        List<UUID> roles = roles(steward, people.getFirst());
        results.round("H beside drafts", nothing(steward));
        tray(steward, people, roles);
        move(steward, large, people, roles);
        mixed(steward, people, roles);
        publish(steward, people);
      }
    } finally {
      server.stop();
    }
    tell();
  }

  private void tell() {
    ratio("tray after an edit, small draft", "tray", 3);
    ratio("consequences of a large group's move, after an edit", "move", 20);
    ratio("consequences of a large group's move, asked again", "move again", 20);
    ratio("consequences of 5,000 mixed edits, after an edit", "mixed", 60);
    results.ratio(
        "publishing memberships of 50,000 people (of as many as there are), the whole answer",
        set,
        "a bare UPDATE … JOIN of as many rows",
        Goal.atMost(4),
        "publish",
        "bare update");
    results.tell(
        "  of it, the answer",
        set,
        "s",
        null,
        Arrays.stream(results.rounds("publish")).map(t -> t / 1e9).toArray());
  }

  private void ratio(String name, String part, int most) {
    results.ratio(name, set, "H", Goal.atMost(most), part, "H beside drafts");
  }

  private double nothing(Server.Signed steward) throws Exception {
    return median(400, i -> steward.timed("/api/session/alive"));
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

  private static String result(JsonNode receipt) {
    return receipt.path("result").asString();
  }

  private static String draft(Server.Signed steward, String name) throws Exception {
    String id = result(steward.post("/api/drafts", Map.of("name", name)));
    steward.gatherInto(id);
    return id;
  }

  private static void drop(Server.Signed steward, String draft) throws Exception {
    steward.gatherInto(null);
    steward.delete("/api/drafts/" + draft);
  }

  /** The ten roles of an application of this round's own, that nobody holds. */
  private static List<UUID> roles(Server.Signed steward, UUID owner) throws Exception {
    List<Map<String, Object>> roles = new ArrayList<>();
    for (int i = 0; i < 10; i++) {
      roles.add(
          Map.of("name", "Role " + i, "line", "", "sensitivity", "LOW", "requestable", false));
    }
    String app =
        result(
            steward.post(
                "/api/apps",
                Map.of(
                    "profile",
                    Map.of(
                        "name",
                        "Measured " + UUID.randomUUID().toString().substring(0, 8),
                        "line",
                        "",
                        "picture",
                        "key",
                        "hue",
                        "tide",
                        "sensitivity",
                        "LOW",
                        "contact",
                        ""),
                    "address",
                    "https://measured.example/",
                    "owners",
                    List.of(owner),
                    "entitlements",
                    roles)));
    steward.put("/api/apps/" + app + "/state", Map.of("base", "PROPOSED", "state", "OPEN"));
    List<UUID> found = new ArrayList<>();
    steward
        .get("/api/apps/" + app)
        .path("entitlements")
        .forEach(role -> found.add(UUID.fromString(role.path("id").asString())));
    return found;
  }

  private static String group(Server.Signed steward) throws Exception {
    return result(
        steward.post("/api/groups", Map.of("name", "Measured " + UUID.randomUUID(), "reason", "")));
  }

  private static void join(Server.Signed steward, String group, List<UUID> people)
      throws Exception {
    for (int from = 0; from < people.size(); from += PAGE) {
      steward.post(
          "/api/groups/" + group + "/members",
          Map.of(
              "people",
              people.subList(from, Math.min(from + PAGE, people.size())),
              "groups",
              List.of(),
              "reason",
              ""));
    }
  }

  private static void give(Server.Signed steward, UUID role, String kind, List<String> to)
      throws Exception {
    steward.post(
        "/api/entitlements/" + role + "/grants",
        Map.of(
            "subjects",
            to.stream().map(id -> Map.of("kind", kind, "id", id)).toList(),
            "reason",
            "measured"));
  }

  /** One edit, then the tray; the edit itself is not counted. */
  private void tray(Server.Signed steward, List<UUID> people, List<UUID> roles) throws Exception {
    String group = group(steward);
    give(steward, roles.getFirst(), "group", List.of(group));
    String draft = draft(steward, "Tray");
    double time =
        median(
            TRIES,
            i -> {
              join(steward, group, people.subList(i, i + 1));
              return steward.timed("/api/drafts");
            });
    results.round("tray", time);
    drop(steward, draft);
  }

  /**
   * A group of some fifty thousand, or the nearest to that, is put into one that leads to three
   * entitlements.
   */
  private void move(Server.Signed steward, UUID large, List<UUID> people, List<UUID> roles)
      throws Exception {
    String group = group(steward);
    for (UUID role : roles.subList(0, 3)) {
      give(steward, role, "group", List.of(group));
    }
    String draft = draft(steward, "Move");
    String path = "/api/drafts/" + draft + "/consequences";
    steward.post(
        "/api/groups/" + group + "/members",
        Map.of("people", List.of(), "groups", List.of(large), "reason", ""));
    JsonNode told = steward.get(path);
    System.out.printf("  the move: %,d gain%n", told.at("/moments/0/counts/gain").asInt());
    results.round(
        "move",
        median(
            TRIES,
            i -> {
              join(steward, group, people.subList(i, i + 1));
              return steward.timed(path);
            }));
    results.round("move again", median(TRIES, i -> steward.timed(path)));
    drop(steward, draft);
  }

  /** Memberships, grants to people, ends of grants and a filter, five thousand in all. */
  private void mixed(Server.Signed steward, List<UUID> people, List<UUID> roles) throws Exception {
    List<String> groups = new ArrayList<>();
    for (int i = 0; i < 10; i++) {
      groups.add(group(steward));
      give(steward, roles.get(i), "group", List.of(groups.get(i)));
    }
    String draft = draft(steward, "Mixed");
    int each = MIXED / 50;
    for (int i = 0; i < 50; i++) {
      List<UUID> some = people.subList(i * each, (i + 1) * each);
      if (i % 2 == 0) {
        join(steward, groups.get(i / 2 % 10), some);
      } else {
        give(
            steward,
            roles.get(i % roles.size()),
            "person",
            some.stream().map(UUID::toString).toList());
      }
    }
    String path = "/api/drafts/" + draft + "/consequences";
    steward.get(path);
    results.round(
        "mixed",
        median(
            5,
            i -> {
              join(steward, groups.getFirst(), people.subList(MIXED + i, MIXED + i + 1));
              return steward.timed(path);
            }));
    drop(steward, draft);
  }

  /** As many memberships as there are people, up to fifty thousand, published in one draft. */
  private void publish(Server.Signed steward, List<UUID> people) throws Exception {
    int many = Math.min(50_000, people.size());
    String group = group(steward);
    String draft = draft(steward, "Many members");
    join(steward, group, people.subList(0, many));
    String digest = steward.get("/api/drafts/" + draft + "/consequences").path("digest").asString();
    long begun = System.nanoTime();
    steward.post(
        "/api/drafts/" + draft + "/publish",
        Map.of("reason", "measured", "tell", false, "ahead", false, "digest", digest));
    results.round("publish", System.nanoTime() - begun);
    steward.gatherInto(null);
    int rows = steward.get("/api/groups/" + group).path("people").asInt();
    if (rows < many * 9 / 10) {
      throw new IllegalStateException(rows + " people are in the group, of " + many);
    }
    results.round("bare update", bare(group));
  }

  /** Ends the very same memberships by one statement, and takes it back. */
  private double bare(String group) throws SQLException {
    String hex = group.replace("-", "");
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute(
          "create temporary table moved engine = innodb as select member_id from membership"
              + " where group_id = x'%s'".formatted(hex));
      long begun = System.nanoTime();
      int rows =
          statement.executeUpdate(
              """
              update membership m join moved on moved.member_id = m.member_id
              set m.valid_until = '%s' where m.group_id = x'%s'
              """
                  .formatted(LocalDate.now().plusYears(1), hex));
      double took = System.nanoTime() - begun;
      System.out.printf("  the bare update: %,d rows%n", rows);
      statement.execute("drop temporary table moved");
      return took;
    } finally {
      connection.rollback();
      connection.setAutoCommit(true);
    }
  }

  private List<UUID> ids(String query) throws SQLException {
    List<UUID> found = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(query)) {
      while (row.next()) {
        ByteBuffer bytes = ByteBuffer.wrap(row.getBytes(1));
        found.add(new UUID(bytes.getLong(), bytes.getLong()));
      }
    }
    return found;
  }
}
