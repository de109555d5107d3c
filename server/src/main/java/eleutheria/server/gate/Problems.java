package eleutheria.server.gate;

import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.signon.Passwords;
import eleutheria.server.signon.SignInRefused;
import eleutheria.server.web.SecurityLog;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.transaction.TransactionException;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.multipart.MultipartException;

/** Turns what went wrong into problem answers; nothing of the inside leaks. */
@RestControllerAdvice
public class Problems {
  private static final Logger log = LoggerFactory.getLogger(Problems.class);

  private final SecurityLog security;

  Problems(SecurityLog security) {
    this.security = security;
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> refused(Refusal refusal, HttpServletRequest request) {
    List<ProblemView.Item> items = refusal.problems().stream().map(ProblemView.Item::of).toList();
    Problem first = refusal.problems().getFirst();
    int status =
        switch (worst(refusal.problems())) {
          case FORBIDDEN -> 403;
          case ABSENT -> 404;
          case STALE -> 409;
          case INVALID -> 422;
        };
    if (status == 403) {
      security.refused(request, Gate.known(request), first.code());
    }
    return answer(
        new ProblemView(
            ProblemView.TYPE + first.code(), "Not done", status, first.sentence(), items, null));
  }

  private static Problem.Kind worst(List<Problem> problems) {
    for (Problem.Kind kind :
        List.of(Problem.Kind.FORBIDDEN, Problem.Kind.ABSENT, Problem.Kind.STALE)) {
      if (problems.stream().anyMatch(p -> p.kind() == kind)) {
        return kind;
      }
    }
    return Problem.Kind.INVALID;
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> signedOut(Gate.SignedOut e) {
    return answer(ProblemView.of(401, "signed-out", "Signed out", "Sign in to continue."));
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> notFresh(FreshSignIn.NotFresh e) {
    return answer(
        ProblemView.of(
            403,
            "fresh-sign-in",
            "Password needed again",
            "This needs a sign-in that is at most 10 minutes old."));
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> signIn(SignInRefused e, HttpServletRequest request) {
    security.signIn(request, null, e.view().type().replace(ProblemView.TYPE, ""));
    return answer(e.view());
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> busy(Passwords.Busy e) {
    return answer(
        new ProblemView(
            ProblemView.TYPE + "sign-in.busy",
            "Many people are signing in",
            503,
            "%d others are ahead of you; try again in a moment.".formatted(e.waiting()),
            List.of(),
            5L));
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> tooLarge(MaxUploadSizeExceededException e) {
    return answer(
        ProblemView.of(
            413,
            "file.too-large",
            "Not read",
            "The file is larger than 20 MB. Split it into files of “these rows”."));
  }

  @ExceptionHandler({
    IllegalArgumentException.class,
    TypeMismatchException.class,
    MultipartException.class,
    HttpMessageNotReadableException.class
  })
  ResponseEntity<ProblemView> illegal(Exception e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof Incoming.TooLong tooLong) {
        return answer(tooLong.view());
      }
    }
    log.debug("refused", e);
    return answer(ProblemView.of(400, "malformed", "Not understood", "A value is malformed."));
  }

  // Whether an act was done is not certain if the answer to its commit is what was lost.
  @ExceptionHandler({DataAccessException.class, TransactionException.class})
  ResponseEntity<ProblemView> database(Exception e) {
    log.error("The database did not answer", e);
    return answer(
        new ProblemView(
            ProblemView.TYPE + "database",
            "No answer",
            503,
            "The database is not answering. Try again in a moment; if you were changing something, check first whether it was done.",
            List.of(),
            5L));
  }

  /** A browser closed its stream; there is nobody to answer. */
  @ExceptionHandler
  void gone(AsyncRequestNotUsableException e) {
    log.debug("a stream was closed", e);
  }

  @ExceptionHandler
  ResponseEntity<ProblemView> other(Exception e) {
    if (e instanceof ErrorResponse known) {
      return answer(ProblemWriter.of(known.getStatusCode().value()));
    }
    log.error("Unexpected", e);
    return answer(ProblemWriter.of(500));
  }

  static ResponseEntity<ProblemView> answer(ProblemView view) {
    HttpHeaders headers = new HttpHeaders();
    headers.setContentType(MediaType.APPLICATION_PROBLEM_JSON);
    if (view.retryAfterSeconds() != null) {
      headers.set(HttpHeaders.RETRY_AFTER, view.retryAfterSeconds().toString());
    }
    return new ResponseEntity<>(view, headers, HttpStatusCode.valueOf(view.status()));
  }
}
