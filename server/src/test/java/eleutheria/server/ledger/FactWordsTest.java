package eleutheria.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.FactKind;
import eleutheria.core.ledger.FactSamples;
import eleutheria.server.testing.Samples;
import java.util.Arrays;
import java.util.Map;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;

class FactWordsTest {
  @Test
  void everyKindOfFactIsToldInWords() {
    FactWords words = new FactWords(new ThingNames(Samples.facts()));
    SoftAssertions all = new SoftAssertions();
    for (Map.Entry<FactKey, FactValue> fact : FactSamples.ALL.entrySet()) {
      String told = words.tell(fact.getKey(), fact.getValue());
      all.assertThat(told)
          .as(fact.getKey().toString())
          .matches(text -> !Samples.readsLikeCode(text), "words");
      all.assertThat(told.isEmpty())
          .as("only what the key says is told by it alone: %s", fact)
          .isEqualTo(
              fact.getValue() instanceof FactValue.Present
                  && !(fact.getKey() instanceof FactKey.FrontRank)
                  && !(fact.getKey() instanceof FactKey.Fronted));
    }
    all.assertAll();
    assertThat(FactSamples.ALL.keySet().stream().map(FactKind::of))
        .containsAll(Arrays.asList(FactKind.values()));
  }
}
