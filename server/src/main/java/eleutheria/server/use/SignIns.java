package eleutheria.server.use;

import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Sign-ins by week, of everybody and of one person. */
@Repository
class SignIns {
  private static final int MOST_FAILURES = 20;

  private final DSLContext db;
  private final UseFigures figures;

  SignIns(DSLContext db, UseFigures figures) {
    this.db = db;
    this.figures = figures;
  }

  /** By week, the last being this week. */
  record Weeks(int[] succeeded, int[] failed) {
    Weeks(int count) {
      this(new int[count], new int[count]);
    }

    private int[] where(boolean success) {
      return success ? succeeded : failed;
    }
  }

  record Failed(Instant at, String address) {}

  /**
   * @param last that succeeded in these weeks
   * @param failures the newest first
   */
  record OfPerson(Weeks weeks, @Nullable Instant last, List<Failed> failures) {}

  /** Days that are counted, and the events of those that are not. */
  Weeks all(int count) {
    LocalDate first = figures.weeks(count).getFirst();
    LocalDate uncounted = figures.uncounted(first);
    Weeks weeks = new Weeks(count);
    db.selectFrom(SIGN_IN_DAY)
        .where(SIGN_IN_DAY.ON_DAY.ge(first), SIGN_IN_DAY.ON_DAY.lt(uncounted))
        .forEach(
            r -> {
              int week = (int) (ChronoUnit.DAYS.between(first, r.getOnDay()) / 7);
              weeks.succeeded()[week] += r.getSignIns();
              weeks.failed()[week] += r.getFailures();
            });
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS)
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.HAPPENED_AT.ge(figures.start(uncounted)))
        .forEach(r -> weeks.where(r.value2())[figures.week(first, r.value1(), count)]++);
    return weeks;
  }

  OfPerson of(PersonId person, int count) {
    LocalDate first = figures.weeks(count).getFirst();
    Weeks weeks = new Weeks(count);
    Instant[] last = {null};
    List<Failed> failures = new ArrayList<>();
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS, SIGNIN_EVENT.ADDRESS)
        .from(SIGNIN_EVENT)
        .where(
            SIGNIN_EVENT.PERSON_ID.eq(person.value()),
            SIGNIN_EVENT.HAPPENED_AT.ge(figures.start(first)))
        .orderBy(SIGNIN_EVENT.HAPPENED_AT.desc())
        .forEach(
            r -> {
              weeks.where(r.value2())[figures.week(first, r.value1(), count)]++;
              if (r.value2()) {
                last[0] = last[0] == null ? r.value1() : last[0];
              } else if (failures.size() < MOST_FAILURES) {
                failures.add(new Failed(r.value1(), r.value3()));
              }
            });
    return new OfPerson(weeks, last[0], failures);
  }
}
