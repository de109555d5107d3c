package eleutheria.server.requests;

import eleutheria.core.directory.filter.FilterShape;
import eleutheria.core.facts.Question;
import eleutheria.core.requests.AskedForm;
import eleutheria.server.refs.ShapeView;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A question as whoever asks meets it.
 *
 * @param looksLike what a short answer must look like: # is a digit, @ a letter, * anything
 * @param least the smallest number, inclusive; the same for {@code most}
 * @param earliest the first day, inclusive; the same for {@code latest}
 * @param shownWhen a condition over keys of earlier questions; null where it is always shown
 */
record AskQuestion(
    String key,
    String label,
    String help,
    boolean required,
    QuestionForm.Kind kind,
    List<String> choices,
    String looksLike,
    @Nullable String least,
    @Nullable String most,
    @Nullable LocalDate earliest,
    @Nullable LocalDate latest,
    @Nullable ShapeView shownWhen) {

  static List<AskQuestion> of(AskedForm form, LocalDate today) {
    return form.questions().stream().map(each -> of(each, today)).toList();
  }

  private static AskQuestion of(AskedForm.Asked asked, LocalDate today) {
    Question question = asked.question();
    Question.Kind kind = question.kind();
    return new AskQuestion(
        question.key(),
        question.label(),
        question.help(),
        question.required(),
        QuestionForm.Kind.of(kind),
        question.choices(),
        kind instanceof Question.ShortText k ? k.looksLike() : "",
        kind instanceof Question.Number k ? QuestionForm.text(k.least()) : null,
        kind instanceof Question.Number k ? QuestionForm.text(k.most()) : null,
        kind instanceof Question.Day k && k.earliest() != null
            ? today.plusDays(k.earliest())
            : null,
        kind instanceof Question.Day k && k.latest() != null ? today.plusDays(k.latest()) : null,
        asked.shownWhen() == null ? null : ShapeView.of(FilterShape.of(asked.shownWhen())));
  }
}
