package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class EndsSoonTest {
  private final House house = new House();
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final EntitlementId role = house.role("Farebox", Sensitivity.LOW);
  private final List<EndsSoon.Warning> warnings = new ArrayList<>();

  /** Whether they wait for a decision on it already. */
  private boolean asked;

  EndsSoonTest() {
    house.watch((before, directory, edits, moves, at) -> warnings.addAll(EndsSoon.set(moves, at)));
  }

  private LocalDate day(int after) {
    return house.now().atZone(House.ZONE).toLocalDate().plusDays(after);
  }

  private GrantId grant(GrantSource source, int days) {
    return grant(role, source, days);
  }

  private GrantId grant(EntitlementId role, GrantSource source, int days) {
    return house.act(
        m -> {
          Edits edits = m.edits();
          GrantId id = new GrantId(m.ids().get());
          edits.timeline(
              new FactKey.Grant(id),
              List.of(
                  new Spell(
                      new FactValue.Given(new FactValue.Subject.OfPerson(oda), role, source),
                      m.at(),
                      Moments.endOf(day(days), House.ZONE))));
          return Outcome.done(Act.of(ActName.ACCESS_GIVE, id), edits.list(), id);
        });
  }

  private void until(GrantId id, @Nullable LocalDate base, @Nullable LocalDate until) {
    house.act(Authority.SETUP, m -> GrantDecisions.setUntil(m, id, base, until, "longer"));
  }

  /** Whom the first warnings tell, when the clock has come to them. */
  private List<GrantId> toldAt(Instant due) {
    house.pass(Duration.between(house.now(), due));
    List<GrantId> grants =
        warnings.stream().filter(w -> w.at().equals(due)).map(EndsSoon.Warning::grant).toList();
    return EndsSoon.tell(house.access(), due, grants, (person, entitlement) -> asked).stream()
        .map(Errand.TellOfEnd::grant)
        .toList();
  }

  private Instant warning(int days) {
    return warning(days, 3);
  }

  private Instant warning(int days, int before) {
    return Moments.endOf(day(days), House.ZONE).minus(Duration.ofDays(before));
  }

  @Test
  void fourteenThreeAndOneDaysBeforeItEndsAndOnlyOfWhatWasAskedFor() {
    List<Instant> dues = List.of(warning(20, 14), warning(20, 3), warning(20, 1));
    GrantId longer = grant(GrantSource.REQUEST, 20);
    grant(house.role("Tide Table", Sensitivity.LOW), GrantSource.HAND, 22);
    assertThat(warnings)
        .isEqualTo(dues.stream().map(due -> new EndsSoon.Warning(due, longer)).toList());
    for (Instant due : dues) {
      assertThat(toldAt(due)).as("%s", due).containsExactly(longer);
    }
  }

  @Test
  void ofWhatIsShortOnlyWhatIsStillToCome() {
    grant(GrantSource.REQUEST, 2);
    assertThat(warnings).extracting(EndsSoon.Warning::at).containsExactly(warning(2, 1));
    grant(GrantSource.REQUEST, 0);
    assertThat(warnings).hasSize(1);
  }

  @Test
  void nobodyWhoHasAskedToKeepIt() {
    Instant due = warning(10);
    GrantId longer = grant(GrantSource.REQUEST, 10);
    asked = true;
    assertThat(toldAt(due)).isEmpty();
    asked = false;
    assertThat(toldAt(warning(2, 1))).as("it was refused").containsExactly(longer);
  }

  @Test
  void nobodyForWhomSomethingElseHoldsItOn() {
    Instant due = warning(10);
    grant(GrantSource.REQUEST, 10);
    grant(GrantSource.HAND, 40);
    assertThat(toldAt(due)).isEmpty();
  }

  @Test
  void whoseEndHasMovedIsToldBeforeTheNewOneAlone() {
    Instant due = warning(10);
    Instant later = warning(30);
    LocalDate first = day(10);
    LocalDate second = day(30);
    GrantId asked = grant(GrantSource.REQUEST, 10);
    until(asked, first, second);
    assertThat(toldAt(due)).isEmpty();
    assertThat(toldAt(later)).containsExactly(asked);
    until(asked, second, null);
    assertThat(EndsSoon.tell(house.access(), later, List.of(asked), (p, e) -> false)).isEmpty();
    assertThat(warnings).hasSize(5);
  }
}
