package eleutheria.core.questions;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Saving, changing and dropping questions. What a question asks is not in the ledger, its hash is.
 */
public final class QuestionDecisions {
  public static final int LONGEST_NAME = 120;
  public static final int LONGEST_WHY = 500;

  /** How many questions one person can keep. */
  public static final int MOST = 100;

  private QuestionDecisions() {}

  /**
   * Saves a new question.
   *
   * @param today the day in the organisation's zone
   * @param mine what the person has saved
   */
  public static Outcome<Question> save(
      Moment moment, LocalDate today, Question.Terms terms, Collection<Question> mine) {
    PersonId owner = moment.authority().person();
    if (owner == null) {
      return Outcome.refused(Problem.absent("person"));
    }
    List<Problem> problems = problems(terms, null, mine);
    if (mine.size() >= MOST) {
      problems.add(
          Problem.invalid(
              "question.many",
              "",
              "You keep %d questions already; drop one you do not need.".formatted(MOST)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Question made =
        new Question(
            moment.ids().get(),
            owner,
            terms.name().strip(),
            terms.why().strip(),
            terms.spec(),
            terms.shared(),
            terms.every(),
            terms.every().after(today),
            1,
            moment.at());
    return Outcome.done(act(ActName.QUESTION_SAVE, made), List.of(), made);
  }

  /**
   * Changes a question of one's own.
   *
   * @param version that one has seen
   */
  public static Outcome<Question> change(
      Moment moment,
      LocalDate today,
      Question question,
      int version,
      Question.Terms terms,
      Collection<Question> mine) {
    if (!question.owner().equals(moment.authority().person())) {
      return Outcome.refused(Problem.absent("question of yours"));
    }
    if (question.version() != version) {
      return Outcome.refused(
          Problem.stale("name", "You have changed it elsewhere meanwhile; look at it again."));
    }
    List<Problem> problems = problems(terms, question.id(), mine);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Question next =
        new Question(
            question.id(),
            question.owner(),
            terms.name().strip(),
            terms.why().strip(),
            terms.spec(),
            terms.shared(),
            terms.every(),
            terms.every() == question.every() ? question.next() : terms.every().after(today),
            version + 1,
            moment.at());
    return Outcome.done(act(ActName.QUESTION_CHANGE, next), List.of(), next);
  }

  /** Drops a question of one's own. */
  public static Outcome<Question> drop(Moment moment, Question question) {
    return question.owner().equals(moment.authority().person())
        ? Outcome.done(act(ActName.QUESTION_DROP, question), List.of(), question)
        : Outcome.refused(Problem.absent("question of yours"));
  }

  private static Act act(ActName name, Question question) {
    return Act.of(name, question.owner())
        .with(
            Map.of(
                "question",
                question.id().toString(),
                "spec",
                LedgerChain.hash(question.spec()),
                "shared",
                question.shared() ? "yes" : "no",
                "every",
                question.every().word()));
  }

  private static List<Problem> problems(
      Question.Terms terms, @Nullable UUID id, Collection<Question> mine) {
    List<Problem> problems = new ArrayList<>();
    String name = terms.name().strip();
    if (name.isEmpty()) {
      problems.add(Problem.invalid("question.no-name", "name", "Give it a name."));
    } else if (name.length() > LONGEST_NAME) {
      problems.add(
          Problem.invalid("too-long", "name", "At most %d characters.".formatted(LONGEST_NAME)));
    } else if (mine.stream().anyMatch(q -> !q.id().equals(id) && q.name().equals(name))) {
      problems.add(
          Problem.invalid(
              "question.name-taken", "name", "You have saved another under this name."));
    }
    if (terms.why().strip().length() > LONGEST_WHY) {
      problems.add(
          Problem.invalid("too-long", "why", "At most %d characters.".formatted(LONGEST_WHY)));
    }
    return problems;
  }
}
