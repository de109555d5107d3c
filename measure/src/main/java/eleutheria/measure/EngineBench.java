package eleutheria.measure;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.engine.Engine;
import eleutheria.core.access.engine.Flips;
import eleutheria.core.access.engine.Holders;
import eleutheria.core.access.engine.Losses;
import eleutheria.core.access.engine.Reasons;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Store;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.demo.Crowd;
import eleutheria.measure.Results.Goal;
import eleutheria.server.state.EngineFacts;
import java.lang.management.ManagementFactory;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** The engine against SQL, and against the cost of reading its rows at all. */
final class EngineBench {
  private final Connection connection;
  private final Crowd.Size size;
  private final Instant now;
  private final int rounds;
  private final Results results;
  private final Sql sql;
  private final SplittableRandom random = new SplittableRandom(11);
  private final String set;

  @SuppressWarnings("NullAway.Init") // load() makes them before anything is measured
  private Engine engine;

  @SuppressWarnings("NullAway.Init")
  private Sample sample;

  // The numbers of the SQL side.
  private final Map<UUID, Integer> groupNumbers = new HashMap<>();
  private final Map<UUID, Integer> roleNumbers = new HashMap<>();

  EngineBench(Connection connection, Crowd.Size size, Instant now, int rounds, Results results) {
    this.connection = connection;
    this.size = size;
    this.now = now;
    this.rounds = rounds;
    this.results = results;
    this.sql = new Sql(connection);
    this.set = size.name();
  }

  void run() throws Exception {
    say("loading");
    engine = Engine.of(load(), now);
    say("%s".formatted(engine.sizes()));
    agree();
    sample = new Sample(size, now);
    explain();
    for (int round = 0; round < rounds; round++) {
      say("round %d of %d".formatted(round + 1, rounds));
      queries();
      states();
    }
    changes();
    loads();
    memory();
    tell();
  }

  private static void say(String text) {
    System.out.println("  " + text);
  }

  private Store load() {
    DSLContext db = DSL.using(connection, SQLDialect.MARIADB);
    return EngineFacts.load(db);
  }

  // ---- first of all: both say the same

  private void agree() throws Exception {
    numbers("select id, g from now_group where id is not null", groupNumbers);
    numbers("select id, e from now_role", roleNumbers);
    Snapshot state = engine.now();
    int[] scratch = Holders.countsFromScratch(state);
    Map<Integer, Integer> bySql = new HashMap<>();
    try (ResultSet row = sql.query("all-counts")) {
      while (row.next()) {
        bySql.put(row.getInt(1), row.getInt(2));
      }
    }
    long holdings = 0;
    int closed = 0;
    for (int e = 0; e < state.entitlements(); e++) {
      EntitlementId id = state.entitlement(e);
      // SQL counts whether or not the application is open.
      int wanted = bySql.getOrDefault(requireNonNull(roleNumbers.get(id.value())), 0);
      RoaringBitmap active = new RoaringBitmap();
      var all = state.entitled(e).getIntIterator();
      while (all.hasNext()) {
        int person = all.next();
        if (state.active(person)) {
          active.add(person);
        }
      }
      same("holders of " + id, wanted, active.getCardinality());
      if (state.open(e)) {
        same("kept count of " + id, wanted, state.holderCount(e));
        same("count from scratch of " + id, wanted, scratch[e]);
      } else {
        closed++;
      }
      holdings += state.entitledCount(e);
    }
    for (int i = 0; i < 300; i++) {
      int person = random.nextInt(size.people());
      same(
          "entitlements of person " + person,
          sql.rows("entitlements-of-person", person, person),
          state.entitlementsOf(person).length);
      same(
          "the same by closure",
          sql.rows("entitlements-of-person-closure", person, person),
          state.entitlementsOf(person).length);
    }
    for (int e : mostHeld(3)) {
      int role = requireNonNull(roleNumbers.get(state.entitlement(e).value()));
      List<PersonId> first = Holders.first(state, e, Holders.Wanted.ALL, 0, 50);
      for (String name : List.of("first-holders", "first-holders-union")) {
        List<PersonId> bySide = new ArrayList<>();
        try (ResultSet row = sql.query(name, role, role)) {
          while (row.next()) {
            ByteBuffer bytes = ByteBuffer.wrap(row.getBytes(1));
            bySide.add(new PersonId(new UUID(bytes.getLong(), bytes.getLong())));
          }
        }
        if (!bySide.equals(first)) {
          throw new IllegalStateException(name + " differs: " + bySide + " and " + first);
        }
      }
    }
    say(
        "engine and SQL agree: %,d people, %,d groups, %,d entitlements (%d closed), %,d holdings"
            .formatted(size.people(), size.groups(), state.entitlements(), closed, holdings));
    results.tell("holdings", set, "number", null, holdings);
  }

