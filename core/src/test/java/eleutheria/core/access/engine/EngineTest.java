package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;

/** What random histories do not come upon: clocks that differ, and readers beside a trial. */
class EngineTest {
  private final RandomWorld world = new RandomWorld(5);
  private final Store store = Store.of(world.facts);
  private final Engine engine = Engine.of(store, world.now);
  private final PersonId person = world.people.getFirst();
  private final EntitlementId role = world.roles.getFirst();

  private Move given(Instant from, Instant until) {
    FactValue.Given given =
        new FactValue.Given(new FactValue.Subject.OfPerson(person), role, GrantSource.HAND);
    return new Move.Opened(
        new FactKey.Grant(new GrantId(UUID.randomUUID())), new Spell(given, from, until));
  }

  private boolean entitled(Snapshot state) {
    return state.entitled(state.number(person), state.number(role));
  }

  @Test
  void aStateThatAClockMovedAheadDoesNotGoBack() {
    Instant ahead = world.now.plusSeconds(2);
    engine.advance(ahead);
    Instant act = world.now.plusSeconds(1);
    assertThat(engine.take(List.of(given(act, Moments.FOREVER)), act).gained()).isEqualTo(1);
    assertThat(engine.now().at()).isEqualTo(ahead);
    assertThat(entitled(engine.now())).isTrue();
    assertThat(engine.advance(act).isEmpty()).as("nor does an older moment move it").isTrue();
    assertThat(engine.now().at()).isEqualTo(ahead);
  }

  @Test
  void whatFallsDueAtOneInstantFallsDueTogether() {
    Instant act = world.now.plusSeconds(1);
    Instant end = act.plus(Duration.ofDays(1));
    List<Move> many = java.util.stream.Stream.generate(() -> given(act, end)).limit(500).toList();
    engine.take(many, act);
    assertThat(engine.next()).isEqualTo(end);
    assertThat(engine.advance(end.minusNanos(1_000)).isEmpty()).isTrue();
    assertThat(entitled(engine.now())).isTrue();
    assertThat(engine.advance(end).lost()).isEqualTo(1);
    assertThat(entitled(engine.now())).isFalse();
    assertThat(engine.next()).isNull();
  }

  @Test
  void aMomentBehindABoundaryThatWasNotTakenUpIsRefused() {
    Instant act = world.now.plusSeconds(1);
    Instant end = act.plusSeconds(60);
    engine.take(List.of(given(act, end)), act);
    assertThat(entitled(engine.asOf(end.minusNanos(1_000)))).isTrue();
    assertThatThrownBy(() -> engine.asOf(end)).isInstanceOf(IllegalArgumentException.class);
  }

  /** An organisation that knows no units, as at its first start, still counts who holds what. */
  @Test
  void withoutUnitsHoldersAreCountedAllTheSame() {
    House house = new House();
    PersonId mina = house.person("Mina Sato", null);
    EntitlementId key = house.role("Key Safe", Sensitivity.LOW);
    house.act(
        m ->
            GrantDecisions.give(
                m, key, List.of(new FactValue.Subject.OfPerson(mina)), null, null, "a test"));
    Engine plain = Engine.of(house.facts, house.now());
    EngineAccess access =
        new EngineAccess(plain, plain.now(), house.directory(), house.access().apps());
    assertThat(access.holdersByUnit(key)).isEqualTo(Map.of("", 1));
    assertThat(access.holders(key, "", 0, 10).total()).isEqualTo(1);
    assertThat(access.holders(key, "Deck crew", 0, 10).people()).isEmpty();
  }

  /** A unit that came up after a state was made is nobody's in that state. */
  @Test
  void anAttributeThatCameLaterIsNobodysBefore() {
    Snapshot before = engine.now();
    Instant act = world.now.plusSeconds(1);
    engine.take(
        List.of(
            new Move.Opened(
                new FactKey.Attribute(person, "berth", ""),
                new Spell(new FactValue.Text("12"), act, Moments.FOREVER))),
        act);
    Holders.Wanted berth = Holders.Wanted.having("berth", "12");
    assertThat(Holders.count(before, before.number(role), berth)).isZero();
    assertThat(new EngineDirectory(before, null).having("berth", "12")).isEmpty();
    assertThat(new EngineDirectory(engine.now(), null).having("berth", "12"))
        .containsExactly(person);
  }

  @Test
  void nobodySeesWhatIsOnlyTried() {
    Facts facts = new Facts(store);
    Instant act = world.now.plusSeconds(1);
    Move first = given(act, Moments.FOREVER);
    engine.take(List.of(first), act);
    Spell spell = ((Move.Opened) first).spell();
    Instant then = act.plusSeconds(1);
    List<Move> tried =
        List.of(
            new Move.Ended(first.key(), spell, then),
            new Move.Opened(first.key(), new Spell(spell.value(), then, Moments.FOREVER)),
            given(then, Moments.FOREVER));
    int grants = facts.keys(FactKey.Grant.class).size();
    CompletableFuture<Void> trying =
        CompletableFuture.runAsync(
            () -> {
              for (int i = 0; i < 3_000; i++) {
                engine.trial(tried, then);
              }
            });
    do {
      assertThat(facts.spells(first.key())).containsExactly(spell);
      assertThat(facts.keys(FactKey.Grant.class)).hasSize(grants);
      assertThat(entitled(engine.now())).isTrue();
    } while (!trying.isDone());
    trying.join();
    assertThat(facts.spells(first.key())).containsExactly(spell);
  }
}
