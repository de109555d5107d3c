package eleutheria.core.requests;

import eleutheria.core.facts.ValueType;
import java.util.List;

/**
 * What somebody answered, with the question as it was asked.
 *
 * @param key see {@link eleutheria.core.facts.Question}
 * @param values never empty; days as ISO 8601, yes and no as true and false, people by id
 */
public record FormAnswer(String key, String label, ValueType type, List<String> values) {
  public FormAnswer {
    values = List.copyOf(values);
  }
}
