package eleutheria.server.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.FactSamples;
import eleutheria.server.testing.Samples;
import java.time.Instant;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.assertj.core.api.SoftAssertions;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class PhrasesTest {
  private static final Instant AT = Instant.parse("2026-03-02T08:00:00Z");

  private static List<Phrases.Phrase> told(
      Phrases phrases, FactKey key, @Nullable Spell base, @Nullable Spell wanted) {
    return phrases.of(
        new DraftEdit(
            1,
            new PersonId(new UUID(9, 9)),
            AT,
            Act.of(ActName.SETTINGS_BEGIN),
            List.of(new Edit(key, base, wanted))));
  }

  @Test
  void whateverADraftCanChangeIsToldWhetherItBeginsChangesOrEnds() {
    Phrases phrases = new Phrases(Samples.facts());
    SoftAssertions all = new SoftAssertions();
    Set<PhraseKind> kinds = EnumSet.noneOf(PhraseKind.class);
    Map<FactKey, FactValue> facts = new LinkedHashMap<>(FactSamples.ALL);
    facts.put(new FactKey.Existence(new GroupId(new UUID(2, 2))), FactValue.Present.PRESENT);
    for (Map.Entry<FactKey, FactValue> fact : facts.entrySet()) {
      Spell was = new Spell(fact.getValue(), Samples.SINCE, Moments.FOREVER);
      Spell is = new Spell(fact.getValue(), AT, Moments.FOREVER);
      for (List<Phrases.Phrase> said :
          List.of(
              told(phrases, fact.getKey(), null, is),
              told(phrases, fact.getKey(), was, is),
              told(phrases, fact.getKey(), was, new Spell(fact.getValue(), Samples.SINCE, AT)))) {
        for (Phrases.Phrase phrase : said) {
          kinds.add(phrase.kind());
          all.assertThat(phrase.subject()).as(phrase.toString()).isNotBlank();
          for (String part :
              List.of(phrase.subject(), phrase.object(), phrase.before(), phrase.value())) {
            all.assertThat(part)
                .as(phrase.toString())
                .matches(text -> !Samples.readsLikeCode(text), "words");
          }
        }
      }
    }
    all.assertAll();
    assertThat(kinds).containsAll(EnumSet.allOf(PhraseKind.class));
  }
}
