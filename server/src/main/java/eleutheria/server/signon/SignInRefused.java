package eleutheria.server.signon;

import eleutheria.server.problems.ProblemView;
import java.time.Duration;
import java.util.List;

/** Why someone is not signed in; never whether an account exists. */
public final class SignInRefused extends RuntimeException {
  private final transient ProblemView view;

  private SignInRefused(ProblemView view) {
    super(view.detail(), null, false, false);
    this.view = view;
  }

  public ProblemView view() {
    return view;
  }

  static SignInRefused wrong() {
    return of(401, "wrong", "Wrong name or password. Check capital letters; you have five tries.");
  }

  static SignInRefused notActive(String sentence) {
    return of(403, "not-active", sentence);
  }

  static SignInRefused wait(Duration wait) {
    long seconds = Math.max(1, wait.toSeconds());
    String span = seconds < 90 ? seconds + " seconds" : (seconds + 59) / 60 + " minutes";
    return new SignInRefused(
        new ProblemView(
            ProblemView.TYPE + "sign-in.wait",
            "Not signed in",
            429,
            "Too many tries from here; the next is possible in " + span + ".",
            List.of(),
            seconds));
  }

  /** Two accounts share the mail address and the password. */
  static SignInRefused which(List<String> names) {
    return new SignInRefused(
        new ProblemView(
            ProblemView.TYPE + "sign-in.which",
            "Which account?",
            409,
            "Two accounts have this email address. Choose one to sign in with.",
            names.stream().map(n -> new ProblemView.Item("account", n, n)).toList(),
            null));
  }

  private static SignInRefused of(int status, String code, String sentence) {
    return new SignInRefused(ProblemView.of(status, "sign-in." + code, "Not signed in", sentence));
  }
}