  private static void same(String what, int wanted, int got) {
    if (wanted != got) {
      throw new IllegalStateException(
          "%s: SQL says %d, the engine %d".formatted(what, wanted, got));
    }
  }

  private void numbers(String query, Map<UUID, Integer> into) throws Exception {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(query)) {
      while (row.next()) {
        ByteBuffer bytes = ByteBuffer.wrap(row.getBytes(1));
        into.put(new UUID(bytes.getLong(), bytes.getLong()), row.getInt(2));
      }
    }
  }

  private int[] mostHeld(int count) {
    Snapshot state = engine.now();
    List<Integer> all = new ArrayList<>();
    for (int e = 0; e < state.entitlements(); e++) {
      all.add(e);
    }
    all.sort((a, b) -> Integer.compare(state.holderCount(b), state.holderCount(a)));
    return all.subList(0, count).stream().mapToInt(Integer::intValue).toArray();
  }

  private @Nullable GrantId largest;
  private int largestGroup;
  private int largestRole;

  /** The grant to the largest group by which somebody alone holds something. */
  private void findLargeGrant() throws Exception {
    Snapshot state = engine.now();
    int most = -1;
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                """
                select g.grant_id, g.group_id, g.entitlement_id from given g
                where g.group_id is not null
                """)) {
      while (row.next()) {
        ByteBuffer group = ByteBuffer.wrap(row.getBytes(2));
        UUID groupId = new UUID(group.getLong(), group.getLong());
        int members = state.members(state.number(new GroupId(groupId))).getCardinality();
        ByteBuffer grant = ByteBuffer.wrap(row.getBytes(1));
        GrantId id = new GrantId(new UUID(grant.getLong(), grant.getLong()));
        if (members > most
            && members < size.people() * 3 / 5
            && !Losses.ofGrant(state, id).isEmpty()) {
          most = members;
          largest = id;
          largestGroup = requireNonNull(groupNumbers.get(groupId));
          ByteBuffer role = ByteBuffer.wrap(row.getBytes(3));
          largestRole = requireNonNull(roleNumbers.get(new UUID(role.getLong(), role.getLong())));
        }
      }
    }
    int bySql = sql.rows("losers-of-grant", largestGroup, largestRole, largestGroup, largestRole);
    same(
        "losers of the large grant",
        bySql,
        Losses.ofGrant(state, requireNonNull(largest)).getCardinality());
    say("the large grant is to a group of %,d; %,d would lose".formatted(most, bySql));
  }

  private void explain() throws Exception {
    findLargeGrant();
    Path folder = Files.createDirectories(Path.of("measure/explain/" + set));
    int e = mostHeld(1)[0];
    int role = requireNonNull(roleNumbers.get(engine.now().entitlement(e).value()));
    int person = size.people() / 2;
    sql.explain("entitlements-of-person", folder, person, person);
    sql.explain("entitlements-of-person-closure", folder, person, person);
    sql.explain("count-of-holders", folder, role, role);
    sql.explain("first-holders", folder, role, role);
    sql.explain("first-holders-union", folder, role, role);
    sql.explain("grounds", folder, person, role, person, person, role);
    sql.explain("all-counts", folder);
    sql.explain("losers-of-grant", folder, largestGroup, role, largestGroup, role);
    sql.explain("primary-key", folder, person);
  }

  // ---- queries

  private static final int MANY = 20_000;

  private void queries() throws Exception {
    Snapshot state = engine.now();
    int people = size.people();
    int[] asked = random.ints(MANY, 0, people).toArray();
    int most = mostHeld(1)[0];
    int role = requireNonNull(roleNumbers.get(state.entitlement(most).value()));
    results.round("pk", Timing.median(2_000, i -> sql.rows("primary-key", asked[i])));

    results.round(
        "entitlements sql",
        Timing.median(200, i -> sql.rows("entitlements-of-person", asked[i], asked[i])));
    results.round(
        "entitlements closure",
        Timing.median(200, i -> sql.rows("entitlements-of-person-closure", asked[i], asked[i])));
    results.round("entitlements", Timing.mean(MANY, i -> state.entitlementsOf(asked[i]).length));
    results.round("holdings", Timing.mean(MANY, i -> state.holdingsOf(asked[i]).length));

    results.round("count sql", Timing.median(5, i -> sql.number("count-of-holders", role, role)));
    results.round("count", Timing.mean(2_000_000, i -> state.holderCount(most)));
    double exists = Timing.median(5, i -> sql.rows("first-holders", role, role));
    double union = Timing.median(5, i -> sql.rows("first-holders-union", role, role));
    results.round("first sql", union);
    results.round("first sql exists", exists);
    results.round(
        "first",
        Timing.mean(MANY, i -> Holders.first(state, most, Holders.Wanted.ALL, 0, 50).size()));

    RoaringBitmap unused = new RoaringBitmap();
    for (int i = 0; i < people; i += 3) {
      unused.add(i);
    }
    String unit = unitOf(people / 2);
    Holders.Wanted wanted =
        Holders.Wanted.having("unit", unit).unused(unused).on(Holders.By.PERSON, GrantSource.HAND);
    results.round(
        "narrowed", Timing.mean(2_000, i -> Holders.first(state, most, wanted, 0, 50).size()));

    int[][] held = new int[MANY][];
    for (int i = 0; i < MANY; i++) {
      int[] own = state.entitlementsOf(asked[i]);
      held[i] =
          own.length == 0 ? held[Math.max(0, i - 1)] : new int[] {asked[i], own[i % own.length]};
    }
    results.round(
        "grounds", Timing.mean(MANY, i -> Reasons.of(state, held[i][0], held[i][1]).size()));
    results.round(
        "grounds sql",
        Timing.median(
            200,
            i -> {
              int e = requireNonNull(roleNumbers.get(state.entitlement(held[i][1]).value()));
              int p = held[i][0];
              return sql.rows("grounds", p, e, p, p, e);
            }));

    results.round("counts sql", Timing.median(1, i -> sql.rows("all-counts")));
    results.round("counts", Timing.median(9, i -> Holders.countsFromScratch(state)[most]));
    results.round(
        "losers sql",
        Timing.median(
            3,
            i ->
                sql.rows("losers-of-grant", largestGroup, largestRole, largestGroup, largestRole)));
    results.round(
        "losers",
        Timing.mean(2_000, i -> Losses.ofGrant(state, requireNonNull(largest)).getCardinality()));

    filters(asked);
    threads(state, asked);
  }

  private String unitOf(int person) throws Exception {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("select unit from now_person where p = " + person)) {
      row.next();
      return row.getString(1);
    }
  }

  private void filters(int[] asked) throws Exception {
    String text =
        "title co \"ma\" and site sw \"West\" and employment eq \"permanent\""
            + " or costCentre eq \"C17\" and unit sw \"Deck\"";
    Engine.Trial trial = engine.trial(text);
    results.round("filter", Timing.median(15, i -> trial.everyone().getCardinality()));
    results.round("filter one", Timing.mean(200_000, i -> trial.fits(asked[i % MANY]) ? 1 : 0));
  }

  private void threads(Snapshot state, int[] asked) throws Exception {
    results.round("threads", together(state, asked, 2) / together(state, asked, 1));
  }

  /** Queries a second. */
  private static double together(Snapshot state, int[] asked, int threads) throws Exception {
    CountDownLatch ready = new CountDownLatch(threads);
    CountDownLatch go = new CountDownLatch(1);
    int each = 60_000;
    List<Thread> all = new ArrayList<>();
    long[] sums = new long[threads];
    for (int t = 0; t < threads; t++) {
      int number = t;
      Thread thread =
          new Thread(
              () -> {
                ready.countDown();
                try {
                  go.await();
                } catch (InterruptedException e) {
                  Thread.currentThread().interrupt();
                }
                long sum = 0;
                for (int i = 0; i < each; i++) {
                  sum += state.entitlementsOf(asked[(i + number * 777) % MANY]).length;
                }
                sums[number] = sum;
              });
      thread.start();
      all.add(thread);
    }
    ready.await();
    long begun = System.nanoTime();
    go.countDown();
    for (Thread thread : all) {
      thread.join();
    }
    return threads * (double) each / (System.nanoTime() - begun);
  }

  // ---- states: the past and the way there

  private void states() throws Exception {
    results.round("stream", stream());
    Instant then = now.minus(Duration.ofHours(24 + random.nextInt(600 * 24)));
    long begun = System.nanoTime();
    Snapshot past = engine.asOf(then);
    results.round("as of", System.nanoTime() - begun);
    int[] asked = random.ints(MANY, 0, size.people()).toArray();
    results.round(
        "past entitlements", Timing.mean(MANY, i -> past.entitlementsOf(asked[i]).length));
    Flips flips = Flips.between(past, engine.now());
    results.round("diff", Timing.median(3, i -> Flips.between(past, engine.now()).all().size()));
    say(
        "as of %s: %,d gained and %,d lost since"
            .formatted(
                then.truncatedTo(java.time.temporal.ChronoUnit.HOURS),
                flips.gained(),
                flips.lost()));
    begun = System.nanoTime();
    Snapshot built = engine.build(now);
    results.round("build", System.nanoTime() - begun);
    if (!Flips.between(built, engine.now()).isEmpty()) {
      throw new IllegalStateException("what is built differs from what is kept");
    }
  }

  /** Reads all rows that the engine is made of, and does nothing with them. */
  private double stream() throws Exception {
    long begun = System.nanoTime();
    for (String table :
        List.of(
            "naming",
            "existence",
            "status",
            "attribute",
            "group_form",
            "membership",
            "entitlement",
            "application_state",
            "given")) {
      try (Statement statement = connection.createStatement()) {
        statement.setFetchSize(10_000);
        try (ResultSet row = statement.executeQuery(Sql.text("stream/" + table))) {
          int columns = row.getMetaData().getColumnCount();
          boolean[] binary = new boolean[columns + 1];
          for (int i = 1; i <= columns; i++) {
            binary[i] = row.getMetaData().getColumnTypeName(i).contains("BINARY");
          }
          while (row.next()) {
            for (int i = 1; i <= columns; i++) {
              if (binary[i]) {
                row.getBytes(i);
              } else {
                row.getString(i);
              }
            }
          }
        }
      }
    }
    return System.nanoTime() - begun;
  }

  private void loads() throws Exception {
    for (int round = 0; round < rounds; round++) {
      results.round("stream again", stream());
      long begun = System.nanoTime();
      Engine fresh = Engine.of(load(), now);
      results.round("load and build", System.nanoTime() - begun);
      if (fresh.now().entitlements() != size.entitlements()) {
        throw new IllegalStateException("loaded something else");
      }
    }
  }

  // ---- changes

  private void changes() throws Exception {
    com.sun.management.ThreadMXBean threads =
        (com.sun.management.ThreadMXBean) ManagementFactory.getThreadMXBean();
    Instant at = now;
    // The first change builds the indexes of rows, which belongs to loading; and a server has been
    // running for a while.
    for (int i = 0; i < 4_000; i++) {
      at = at.plusNanos(1_000);
      engine.take(sample.edits(1, at), at);
    }
    heap();
    for (int round = 0; round < rounds; round++) {
      int count = 1_500;
      double[] times = new double[count];
      long allocated = threads.getCurrentThreadAllocatedBytes();
      for (int i = 0; i < count; i++) {
        at = at.plusNanos(1_000);
        List<Move> moves = sample.edits(1, at);
        long begun = System.nanoTime();
        engine.take(moves, at);
        times[i] = System.nanoTime() - begun;
      }
      results.round("change mean", Timing.average(times));
      results.round("change p99", Timing.percentile(times, 0.99));
      results.round(
          "change allocates",
          (threads.getCurrentThreadAllocatedBytes() - allocated) / (double) count);
      results.round("pk beside changes", Timing.median(1_000, i -> sql.rows("primary-key", i)));
      at = at.plusNanos(1_000);
      List<Move> moves = sample.edits(1_000, at);
      long begun = System.nanoTime();
      Flips flips = engine.take(moves, at);
      results.round("apply 1000", System.nanoTime() - begun);
      say("1,000 edits flip %,d and %,d holdings".formatted(flips.gained(), flips.lost()));
    }
    versions(at);
    Snapshot built = engine.build(engine.now().at());
    if (!Flips.between(built, engine.now()).isEmpty()) {
      throw new IllegalStateException("after the changes, what is built differs from what is kept");
    }
  }

  /** What a version that somebody still reads keeps from being thrown away. */
  private void versions(Instant from) {
    int count = 400;
    Instant at = from;
    List<Snapshot> kept = new ArrayList<>();
    long before = heap();
    for (int i = 0; i < count; i++) {
      at = at.plusNanos(1_000);
      engine.take(sample.edits(1, at), at);
      kept.add(engine.now());
    }
    long after = heap();
    results.round("version", (after - before) / (double) kept.size());
  }

  private static long heap() {
    long used = Long.MAX_VALUE;
    for (int i = 0; i < 4; i++) {
      System.gc();
      Runtime runtime = Runtime.getRuntime();
      used = Math.min(used, runtime.totalMemory() - runtime.freeMemory());
    }
    return used;
  }

  private void memory() {
    long before = heap();
    Snapshot built = engine.build(now);
    long after = heap();
    long holdings = 0;
    for (int e = 0; e < built.entitlements(); e++) {
      holdings += built.entitledCount(e);
    }
    results.tell(
        "memory of a state, names apart",
        set,
        "bytes a holding",
        Goal.atMost(9),
        (after - before) / (double) holdings);
    before = heap();
    Store store = load();
    after = heap();
    results.tell(
        "memory of all facts in columns, two years of them",
        set,
        "bytes a fact",
        null,
        (after - before) / (double) store.all());
    results.tell("facts", set, "number", null, store.all());
  }

  // ---- what came of it

  private void tell() {
    told("primary-key read over JDBC (PK)", "pk", "µs", 1_000);
    told("one person's entitlements", "entitlements", "µs", 1_000);
    told("one person's entitlements, recursive SQL", "entitlements sql", "µs", 1_000);
    told("one person's entitlements, SQL with closure", "entitlements closure", "µs", 1_000);
    told("count of holders, SQL", "count sql", "ms", 1e6);
    told("first 50 by name, SQL by union", "first sql", "ms", 1e6);
    told("first 50 by name, SQL by exists", "first sql exists", "ms", 1e6);
    told("all rows read and thrown away (stream)", "stream", "ms", 1e6);
    results.ratio(
        "entitlements of a person: recursive SQL",
        set,
        "times",
        Goal.atLeast(200),
        "entitlements sql",
        "entitlements");
    results.ratio("entitlements of a person", set, "PK", Goal.atMost(0.08), "entitlements", "pk");
    results.ratio(
        "count of holders: best SQL", set, "times", Goal.atLeast(200_000), "count sql", "count");
    double[] union = results.rounds("first sql");
    double[] exists = results.rounds("first sql exists");
    for (int i = 0; i < union.length; i++) {
      results.round("first best", Math.min(union[i], exists[i]));
    }
    results.ratio(
        "first 50 by name: best SQL", set, "times", Goal.atLeast(20_000), "first best", "first");
    results.ratio("first 50 by name", set, "PK", Goal.atMost(0.03), "first", "pk");
    results.ratio(
        "first 50 of a unit, unused, by an administrator",
        set,
        "PK",
        Goal.atMost(1),
        "narrowed",
        "pk");
    results.ratio(
        "grounds with sub-graphs: SQL", set, "times", Goal.atLeast(150), "grounds sql", "grounds");
    results.ratio("grounds with sub-graphs", set, "PK", Goal.atMost(0.1), "grounds", "pk");
    results.ratio(
        "counts of everything from scratch: SQL",
        set,
        "times",
        Goal.atLeast(75),
        "counts sql",
        "counts");
    results.ratio(
        "losers of a large group's grant: SQL",
        set,
        "times",
        Goal.atLeast(1_000),
        "losers sql",
        "losers");
    results.ratio("losers of a large group's grant", set, "PK", Goal.atMost(0.6), "losers", "pk");
    results.ratio("diff of two states", set, "stream", Goal.atMost(0.04), "diff", "stream");
    results.ratio(
        "apply 1,000 mixed edits, all flips",
        set,
        "stream",
        Goal.atMost(0.12),
        "apply 1000",
        "stream");
    results.ratio(
        "one change, published: mean",
        set,
        "PK",
        Goal.atMost(0.6),
        "change mean",
        "pk beside changes");
    results.ratio(
        "one change, published: 99th percentile",
        set,
        "PK",
        Goal.atMost(4),
        "change p99",
        "pk beside changes");
    told("a version that is kept", "version", "KB", 1_024, Goal.atMost(56));
    told("one change allocates", "change allocates", "KB", 1_024);
    results.ratio(
        "load and build", set, "stream", Goal.atMost(1.6), "load and build", "stream again");
    results.ratio("build alone", set, "stream", Goal.atMost(0.3), "build", "stream");
    results.ratio(
        "as of a past moment, first query",
        set,
        "load and build",
        Goal.atMost(3),
        "as of",
        "load and build");
    results.ratio(
        "as of a past moment, then",
        set,
        "times now",
        Goal.atMost(1.5),
        "past entitlements",
        "entitlements");
    results.ratio("filter over 5 attributes, everyone", set, "PK", Goal.atMost(40), "filter", "pk");
    results.ratio(
        "filter over 5 attributes, one person", set, "PK", Goal.atMost(0.1), "filter one", "pk");
    results.tell(
        "two reading threads against one",
        set,
        "times",
        Goal.atLeast(1.5),
        results.rounds("threads"));
  }

  private void told(String name, String measured, String unit, double divide) {
    told(name, measured, unit, divide, null);
  }

  private void told(String name, String measured, String unit, double divide, @Nullable Goal goal) {
    double[] rounds = results.rounds(measured);
    for (int i = 0; i < rounds.length; i++) {
      rounds[i] /= divide;
    }
    results.tell(name, set, unit, goal, rounds);
  }
}
