package eleutheria.core.ledger;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.Term;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Request forms as JSON. What has no limit has no member. */
public final class FormJson {
  private static final String SHORT = "short";
  private static final String LONG = "long";
  private static final String NUMBER = "number";
  private static final String DAY = "day";
  private static final String ONE_OF = "one-of";
  private static final String SEVERAL_OF = "several-of";
  private static final String YES_NO = "yes-no";
  private static final String COLLEAGUE = "colleague";

  private FormJson() {}

  public static Object value(FactValue.RequestForm form) {
    Map<String, Object> term = new LinkedHashMap<>();
    term.put("choices", form.term().choices());
    put(term, "most", form.term().most());
    term.put("endless", form.term().endless());
    return Map.of(
        "questions", form.questions().stream().map(FormJson::question).toList(), "term", term);
  }

  private static void put(Map<String, Object> to, String name, @Nullable Object value) {
    if (value != null) {
      to.put(name, value);
    }
  }

  private static Map<String, Object> question(Question question) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("key", question.key());
    json.put("label", question.label());
    json.put("help", question.help());
    json.put("required", question.required());
    json.put("shown-when", question.shownWhen());
    json.put("kind", word(question.kind()));
    switch (question.kind()) {
      case Question.ShortText k -> json.put("looks-like", k.looksLike());
      case Question.Number k -> {
        put(json, "least", k.least() == null ? null : k.least().toPlainString());
        put(json, "most", k.most() == null ? null : k.most().toPlainString());
      }
      case Question.Day k -> {
        put(json, "earliest", k.earliest());
        put(json, "latest", k.latest());
      }
      case Question.OneOf k -> json.put("choices", k.choices());
      case Question.SeveralOf k -> json.put("choices", k.choices());
      case Question.LongText k -> {}
      case Question.YesNo k -> {}
      case Question.Colleague k -> {}
    }
    return json;
  }

  private static String word(Question.Kind kind) {
    return switch (kind) {
      case Question.ShortText k -> SHORT;
      case Question.LongText k -> LONG;
      case Question.Number k -> NUMBER;
      case Question.Day k -> DAY;
      case Question.OneOf k -> ONE_OF;
      case Question.SeveralOf k -> SEVERAL_OF;
      case Question.YesNo k -> YES_NO;
      case Question.Colleague k -> COLLEAGUE;
    };
  }

  /**
   * @throws IllegalArgumentException if this is not a form
   */
  public static FactValue.RequestForm form(Map<?, ?> json) {
    Map<?, ?> term = JsonMembers.object(json, "term");
    return new FactValue.RequestForm(
        JsonMembers.list(json, "questions").stream().map(each -> read((Map<?, ?>) each)).toList(),
        new Term(
            JsonMembers.list(term, "choices").stream()
                .map(each -> ((Number) each).intValue())
                .toList(),
            whole(term, "most"),
            flag(term, "endless")));
  }

  private static Question read(Map<?, ?> json) {
    return new Question(
        JsonMembers.text(json, "key"),
        JsonMembers.text(json, "label"),
        JsonMembers.text(json, "help"),
        flag(json, "required"),
        kind(json),
        JsonMembers.text(json, "shown-when"));
  }

  private static Question.Kind kind(Map<?, ?> json) {
    String word = JsonMembers.text(json, "kind");
    return switch (word) {
      case SHORT -> new Question.ShortText(JsonMembers.text(json, "looks-like"));
      case LONG -> new Question.LongText();
      case NUMBER -> new Question.Number(decimal(json, "least"), decimal(json, "most"));
      case DAY -> new Question.Day(whole(json, "earliest"), whole(json, "latest"));
      case ONE_OF -> new Question.OneOf(choices(json));
      case SEVERAL_OF -> new Question.SeveralOf(choices(json));
      case YES_NO -> new Question.YesNo();
      case COLLEAGUE -> new Question.Colleague();
      default -> throw new IllegalArgumentException("unknown kind of question: " + word);
    };
  }

  private static List<String> choices(Map<?, ?> json) {
    return JsonMembers.list(json, "choices").stream().map(String::valueOf).toList();
  }

  private static boolean flag(Map<?, ?> json, String name) {
    return Boolean.TRUE.equals(json.get(name));
  }

  private static @Nullable Integer whole(Map<?, ?> json, String name) {
    return json.get(name) instanceof Number number ? number.intValue() : null;
  }

  private static @Nullable BigDecimal decimal(Map<?, ?> json, String name) {
    return json.get(name) instanceof String text ? new BigDecimal(text) : null;
  }
}
