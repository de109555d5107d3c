package eleutheria.server.state;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FormJson;
import eleutheria.core.ledger.JsonMembers;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.requests.FormAnswer;
import java.util.List;
import java.util.Map;

/** Request forms in a column, as they stand in the ledger, and what they were answered with. */
public final class RequestForms {
  private RequestForms() {}

  public static String text(FactValue.RequestForm form) {
    return CanonicalJson.write(FormJson.value(form));
  }

  public static FactValue.RequestForm read(String text) {
    return FormJson.form(FactTable.JSON.readValue(text, Map.class));
  }

  /** Another for each other form. */
  public static String version(FactValue.RequestForm form) {
    return LedgerChain.hash(text(form)).substring(0, 16);
  }

  public static String answers(List<FormAnswer> answers) {
    return CanonicalJson.write(
        answers.stream()
            .map(
                each ->
                    Map.of(
                        "key", each.key(),
                        "label", each.label(),
                        "type", each.type().word(),
                        "values", each.values()))
            .toList());
  }

  public static List<FormAnswer> readAnswers(String text) {
    if (text.equals("[]")) {
      return List.of();
    }
    return ((List<?>) FactTable.JSON.readValue(text, List.class))
        .stream()
            .map(each -> (Map<?, ?>) each)
            .map(
                each ->
                    new FormAnswer(
                        JsonMembers.text(each, "key"),
                        JsonMembers.text(each, "label"),
                        ValueType.of(JsonMembers.text(each, "type")),
                        JsonMembers.list(each, "values").stream().map(String::valueOf).toList()))
            .toList();
  }
}
