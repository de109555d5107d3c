package eleutheria.core.facts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class FactsTest {
  private static final Instant T1 = Instant.parse("2026-03-01T08:00:00Z");
  private static final Instant T2 = Instant.parse("2026-03-02T08:00:00Z");
  private static final Instant T3 = Instant.parse("2026-03-03T08:00:00Z");
  private static final FactKey UNIT =
      new FactKey.Attribute(new PersonId(new UUID(0, 1)), "unit", "");

  private final Facts facts = new Facts();

  @BeforeEach
  void oneFact() {
    act(T1, new Edit(UNIT, null, spell("Deck crew", T1, Moments.FOREVER)));
  }

  private static Spell spell(String value, Instant from, Instant until) {
    return new Spell(new FactValue.Text(value), from, until);
  }

  private void act(Instant at, Edit... edits) {
    facts.take(((Applied.Moves) facts.apply(List.of(edits), at)).moves());
  }

  private Clash.Reason refused(Instant at, Edit edit) {
    return ((Applied.Clashes) facts.apply(List.of(edit), at)).clashes().getFirst().reason();
  }

  @Test
  void anEditFromAnOldBaseIsRefusedAndNamesWhatIsSo() {
    Edit first =
        new Edit(
            UNIT, spell("Deck crew", T1, Moments.FOREVER), spell("Safety", T2, Moments.FOREVER));
    act(T2, first);
    Edit second =
        new Edit(
            UNIT, spell("Deck crew", T1, Moments.FOREVER), spell("Finance", T3, Moments.FOREVER));
    Applied applied = facts.apply(List.of(second), T3);
    assertThat(applied)
        .isInstanceOfSatisfying(
            Applied.Clashes.class,
            clashes -> {
              assertThat(clashes.clashes().getFirst().reason())
                  .isEqualTo(Clash.Reason.CHANGED_MEANWHILE);
              assertThat(clashes.clashes().getFirst().actual())
                  .containsExactly(spell("Safety", T2, Moments.FOREVER));
            });
  }

  @Test
  void nothingBeginsOrEndsBeforeTheAct() {
    Spell base = spell("Deck crew", T1, Moments.FOREVER);
    assertThat(refused(T3, new Edit(UNIT, base, base.endingAt(T2))))
        .isEqualTo(Clash.Reason.BEFORE_THE_ACT);
    assertThat(refused(T3, new Edit(UNIT, base, spell("Safety", T2, Moments.FOREVER))))
        .isEqualTo(Clash.Reason.BEFORE_THE_ACT);
    assertThat(refused(T3, new Edit(UNIT, base, null))).isEqualTo(Clash.Reason.BEFORE_THE_ACT);
  }

  @Test
  void aKeyNeverHasTwoValues() {
    assertThat(refused(T2, new Edit(UNIT, null, spell("Safety", T3, Moments.FOREVER))))
        .isEqualTo(Clash.Reason.OVERLAP);
  }

  @Test
  void whatNeverCameIntoForceIsDropped() {
    act(T2, new Edit(UNIT, spell("Deck crew", T1, Moments.FOREVER), spell("Deck crew", T1, T3)));
    act(T2, new Edit(UNIT, null, spell("Safety", T3, Moments.FOREVER)));
    act(T2.plusSeconds(1), new Edit(UNIT, spell("Safety", T3, Moments.FOREVER), null));
    assertThat(facts.spells(UNIT)).containsExactly(spell("Deck crew", T1, T3));
  }

  @Test
  void anActIsAllOrNothing() {
    Edit good =
        new Edit(new FactKey.GroupName(new GroupId(new UUID(0, 9))), null, spell("A", T2, T3));
    Edit bad = new Edit(UNIT, null, spell("Safety", T2, Moments.FOREVER));
    assertThat(facts.apply(List.of(good, bad), T2)).isInstanceOf(Applied.Clashes.class);
    assertThat(facts.size()).isEqualTo(1);
  }

  @Test
  void instantsRunInOneOrderAlsoWhenTheClockIsSetBack() {
    Instant last = Instant.parse("2026-03-02T08:00:00.000007Z");
    assertThat(Moments.next(T1, last)).isEqualTo(Instant.parse("2026-03-02T08:00:00.000008Z"));
    assertThat(Moments.next(Instant.parse("2026-03-02T09:00:00.123456789Z"), last))
        .isEqualTo(Instant.parse("2026-03-02T09:00:00.123456Z"));
  }

  @Test
  void aDayEndsAtTheStartOfTheNextOneInItsZone() {
    ZoneId oslo = ZoneId.of("Europe/Oslo");
    assertThat(Moments.endOf(LocalDate.parse("2026-09-30"), oslo))
        .isEqualTo("2026-09-30T22:00:00Z");
    assertThat(Moments.startOf(LocalDate.parse("2026-12-01"), oslo))
        .isEqualTo("2026-11-30T23:00:00Z");
  }

  @Test
  void idsOfOneMillisecondGrowAndAreVersionSeven() {
    FreshIds ids = new FreshIds(new SplittableRandom(1));
    UUID last = ids.next(T1);
    for (int i = 0; i < 10_000; i++) {
      UUID next = ids.next(T1);
      assertThat(next.version()).isEqualTo(7);
      assertThat(next.variant()).isEqualTo(2);
      assertThat(next.toString()).isGreaterThan(last.toString());
      last = next;
    }
  }

  @Test
  void anEmptyTimeIsNoSpell() {
    assertThatThrownBy(() -> spell("x", T1, T1)).isInstanceOf(IllegalArgumentException.class);
  }
}
