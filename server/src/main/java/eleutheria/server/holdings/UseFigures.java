package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.OPENING;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.settings.Organisation;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How often something is opened, by week. Of one named person only for whoever may see that. */
@Component
class UseFigures {
  static final int WEEKS = 26;

  /** Of more people than this no figures are told; an app's own stand under Use. */
  static final int MOST_ASKED = 2_000;

  /** Figures of fewer people are as good as named. */
  static final int FEWEST = 5;

  private final DSLContext db;
  private final Organisation organisation;
  private final Clock clock;

  UseFigures(DSLContext db, Organisation organisation, Clock clock) {
    this.db = db;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param weeks openings by week, the last being this week
   * @param last null where there was none
   */
  record Marked(int[] weeks, @Nullable Instant last) {}

  LocalDate thisMonday() {
    return clock
        .instant()
        .atZone(organisation.zone())
        .toLocalDate()
        .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
  }

  /** Whether the reader may see when each of these people used something. */
  static boolean maySee(Viewer viewer, DirectoryView directory, List<PersonId> people) {
    if (viewer.authority().units(Power.USE_READ) == null) {
      return true;
    }
    return people.stream()
        .allMatch(
            id ->
                id.equals(viewer.person())
                    || directory
                        .person(id)
                        .filter(
                            p ->
                                viewer
                                    .authority()
                                    .reaches(Power.USE_READ, p.value(Attributes.UNIT)))
                        .isPresent());
  }

  /**
   * Openings of what tells the use of an entitlement.
   *
   * @param people by these alone
   * @return null where nothing tells its use, there are too many or none of them, or the reader may
   *     not know
   */
  @Nullable Marked of(
      Viewer viewer, PortalView whole, EntitlementId entitlement, List<PersonId> people) {
    List<UUID> tiles =
        whole.tiles().stream()
            .filter(t -> t.face().needs().contains(entitlement))
            .map(t -> t.id().value())
            .toList();
    if (tiles.isEmpty()
        || people.isEmpty()
        || people.size() > MOST_ASKED
        || (people.size() < FEWEST && !maySee(viewer, whole.directory(), people))) {
      return null;
    }
    Condition those =
        OPENING
            .TILE_ID
            .in(tiles)
            .and(OPENING.PERSON_ID.in(people.stream().map(PersonId::value).toList()));
    LocalDate first = thisMonday().minusWeeks(WEEKS - 1);
    int[] weeks = new int[WEEKS];
    Instant[] last = {null};
    var day = DSL.cast(OPENING.HAPPENED_AT, LocalDate.class);
    db.select(day, DSL.count(), DSL.max(OPENING.HAPPENED_AT))
        .from(OPENING)
        .where(those, OPENING.HAPPENED_AT.ge(first.atStartOfDay(organisation.zone()).toInstant()))
        .groupBy(day)
        .forEach(
            r -> {
              Instant at = r.value3();
              LocalDate here = at.atZone(organisation.zone()).toLocalDate();
              int week = (int) (ChronoUnit.DAYS.between(first, here) / 7);
              weeks[Math.clamp(week, 0, WEEKS - 1)] += r.value2();
              last[0] = last[0] == null || at.isAfter(last[0]) ? at : last[0];
            });
    return new Marked(weeks, last[0]);
  }
}
