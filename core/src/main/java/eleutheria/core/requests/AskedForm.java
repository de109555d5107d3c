package eleutheria.core.requests;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterRest;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Mask;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.ledger.Problem;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A request form as one person is asked it: conditions over their attributes are settled, those
 * over earlier answers are left.
 *
 * <p>A question that is not shown has no answer, also if one was typed. What is typed and is no
 * proper answer counts as none in conditions.
 */
public final class AskedForm {
  /** Twelve digits, a point, three more: what a browser compares without rounding. */
  private static final String NUMBER = "-?\\d{1,12}(\\.\\d{1,3})?";

  private final List<Asked> asked = new ArrayList<>();
  private final Set<PersonId> colleagues;

  /**
   * A question that this person may meet.
   *
   * @param shownWhen a filter over keys of earlier questions; null where it is always shown
   */
  public record Asked(Question question, @Nullable Filter shownWhen) {}

  /**
   * What came of answers.
   *
   * @param answers of the questions that are shown and were answered, in their order
   * @param problems each with the field {@code answers.key}
   */
  public record Filled(List<FormAnswer> answers, List<Problem> problems) {}

  private AskedForm(Set<PersonId> colleagues) {
    this.colleagues = colleagues;
  }

  public static AskedForm of(FactValue.RequestForm form, DirectoryView directory, PersonId asker) {
    boolean people =
        form.questions().stream().anyMatch(q -> q.kind() instanceof Question.Colleague);
    AskedForm asked =
        new AskedForm(people ? new LinkedHashSet<>(Colleagues.of(directory, asker)) : Set.of());
    Set<String> met = new HashSet<>();
    Set<String> earlier = new HashSet<>();
    for (Question question : form.questions()) {
      FilterRest rest = rest(form, question, directory, asker, earlier, met);
      if (!(rest instanceof FilterRest.Decided(boolean holds)) || holds) {
        asked.asked.add(
            new Asked(question, rest instanceof FilterRest.Open(Filter filter) ? filter : null));
        met.add(question.key());
      }
      earlier.add(question.key());
    }
    return asked;
  }

  /** A condition that can no longer be read, because its attribute has gone, asks everybody. */
  private static FilterRest rest(
      FactValue.RequestForm form,
      Question question,
      DirectoryView directory,
      PersonId asker,
      Set<String> earlier,
      Set<String> met) {
    if (question.shownWhen().isBlank()
        || !(FilterParser.parse(question.shownWhen(), schema(form, question, directory))
            instanceof FilterParser.Parsed.Good(Filter filter))) {
      return new FilterRest.Decided(true);
    }
    return FilterRest.of(
        filter,
        name -> !met.contains(name),
        name ->
            earlier.contains(name)
                ? List.of()
                : directory.person(asker).map(p -> p.values(name)).orElse(List.of()));
  }

  /** What a step's condition may name: all questions of a form, and attributes of people. */
  public static FilterSchema schema(FactValue.RequestForm form, DirectoryView directory) {
    return schema(form.questions(), directory);
  }

  /** What a question's condition may name: earlier questions, and attributes of people. */
  public static FilterSchema schema(
      FactValue.RequestForm form, Question question, DirectoryView directory) {
    return schema(
        form.questions().stream().takeWhile(each -> !each.key().equals(question.key())).toList(),
        directory);
  }

  private static FilterSchema schema(List<Question> questions, DirectoryView directory) {
    Map<String, FilterSchema.Field> fields = new LinkedHashMap<>();
    directory
        .definitions()
        .forEach((name, d) -> fields.put(name, new FilterSchema.Field(name, d.type())));
    for (Question each : questions) {
      fields.put(each.key(), new FilterSchema.Field(each.key(), each.kind().type()));
    }
    return new FilterSchema(fields.values());
  }

  /** In their order. */
  public List<Asked> questions() {
    return List.copyOf(asked);
  }

  /** Whom somebody may name where a colleague is asked for; in order of name. */
  public List<PersonId> colleagues() {
    return List.copyOf(colleagues);
  }

