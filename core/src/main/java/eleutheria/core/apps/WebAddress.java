package eleutheria.core.apps;

import com.ibm.icu.text.IDNA;
import com.ibm.icu.text.SpoofChecker;
import eleutheria.core.ledger.Problem;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Addresses that somebody typed for others to open: absolute http or https addresses of a host (RFC
 * 3986), without a name or password in them, and not written so as to be taken for another
 * (Unicode, UTS 39).
 */
public final class WebAddress {
  public static final int LONGEST = 1_000;

  private static final SpoofChecker LOOKS =
      new SpoofChecker.Builder()
          .setChecks(SpoofChecker.RESTRICTION_LEVEL)
          .setRestrictionLevel(SpoofChecker.RestrictionLevel.HIGHLY_RESTRICTIVE)
          .build();
  private static final IDNA NAMES =
      IDNA.getUTS46Instance(IDNA.NONTRANSITIONAL_TO_UNICODE | IDNA.CHECK_BIDI);

  private WebAddress() {}

  /** Everything that is wrong with an address. */
  public static List<Problem> problems(String field, String address) {
    String text = address.strip();
    List<Problem> problems = new ArrayList<>();
    AppDecisions.length(problems, field, text, LONGEST);
    try {
      URI uri = new URI(text);
      boolean web =
          "https".equalsIgnoreCase(uri.getScheme()) || "http".equalsIgnoreCase(uri.getScheme());
      if (!web || uri.getHost() == null) {
        problems.add(
            Problem.invalid(
                "app.address", field, "An address begins with https:// and names a host."));
      } else if (uri.getUserInfo() != null) {
        problems.add(
            Problem.invalid("app.address", field, "A name or password has no place in it."));
      } else {
        lookAlike(problems, field, uri.getHost());
      }
    } catch (URISyntaxException e) {
      problems.add(
          Problem.invalid(
              "app.address",
              field,
              "It cannot be read as an address: character %d is wrong."
                  .formatted(e.getIndex() + 1)));
    }
    return problems;
  }

  /** A host in other letters is refused where it could be taken for one in Latin letters. */
  private static void lookAlike(List<Problem> problems, String field, String host) {
    IDNA.Info info = new IDNA.Info();
    String read = NAMES.nameToUnicode(host, new StringBuilder(), info).toString();
    if (info.hasErrors() && host.toLowerCase(Locale.ROOT).contains("xn--")) {
      problems.add(
          Problem.invalid("app.address", field, "“%s” is no name of a host.".formatted(host)));
      return;
    }
    for (String label : read.split("\\.")) {
      if (label.chars().allMatch(c -> c < 128)) {
        continue;
      }
      String looks = LOOKS.getSkeleton(label);
      if (LOOKS.failsChecks(label) || looks.chars().allMatch(c -> c < 128)) {
        problems.add(
            Problem.invalid(
                "app.address",
                field,
                "“%s” is written with letters that are taken for others; it is really %s."
                    .formatted(read, host)));
        return;
      }
    }
  }
}
