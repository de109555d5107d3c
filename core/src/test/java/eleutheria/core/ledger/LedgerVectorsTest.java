package eleutheria.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import java.io.File;
import java.io.IOException;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** The writer against docs/ledger-vectors.json, which was made by another program. */
class LedgerVectorsTest {
  private final Map<?, ?> vectors = read();

  private static Map<?, ?> read() {
    try {
      return new ObjectMapper().readValue(new File("../docs/ledger-vectors.json"), Map.class);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  @SuppressWarnings("unchecked")
  private List<Map<String, Object>> list(String name) {
    return (List<Map<String, Object>>) vectors.get(name);
  }

  @Test
  void canonicalJson() {
    for (Map<String, Object> vector : list("canonical")) {
      assertThat(CanonicalJson.write(vector.get("value"))).isEqualTo(vector.get("json"));
      assertThat(LedgerChain.hash((String) vector.get("json"))).isEqualTo(vector.get("sha256"));
    }
    assertThatThrownBy(() -> CanonicalJson.write(1.5)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> CanonicalJson.write(1L << 53))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> CanonicalJson.write("\ud800x"))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void sealedValuesAndRoots() {
    for (Map<String, Object> vector : list("sealed")) {
      byte[] salt = HexFormat.of().parseHex((String) vector.get("salt"));
      assertThat(LedgerChain.sealed(salt, CanonicalJson.write(vector.get("value"))))
          .isEqualTo(vector.get("sealed"));
    }
    for (Map<String, Object> vector : list("root")) {
      List<String> changes =
          ((List<?>) vector.get("changes")).stream().map(String.class::cast).toList();
      assertThat(LedgerChain.root(changes)).isEqualTo(vector.get("root"));
    }
  }

  @Test
  void chainOfTwo() {
    PersonId person = PersonId.parse("01930000-0000-7000-8000-000000000001");
    Instant at = Instant.parse("2026-03-02T08:00:00Z");
    LedgerChain chain = new LedgerChain(new SplittableRandom(1));
    LedgerHead head = LedgerHead.NONE;
    for (Map<String, Object> vector : list("chain")) {
      Instant instant = Moments.next(at, head.instant());
      List<Edit> edits =
          head.position() > 0
              ? List.of()
              : List.of(
                  new Edit(
                      new FactKey.Attribute(person, "unit", ""),
                      null,
                      new Spell(new FactValue.Text("Deck crew"), at, Moments.FOREVER)));
      SealedEntry entry =
          chain.seal(
              head,
              instant,
              new Actor.Setup(),
              Act.of(ActName.SETTINGS_BEGIN, person).with(Map.of("n", (int) head.position() + 1)),
              edits,
              key -> false);
      assertThat(entry.json()).isEqualTo(vector.get("entry"));
      assertThat(entry.hash()).isEqualTo(vector.get("hash"));
      assertThat(entry.changes().stream().map(SealedEntry.SealedChange::json))
          .isEqualTo(vector.get("changes"));
      head = new LedgerHead(entry.position(), entry.hash(), instant);
    }
  }

  @Test
  void everyKindOfFactGoesThereAndBack() {
    for (Map.Entry<FactKey, FactValue> fact : FactSamples.ALL.entrySet()) {
      Map<String, Object> key = FactJson.key(fact.getKey());
      assertThat(FactJson.key(FactJson.kind(fact.getKey()), key)).isEqualTo(fact.getKey());
      Object value = FactJson.value(fact.getValue());
      CanonicalJson.write(value);
      assertThat(FactJson.value(fact.getKey(), value)).isEqualTo(fact.getValue());
    }
  }
}
