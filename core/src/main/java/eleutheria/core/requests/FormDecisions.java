package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Setting what whoever asks is asked. A form is for one entitlement, an application, a sensitivity,
 * or everything; the narrowest counts. A request keeps the questions that it answered.
 */
public final class FormDecisions {
  public static final int MOST_CHOICES = 50;

  public static final int LONGEST_CHOICE = 100;

  private static final BigDecimal FARTHEST = BigDecimal.valueOf(999_999_999_999L);

  private FormDecisions() {}

  /**
   * @param base what was set for the scope itself when the form was changed; null for nothing
   */
  public static Outcome<String> set(
      Moment moment,
      RequestScope scope,
      FactValue.@Nullable RequestForm base,
      FactValue.RequestForm wanted,
      String reason) {
    Optional<Problem> shut = shut(moment, scope, base);
    if (shut.isPresent()) {
      return Outcome.refused(shut.get());
    }
    List<Problem> problems = new ArrayList<>(problems(moment.directory(), wanted));
    RequestScopes.reasonProblem("request-form", reason).ifPresent(problems::add);
    if (wanted.equals(base)) {
      problems.add(Problem.invalid("request-form.same", "questions", "Nothing is different."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.RequestForm(scope), wanted);
    return RequestScopes.done(ActName.REQUEST_FORM_SET, scope, edits.list(), reason);
  }

  /** Leaves a scope to the wider ones again. */
  public static Outcome<String> clear(
      Moment moment, RequestScope scope, FactValue.@Nullable RequestForm base, String reason) {
    Optional<Problem> shut = shut(moment, scope, base);
    if (shut.isPresent()) {
      return Outcome.refused(shut.get());
    }
    List<Problem> problems = new ArrayList<>();
    RequestScopes.reasonProblem("request-form", reason).ifPresent(problems::add);
    if (base == null) {
      problems.add(Problem.absent("form"));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.RequestForm(scope));
    return RequestScopes.done(ActName.REQUEST_FORM_CLEAR, scope, edits.list(), reason);
  }

  private static Optional<Problem> shut(
      Moment moment, RequestScope scope, FactValue.@Nullable RequestForm base) {
    return RequestScopes.shut(
        moment, scope, "form", AccessView.at(moment).apps().formOf(scope).orElse(null), base);
  }

  /**
   * What is wrong with a form, whoever asks. A problem of a question has the field {@code
   * questions.n.part}, counted from 0.
   */
  public static List<Problem> problems(DirectoryView directory, FactValue.RequestForm form) {
    List<Problem> problems = new ArrayList<>(termProblems(form.term()));
    if (form.questions().size() > FactValue.RequestForm.MOST) {
      problems.add(
          Problem.invalid(
              "request-form.many",
              "questions",
              "A form has at most %d questions.".formatted(FactValue.RequestForm.MOST)));
      return problems;
    }
    Set<String> keys = new HashSet<>();
    for (int at = 0; at < form.questions().size(); at++) {
      Question question = form.questions().get(at);
      Wrong wrong = new Wrong(problems, at);
      wrong.words(question);
      wrong.key(question.key(), keys.add(question.key()), directory);
      wrong.kind(question);
      if (!question.shownWhen().isBlank()
          && FilterParser.parse(question.shownWhen(), AskedForm.schema(form, question, directory))
              instanceof FilterParser.Parsed.Bad bad) {
        wrong.add("shownWhen", bad.message());
      }
    }
    return problems;
  }

  private static List<Problem> termProblems(Term term) {
    List<Problem> problems = new ArrayList<>();
    boolean whole =
        term.choices().stream().allMatch(days -> days >= 1 && days <= Term.LONGEST)
            && List.copyOf(new TreeSet<>(term.choices())).equals(term.choices());
    if (!whole || term.choices().size() > Term.MOST_CHOICES) {
      problems.add(
          Problem.invalid(
              "request-form.choices",
              "term.choices",
              "At most %d numbers of days, each larger than the one before, from 1 to %,d."
                  .formatted(Term.MOST_CHOICES, Term.LONGEST)));
    }
    Integer most = term.most();
    if (most != null && (most < 1 || most > Term.LONGEST)) {
      problems.add(
          Problem.invalid(
              "request-form.most", "term.most", "From 1 to %,d days.".formatted(Term.LONGEST)));
    } else if (most != null && term.choices().stream().anyMatch(days -> days > most)) {
      problems.add(
          Problem.invalid(
              "request-form.over",
              "term.choices",
              "Nothing longer than %d days can be chosen.".formatted(most)));
    }
    return problems;
  }

  /** What is wrong with one question. */
  private record Wrong(List<Problem> problems, int at) {
    void add(String part, String sentence) {
      problems.add(
          Problem.invalid(
              "request-form." + part.toLowerCase(Locale.ROOT),
              "questions.%d.%s".formatted(at, part),
              sentence));
    }

    void words(Question question) {
      if (question.label().isBlank()) {
        add("label", "Write what is asked.");
      } else if (question.label().length() > Question.LONGEST_LABEL) {
        add("label", "At most %d characters.".formatted(Question.LONGEST_LABEL));
      }
      if (question.help().length() > Question.LONGEST_HELP) {
        add("help", "At most %d characters.".formatted(Question.LONGEST_HELP));
      }
    }

    void key(String key, boolean fresh, DirectoryView directory) {
      if (!key.matches(Question.KEY)) {
        add("key", "A letter, then letters, digits and hyphens; at most 40, in lower case.");
      } else if (!fresh) {
        add("key", "Another question has this key.");
      } else if (directory.definitions().keySet().stream().anyMatch(key::equalsIgnoreCase)) {
        add("key", "An attribute has this name; choose another.");
      }
    }

    void kind(Question question) {
      switch (question.kind()) {
        case Question.ShortText k -> {
          if (k.looksLike().length() > LONGEST_CHOICE) {
            add("looksLike", "At most %d characters.".formatted(LONGEST_CHOICE));
          }
        }
        case Question.Number k -> {
          if (far(k.least()) || far(k.most())) {
            add("least", "Numbers have at most twelve digits and three decimal places.");
          } else if (k.least() != null && k.most() != null && k.least().compareTo(k.most()) > 0) {
            add("least", "The smallest is larger than the largest.");
          }
        }
        case Question.Day k -> {
          if (far(k.earliest()) || far(k.latest())) {
            add("earliest", "A day lies within %,d days.".formatted(Question.Day.FARTHEST));
          } else if (k.earliest() != null && k.latest() != null && k.earliest() > k.latest()) {
            add("earliest", "The first day is after the last.");
          }
        }
        case Question.OneOf k -> choices(k.choices());
        case Question.SeveralOf k -> choices(k.choices());
        case Question.LongText k -> {}
        case Question.YesNo k -> {}
        case Question.Colleague k -> {}
      }
    }

    private static boolean far(@Nullable BigDecimal limit) {
      return limit != null && (limit.abs().compareTo(FARTHEST) > 0 || limit.scale() > 3);
    }

    private static boolean far(@Nullable Integer days) {
      return days != null && Math.abs((long) days) > Question.Day.FARTHEST;
    }

    private void choices(List<String> choices) {
      boolean clean =
          choices.stream()
              .allMatch(
                  each ->
                      !each.isBlank()
                          && each.equals(each.strip())
                          && each.length() <= LONGEST_CHOICE);
      if (choices.size() < 2 || choices.size() > MOST_CHOICES) {
        add("choices", "From 2 to %d choices.".formatted(MOST_CHOICES));
      } else if (!clean) {
        add("choices", "Each choice has from 1 to %d characters.".formatted(LONGEST_CHOICE));
      } else if (new HashSet<>(choices).size() < choices.size()) {
        add("choices", "Two choices are the same.");
      }
    }
  }
}
