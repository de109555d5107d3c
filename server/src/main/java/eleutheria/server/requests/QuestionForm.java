package eleutheria.server.requests;

import eleutheria.core.facts.Question;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A question of a request form.
 *
 * @param choices of one or several; empty for the other kinds
 * @param looksLike what a short answer must look like: # is a digit, @ a letter, * anything
 * @param least the smallest number, inclusive; at most twelve digits and three decimal places; the
 *     same for {@code most}
 * @param earliest the first day, counted from the day of asking; the same for {@code latest}
 * @param shownWhen a filter (RFC 7644, section 3.4.2.2) over earlier answers and the asker's
 *     attributes; empty where it is always shown
 */
record QuestionForm(
    @NotNull @Size(max = 100) String key,
    @NotNull @Size(max = 1000) String label,
    @NotNull @Size(max = 2000) String help,
    boolean required,
    @NotNull Kind kind,
    @NotNull @Size(max = 200) List<@NotNull @Size(max = 500) String> choices,
    @NotNull @Size(max = 500) String looksLike,
    @Nullable @Pattern(regexp = "-?\\d{1,20}(\\.\\d{1,10})?") String least,
    @Nullable @Pattern(regexp = "-?\\d{1,20}(\\.\\d{1,10})?") String most,
    @Nullable Integer earliest,
    @Nullable Integer latest,
    @NotNull @Size(max = 4000) String shownWhen) {

  enum Kind {
    SHORT,
    LONG,
    NUMBER,
    DAY,
    ONE_OF,
    SEVERAL_OF,
    YES_NO,
    COLLEAGUE;

    static Kind of(Question.Kind kind) {
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
  }

  Question question() {
    return new Question(
        key,
        label.strip(),
        help.strip(),
        required,
        switch (kind) {
          case SHORT -> new Question.ShortText(looksLike.strip());
          case LONG -> new Question.LongText();
          case NUMBER -> new Question.Number(number(least), number(most));
          case DAY -> new Question.Day(earliest, latest);
          case ONE_OF -> new Question.OneOf(choices);
          case SEVERAL_OF -> new Question.SeveralOf(choices);
          case YES_NO -> new Question.YesNo();
          case COLLEAGUE -> new Question.Colleague();
        },
        shownWhen.strip());
  }

  private static @Nullable BigDecimal number(@Nullable String text) {
    return text == null ? null : new BigDecimal(text);
  }

  static QuestionForm of(Question question) {
    Question.Kind kind = question.kind();
    return new QuestionForm(
        question.key(),
        question.label(),
        question.help(),
        question.required(),
        Kind.of(kind),
        question.choices(),
        kind instanceof Question.ShortText k ? k.looksLike() : "",
        kind instanceof Question.Number k ? text(k.least()) : null,
        kind instanceof Question.Number k ? text(k.most()) : null,
        kind instanceof Question.Day k ? k.earliest() : null,
        kind instanceof Question.Day k ? k.latest() : null,
        question.shownWhen());
  }

  static @Nullable String text(@Nullable BigDecimal number) {
    return number == null ? null : number.toPlainString();
  }
}
