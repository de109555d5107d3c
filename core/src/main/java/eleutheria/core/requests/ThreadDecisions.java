package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The thread of a request: what its people say to each other, and asking back, which stops the
 * clock. What is written stands in the thread alone; the ledger says that it was written, and when.
 *
 * <p>Laws: asking back takes nothing from the step's time, and however often somebody asks, gives
 * it at most {@link #LONGEST}; a request that was asked back goes on by itself.
 */
public final class ThreadDecisions {
  /** How long the clock stands at most, at one step. */
  public static final Duration LONGEST = Duration.ofDays(7);

  public static final int LONGEST_TEXT = 2000;

  /** More than these are not a conversation any more. */
  public static final int MOST = 500;

  private ThreadDecisions() {}

  /**
   * The request that follows, and what was written, if anything was.
   *
   * @param message null where only the clock goes on
   */
  public record Spoken(AccessRequest request, @Nullable Message message) {}

  /** Who decides asks something; the clock stands until it is answered. */
  public static Outcome<Spoken> askBack(
      Moment moment, AccessRequest request, List<Message> before, String question) {
    AccessView access = AccessView.at(moment);
    PersonId person = moment.authority().person();
    Optional<Problem> shut = shut(moment, access, request, before);
    if (shut.isPresent() || person == null || !(request.stage() instanceof Stage.Open open)) {
      return Outcome.refused(shut.orElseGet(() -> Problem.absent("request")));
    }
    if (open.from().isAfter(moment.at())) {
      return Outcome.refused(RequestDecisions.notYet());
    }
    List<Problem> problems = textProblems(question, before);
    if (!RequestReaders.mayDecide(moment.authority(), access, request)) {
      problems.add(notYours(access, request, open));
    }
    if (open instanceof Stage.AskedBack asked) {
      problems.add(
          Problem.invalid(
              "request.asked-back",
              "",
              "%s has asked something already, and waits for the answer."
                  .formatted(RequestDecisions.names(access, List.of(asked.by())))));
    }
    Duration most = mayStand(request, open);
    if (open instanceof Stage.Waiting && !most.isPositive()) {
      problems.add(
          Problem.invalid(
              "request.stood",
              "",
              "The clock has stood for %d days at this step already. Write to them instead."
                  .formatted(LONGEST.toDays())));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Stage.AskedBack asked =
        new Stage.AskedBack(
            open.step(),
            open.from(),
            person,
            moment.at(),
            Duration.between(moment.at(), open.lapses()),
            moment.at().plus(most),
            open.passed());
    return spoken(
        moment,
        request.at(asked),
        ActName.REQUEST_ASK_BACK,
        new Message(person, Message.Kind.ASKED, question.strip(), moment.at()),
        request.wish().people().stream()
            .map(one -> tell(one, request, Errand.Tale.ASKED_BACK))
            .toList());
  }

  /** Why nothing can be said here: it is none of theirs, or it is over. */
  static Optional<Problem> shut(
      Moment moment, AccessView access, AccessRequest request, List<Message> before) {
    if (!RequestReaders.readsThread(moment.authority(), access, request, before)) {
      return Optional.of(Problem.absent("request"));
    }
    return request.stage().open()
        ? Optional.empty()
        : Optional.of(RequestDecisions.tooLate(moment, access, request));
  }

  static Problem notYours(AccessView access, AccessRequest request, Stage.Open open) {
    return Problem.forbidden(
        "request.not-yours",
        "This step is for %s to decide."
            .formatted(
                RequestDecisions.names(access, Deciders.of(access, request, open).people())));
  }

  /** For how long the clock may stand still at this step, of all that it may. */
  private static Duration mayStand(AccessRequest request, Stage.Open open) {
    return Duration.between(
        open.lapses(), open.from().plus(request.step(open.step()).patience()).plus(LONGEST));
  }

  /**
   * Somebody writes; where something was asked, what the asker or whom it is for writes is the
   * answer.
   */
  public static Outcome<Spoken> say(
      Moment moment, AccessRequest request, List<Message> before, String text) {
    AccessView access = AccessView.at(moment);
    PersonId person = moment.authority().person();
    Optional<Problem> shut = shut(moment, access, request, before);
    if (shut.isPresent() || person == null) {
      return Outcome.refused(shut.orElseGet(() -> Problem.absent("request")));
    }
    List<Problem> problems = textProblems(text, before);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    if (request.stage() instanceof Stage.AskedBack asked && request.wish().isOf(person)) {
      return spoken(
          moment,
          request.at(goesOn(asked, moment.at())),
          ActName.REQUEST_ANSWER_BACK,
          new Message(person, Message.Kind.ANSWERED, text.strip(), moment.at()),
          tellWhoeverWaits(asked, request, Errand.Tale.ANSWERED));
    }
    return spoken(
        moment,
        request,
        ActName.REQUEST_SAY,
        new Message(person, Message.Kind.SAID, text.strip(), moment.at()),
        List.of());
  }

  /** Who has asked does not need the answer any more; the question stays where it was written. */
  public static Outcome<Spoken> withdrawQuestion(
      Moment moment, AccessRequest request, List<Message> before) {
    AccessView access = AccessView.at(moment);
    if (!RequestReaders.readsThread(moment.authority(), access, request, before)) {
      return Outcome.refused(Problem.absent("request"));
    }
    if (!(request.stage() instanceof Stage.AskedBack asked)) {
      return Outcome.refused(Problem.stale("", "Nothing is waiting for an answer."));
    }
    if (!asked.by().equals(moment.authority().person())) {
      return Outcome.refused(
          Problem.forbidden("request.not-asked", "Only whoever asked can withdraw the question."));
    }
    return spoken(
        moment, request.at(goesOn(asked, moment.at())), ActName.REQUEST_GO_ON, null, List.of());
  }

  /** The clock goes on where nobody has answered; nothing happens to what is not due. */
  public static Optional<Outcome.Done<AccessRequest>> goesOn(
      Moment moment, AccessRequest request, Instant due) {
    if (!(request.stage() instanceof Stage.AskedBack asked) || asked.goesOn().isAfter(due)) {
      return Optional.empty();
    }
    return Optional.of(
        RequestDecisions.done(moment, gone(request), ActName.REQUEST_GO_ON, "", List.of())
            .with(tellWhoeverWaits(asked, request, Errand.Tale.UNANSWERED)));
  }

  /** The same request once its clock goes on, as {@link #goesOn} has decided it. */
  public static AccessRequest gone(AccessRequest request) {
    return request.stage() instanceof Stage.AskedBack asked
        ? request.at(goesOn(asked, asked.goesOn()))
        : request;
  }

  /** An answer that comes when the clock should go on already gives no more time. */
  private static Stage.Waiting goesOn(Stage.AskedBack asked, Instant at) {
    Instant from = at.isBefore(asked.goesOn()) ? at : asked.goesOn();
    return new Stage.Waiting(asked.step(), asked.from(), from.plus(asked.left()), asked.passed());
  }

  private static Outcome.Done<Spoken> spoken(
      Moment moment,
      AccessRequest next,
      ActName act,
      @Nullable Message message,
      List<Errand> errands) {
    AccessRequest after = message == null ? next : next.said();
    Outcome.Done<AccessRequest> done = RequestDecisions.done(moment, after, act, "", List.of());
    return Outcome.done(done.act(), done.edits(), new Spoken(after, message))
        .with(errands)
        .by(done.right());
  }

  /** Whoever has asked, and whoever the step was passed on to meanwhile. */
  private static List<Errand> tellWhoeverWaits(
      Stage.AskedBack asked, AccessRequest request, Errand.Tale tale) {
    Set<PersonId> people = new LinkedHashSet<>(List.of(asked.by()));
    if (asked.passed() != null) {
      people.add(asked.passed().to());
    }
    return people.stream().map(person -> tell(person, request, tale)).toList();
  }

  private static Errand tell(PersonId person, AccessRequest request, Errand.Tale tale) {
    return new Errand.TellOfRequest(person, request.id(), tale, Duration.ZERO);
  }

  static List<Problem> textProblems(String text, List<Message> before) {
    List<Problem> problems = new ArrayList<>();
    if (text.isBlank()) {
      problems.add(Problem.invalid("request.no-text", "text", "Write something first."));
    }
    AppDecisions.length(problems, "text", text, LONGEST_TEXT);
    if (before.size() >= MOST) {
      problems.add(
          Problem.invalid(
              "request.long-thread",
              "",
              "This thread has %d messages, the most it holds.".formatted(MOST)));
    }
    return problems;
  }
}