  /**
   * @param given what was typed, by key; keys of questions that are not asked are passed over
   */
  public Filled fill(Map<String, List<String>> given, LocalDate today) {
    List<FormAnswer> answers = new ArrayList<>();
    List<Problem> problems = new ArrayList<>();
    Map<String, List<String>> known = new HashMap<>();
    for (Asked each : asked) {
      Question question = each.question();
      if (each.shownWhen() != null
          && !each.shownWhen().matches(name -> known.getOrDefault(name, List.of()))) {
        continue;
      }
      List<String> values =
          given.getOrDefault(question.key(), List.of()).stream()
              .map(String::strip)
              .filter(value -> !value.isEmpty())
              .distinct()
              .toList();
      Optional<Problem> problem =
          values.isEmpty()
              ? Optional.of("")
                  .filter(none -> question.required())
                  .map(none -> problem(question, "missing", "Answer this."))
              : wrong(question, values, today);
      problem.ifPresent(problems::add);
      if (problem.isEmpty() && !values.isEmpty()) {
        known.put(question.key(), values);
        answers.add(
            new FormAnswer(question.key(), question.label(), question.kind().type(), values));
      }
    }
    return new Filled(List.copyOf(answers), List.copyOf(problems));
  }

  /** The field of a problem with an answer. */
  static String field(Question question) {
    return "answers." + question.key();
  }

  private static Problem problem(Question question, String code, String sentence) {
    return Problem.invalid("answer." + code, field(question), sentence);
  }

  private Optional<Problem> wrong(Question question, List<String> values, LocalDate today) {
    if (values.size() > 1 && !(question.kind() instanceof Question.SeveralOf)) {
      return Optional.of(problem(question, "several", "Give one answer."));
    }
    String value = values.getFirst();
    return switch (question.kind()) {
      case Question.ShortText k ->
          tooLong(question, value, Question.ShortText.MOST)
              .or(
                  () ->
                      k.looksLike().isEmpty() || Mask.fits(k.looksLike(), value)
                          ? Optional.empty()
                          : Optional.of(
                              problem(
                                  question,
                                  "looks-like",
                                  "It must look like %s (# is a digit, @ a letter, * anything)."
                                      .formatted(k.looksLike()))));
      case Question.LongText k -> tooLong(question, value, Question.LongText.MOST);
      case Question.OneOf k -> choice(question, values);
      case Question.SeveralOf k -> choice(question, values);
      case Question.YesNo k ->
          value.equals("true") || value.equals("false")
              ? Optional.empty()
              : Optional.of(problem(question, "yes-no", "Answer yes or no."));
      case Question.Colleague k ->
          PersonId.read(value).filter(colleagues::contains).isPresent()
              ? Optional.empty()
              : Optional.of(problem(question, "colleague", "Choose one of your colleagues."));
      case Question.Number k -> number(question, k, value);
      case Question.Day k -> day(question, k, value, today);
    };
  }

  private static Optional<Problem> tooLong(Question question, String value, int most) {
    return value.length() <= most
        ? Optional.empty()
        : Optional.of(problem(question, "long", "At most %,d characters.".formatted(most)));
  }

  private static Optional<Problem> choice(Question question, List<String> values) {
    return question.choices().containsAll(values)
        ? Optional.empty()
        : Optional.of(problem(question, "choice", "Choose one of what is offered."));
  }

  private static Optional<Problem> number(Question question, Question.Number kind, String value) {
    if (!value.matches(NUMBER)) {
      return Optional.of(
          problem(question, "number", "Write a number, with at most three decimal places."));
    }
    BigDecimal number = new BigDecimal(value);
    boolean low = kind.least() != null && number.compareTo(kind.least()) < 0;
    boolean high = kind.most() != null && number.compareTo(kind.most()) > 0;
    return low || high
        ? Optional.of(problem(question, "range", range(kind.least(), kind.most())))
        : Optional.empty();
  }

  private static String range(@Nullable Object least, @Nullable Object most) {
    return least == null
        ? "At most %s.".formatted(most)
        : most == null ? "At least %s.".formatted(least) : "From %s to %s.".formatted(least, most);
  }

  private static Optional<Problem> day(
      Question question, Question.Day kind, String value, LocalDate today) {
    LocalDate day;
    try {
      day = LocalDate.parse(value);
    } catch (DateTimeParseException e) {
      return Optional.of(problem(question, "day", "Write a day as 2027-03-31."));
    }
    LocalDate earliest = kind.earliest() == null ? null : today.plusDays(kind.earliest());
    LocalDate latest = kind.latest() == null ? null : today.plusDays(kind.latest());
    boolean out =
        day.getYear() < 1900
            || day.getYear() > 9000
            || (earliest != null && day.isBefore(earliest))
            || (latest != null && day.isAfter(latest));
    return !out
        ? Optional.empty()
        : Optional.of(
            earliest == null && latest == null
                ? problem(question, "day", "Write a day as 2027-03-31.")
                : problem(question, "range", range(earliest, latest)));
  }
}
