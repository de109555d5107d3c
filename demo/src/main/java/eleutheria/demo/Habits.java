package eleutheria.demo;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;
import static java.util.Objects.requireNonNull;

import eleutheria.core.ledger.LedgerChain;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Month;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.UUID;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/**
 * Two years of use: half a year of sign-ins that go with the openings, a few of which fail at
 * first, and before that only counts by day, with their summers.
 */
final class Habits {
  private static final int DAYS = 728;
  private static final int PIECE = 5_000;

  private final DSLContext db;
  private final ZoneId zone;
  private final LocalDate today;
  private final SplittableRandom random = new SplittableRandom(20_241_126);

  Habits(DSLContext db, ZoneId zone, LocalDate today) {
    this.db = db;
    this.zone = zone;
    this.today = today;
  }

  void write() {
    signIns();
    LocalDate first = countedDays();
    before(first);
  }

  /** Whoever opens something has signed in that day; some of them at the second try. */
  private void signIns() {
    List<Object[]> rows = new ArrayList<>();
    var day = DSL.cast(OPENING.HAPPENED_AT, LocalDate.class);
    db.select(OPENING.PERSON_ID, DSL.min(OPENING.HAPPENED_AT))
        .from(OPENING)
        .groupBy(OPENING.PERSON_ID, day)
        .orderBy(OPENING.PERSON_ID, day)
        .forEach(
            r -> {
              UUID person = r.value1();
              String account = LedgerChain.hash("person:" + person);
              String address = "10.7." + random.nextInt(4) + "." + (20 + random.nextInt(60));
              Instant at = r.value2().minusSeconds(20 + random.nextInt(300));
              if (random.nextInt(28) == 0) {
                rows.add(new Object[] {at.minusSeconds(25), account, person, address, false});
              }
              rows.add(new Object[] {at, account, person, address, true});
            });
    for (int from = 0; from < rows.size(); from += PIECE) {
      BatchBindStep batch =
          db.batch(
              db.insertInto(
                      SIGNIN_EVENT,
                      SIGNIN_EVENT.HAPPENED_AT,
                      SIGNIN_EVENT.ACCOUNT,
                      SIGNIN_EVENT.PERSON_ID,
                      SIGNIN_EVENT.ADDRESS,
                      SIGNIN_EVENT.SUCCESS)
                  .values((Instant) null, null, null, null, null));
      rows.subList(from, Math.min(from + PIECE, rows.size())).forEach(batch::bind);
      batch.execute();
    }
  }

  private record Key(UUID tile, LocalDate day) {}

  /** Counts the days of which there are events, as the server does; gives the first of them. */
  private LocalDate countedDays() {
    Map<Key, int[]> openings = new HashMap<>();
    Map<Key, java.util.Set<UUID>> people = new HashMap<>();
    LocalDate[] first = {today};
    db.select(OPENING.TILE_ID, OPENING.HAPPENED_AT, OPENING.PERSON_ID)
        .from(OPENING)
        .forEach(
            r -> {
              LocalDate day = r.value2().atZone(zone).toLocalDate();
              first[0] = day.isBefore(first[0]) ? day : first[0];
              if (day.isBefore(today)) {
                Key key = new Key(r.value1(), day);
                openings.computeIfAbsent(key, k -> new int[1])[0]++;
                people.computeIfAbsent(key, k -> new java.util.HashSet<>()).add(r.value3());
              }
            });
    openings.forEach(
        (key, count) ->
            tiles.add(
                new Object[] {
                  key.tile(), key.day(), count[0], requireNonNull(people.get(key)).size()
                }));
    Map<LocalDate, int[]> signed = new HashMap<>();
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS)
        .from(SIGNIN_EVENT)
        .forEach(
            r -> {
              LocalDate day = r.value1().atZone(zone).toLocalDate();
              if (day.isBefore(today)) {
                signed.computeIfAbsent(day, d -> new int[2])[r.value2() ? 0 : 1]++;
              }
            });
    signed.forEach((day, n) -> days.add(new Object[] {day, n[0], n[1], n[0]}));
    return first[0];
  }

  private final List<Object[]> tiles = new ArrayList<>();
  private final List<Object[]> days = new ArrayList<>();

  /** Before there were events that are kept: counts, with summers, and fewer the longer ago. */
  private void before(LocalDate first) {
    Map<UUID, Integer> usual = new HashMap<>();
    tiles.forEach(row -> usual.merge((UUID) row[0], (Integer) row[2], Integer::sum));
    int watched = (int) java.time.temporal.ChronoUnit.DAYS.between(first, today);
    int signed = days.stream().mapToInt(row -> (Integer) row[1]).sum() / Math.max(1, watched);
    List<UUID> sorted = usual.keySet().stream().sorted().toList();
    for (LocalDate day = today.minusDays(DAYS); day.isBefore(first); day = day.plusDays(1)) {
      double share =
          season(day)
              / season(first)
              * (0.7 + 0.3 * (double) day.toEpochDay() / first.toEpochDay());
      for (UUID tile : sorted) {
        double mean = (double) requireNonNull(usual.get(tile)) / Math.max(1, watched) * share;
        int n = (int) Math.round(mean * (0.8 + 0.4 * random.nextDouble()));
        if (n > 0) {
          tiles.add(new Object[] {tile, day, n, Math.max(1, n * 4 / 5)});
        }
      }
      int n = (int) Math.round(signed * share * (0.9 + 0.2 * random.nextDouble()));
      days.add(new Object[] {day, n, n / 26, n});
    }
    insert();
  }

  private static double season(LocalDate day) {
    Month month = day.getMonth();
    return switch (month) {
      case JULY -> 1.7;
      case JUNE, AUGUST -> 1.45;
      case MAY, SEPTEMBER -> 1.15;
      default -> 1;
    };
  }

  private void insert() {
    for (int from = 0; from < tiles.size(); from += PIECE) {
      BatchBindStep batch =
          db.batch(
              db.insertInto(
                      OPENING_DAY,
                      OPENING_DAY.TILE_ID,
                      OPENING_DAY.ON_DAY,
                      OPENING_DAY.OPENINGS,
                      OPENING_DAY.PEOPLE)
                  .values((UUID) null, null, null, null));
      tiles.subList(from, Math.min(from + PIECE, tiles.size())).forEach(batch::bind);
      batch.execute();
    }
    BatchBindStep batch =
        db.batch(
            db.insertInto(
                    SIGN_IN_DAY,
                    SIGN_IN_DAY.ON_DAY,
                    SIGN_IN_DAY.SIGN_INS,
                    SIGN_IN_DAY.FAILURES,
                    SIGN_IN_DAY.PEOPLE)
                .values((LocalDate) null, null, null, null));
    days.forEach(batch::bind);
    batch.execute();
  }
}
