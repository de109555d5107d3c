package eleutheria.server.testing;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.FactSamples;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Pattern;

/** One fact of every kind, all of them on record, and what no sentence about them may look like. */
public final class Samples {
  public static final Instant SINCE = Instant.parse("2026-03-01T08:00:00Z");

  private static final Pattern CODE =
      Pattern.compile(
          "[{}=]|[0-9a-f]{8}-[0-9a-f]{4}|[A-Z]+_[A-Z]|[a-z]_[a-z]|\\bnull\\b| eq | co ");
  private static final Pattern ADDRESS = Pattern.compile("https://\\S+");

  private Samples() {}

  public static Facts facts() {
    Map<FactKey, FactValue> all = new LinkedHashMap<>(FactSamples.ALL);
    all.put(
        new FactKey.Defined("unit"),
        new FactValue.Definition("Unit", ValueType.TEXT, false, false, null));
    Facts facts = new Facts();
    facts.take(
        all.entrySet().stream()
            .<Move>map(
                fact ->
                    new Move.Opened(
                        fact.getKey(), new Spell(fact.getValue(), SINCE, Moments.FOREVER)))
            .toList());
    return facts;
  }

  /** Whether there are braces, ids, constants or operators of filters in a text. */
  public static boolean readsLikeCode(String text) {
    return CODE.matcher(ADDRESS.matcher(text).replaceAll("")).find();
  }
}
