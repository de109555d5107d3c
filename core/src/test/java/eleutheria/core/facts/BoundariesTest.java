package eleutheria.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class BoundariesTest {
  private static final Instant NOW = Instant.parse("2026-03-02T08:00:00Z");
  private static final FactKey KEY = new FactKey.GroupName(new GroupId(new UUID(0, 1)));

  private final Facts facts = new Facts();

  private static Instant hour(int hours) {
    return NOW.plusSeconds(3600L * hours);
  }

  private static Spell spell(String text, Instant from, Instant until) {
    return new Spell(new FactValue.Text(text), from, until);
  }

  private List<Boundaries.Boundary> set(Instant at, Spell... timeline) {
    Edits edits = new Edits(facts, at);
    edits.timeline(KEY, List.of(timeline));
    List<Move> moves = ((Applied.Moves) facts.apply(edits.list(), at)).moves();
    facts.take(moves);
    return Boundaries.set(moves, at);
  }

  private static Boundaries.Boundary at(Instant instant) {
    return new Boundaries.Boundary(instant, KEY);
  }

  @Test
  void aFactThatBeginsAndEndsLaterHasBoth() {
    assertThat(set(NOW, spell("a", hour(1), hour(2)))).containsExactly(at(hour(1)), at(hour(2)));
  }

  @Test
  void whatBeginsAtOnceForEverHasNone() {
    assertThat(set(NOW, spell("a", NOW, Moments.FOREVER))).isEmpty();
  }

  @Test
  void aBoundaryWhoseEndWasMovedStandsNoMore() {
    set(NOW, spell("a", NOW, hour(5)));
    assertThat(Boundaries.stands(facts, at(hour(5)))).isTrue();
    List<Boundaries.Boundary> moved = set(hour(1), spell("b", hour(1), hour(9)));
    assertThat(moved).contains(at(hour(9)));
    assertThat(Boundaries.stands(facts, at(hour(5)))).isFalse();
    assertThat(Boundaries.stands(facts, at(hour(9)))).isTrue();
  }
}
