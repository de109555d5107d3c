package eleutheria.server.letters;

import eleutheria.core.facts.Duty;
import eleutheria.server.letters.Letter.Action;
import eleutheria.server.letters.Letter.Listed;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Every kind of email. They say what happened and lead to the page; they quote no reasons, which
 * stay where they can be erased.
 */
public final class Kinds {
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.UK);
  private static final String ACCOUNT = "You get this because it is about your account.";

  private Kinds() {}

  public static Letter invitation(
      String organisation, String userName, String link, LocalDate until) {
    return Letter.of(
            "Your account at " + organisation,
            "%s has created an account for you. Your sign-in name is %s."
                .formatted(organisation, userName),
            new Action("Set a password", link),
            ACCOUNT)
        .adding(
            "The link works once, until %s. If it has expired, ask your manager for a new one."
                .formatted(DAY.format(until)));
  }

  public static Letter reset(String organisation, String link, long hours) {
    return Letter.of(
            "Set a new password",
            "An administrator at %s has sent you a link to set a new password."
                .formatted(organisation),
            new Action("Set a new password", link),
            ACCOUNT)
        .adding(
            "The link works once, for %d hours. Setting the password signs you out everywhere else."
                .formatted(hours),
            "If you did not ask for help with signing in, tell an administrator and do not use the"
                + " link.");
  }

  public static Letter oldAddress(String organisation) {
    return Letter.of(
            "Your email address has changed",
            "Your account at %s used this email address until now. Emails about your account now go"
                    .formatted(organisation)
                + " to another address.",
            null,
            ACCOUNT)
        .adding(
            "If that is not right, tell an administrator: someone who reads the new address could"
                + " be sent a link to set your password.");
  }

  /**
   * @param behalf as whose deputy it is for them to decide; null for themselves
   */
  public static Letter toDecide(
      String number, String asker, String title, @Nullable String behalf, String link) {
    return Letter.of(
        "%s: %s asks for %s".formatted(number, asker, title),
        "%s asks for %s. It is for you to decide%s."
            .formatted(asker, title, behalf == null ? "" : " for " + behalf),
        new Action("Decide", link),
        (behalf == null
                ? "You get this because you decide on this request."
                : "You get this because you are deputy for " + behalf + ".")
            + " The docket shows everything waiting for you.");
  }

  public static Letter remind(
      String number, String asker, String title, LocalDate lapses, String link) {
    return Letter.of(
        "%s still waits: %s asks for %s".formatted(number, asker, title),
        "%s asks for %s, and nobody has decided yet. The request lapses on %s."
            .formatted(asker, title, DAY.format(lapses)),
        new Action("Decide", link),
        "You get this because you decide on this request, 7 and 2 days before it lapses.");
  }

  public static Letter deputy(
      String person, Set<Duty> duties, LocalDate from, LocalDate until, String link) {
    return Letter.of(
        "You are deputy for " + person,
        "You are deputy for %s from %s to %s. %s come to you as well."
            .formatted(person, DAY.format(from), DAY.format(until), requests(person, duties)),
        new Action("See what that means", link),
        "You get this because you were named deputy. You can end it at any time.");
  }

  /**
   * What a deputy decides, to begin a sentence with.
   *
   * @param person for whom; null for the reader
   */
  private static String requests(@Nullable String person, Set<Duty> duties) {
    if (duties.size() == Duty.values().length) {
      return person == null ? "Requests that you decide" : "Requests that " + person + " decides";
    }
    return duties.contains(Duty.TEAM)
        ? "Requests from " + (person == null ? "your team" : "the team of " + person)
        : "Requests for apps that " + (person == null ? "you own" : person + " owns");
  }

  public static Letter deputyGiven(
      String deputy, Set<Duty> duties, LocalDate from, LocalDate until, String link) {
    return Letter.of(
        deputy + " is your deputy",
        "An administrator has made %s your deputy from %s to %s. %s go to %s as well."
            .formatted(deputy, DAY.format(from), DAY.format(until), requests(null, duties), deputy),
        new Action("See your deputies", link),
        "You get this because it is about what you decide. You can end it at any time.");
  }

  /** Somebody else has asked for the reader. */
  public static Letter askedForYou(String number, String asker, String title, String link) {
    return Letter.of(
        "%s: %s asks for %s for you".formatted(number, asker, title),
        "%s has asked for %s for you. If you do not need it, you can withdraw the request."
            .formatted(asker, title),
        new Action("See the request", link),
        "You get this because the access is for you.");
  }

  public static Letter granted(Asked asked, @Nullable LocalDate last, String link) {
    return Letter.of(
        asked.holder() == null
            ? "%s: you have %s".formatted(asked.number(), asked.title())
            : "%s: %s has %s".formatted(asked.number(), asked.holder(), asked.title()),
        "%s been granted %s.%s"
            .formatted(
                asked.holder() == null ? "You have" : asked.holder() + " has",
                asked.title(),
                last == null ? "" : " It ends by itself after " + DAY.format(last) + "."),
        new Action(asked.holder() == null ? "Go to your front page" : "See your requests", link),
        asked.why());
  }

  public static Letter refused(Asked asked, String who, String link) {
    return Letter.of(
        "%s: %s was refused".formatted(asked.number(), asked.title()),
        "%s refused %s.".formatted(who, asked.whose()),
        new Action("Read the reason", link),
        asked.why());
  }

  public static Letter lapsed(Asked asked, String link) {
    return Letter.of(
        "%s: nobody decided on %s in time".formatted(asked.number(), asked.title()),
        "Nobody decided on %s in time, so it has lapsed.".formatted(asked.whose()),
        new Action("Ask again", link),
        asked.why());
  }

  public static Letter askedBack(Asked asked, String who, LocalDate goesOn, String link) {
    return Letter.of(
        "%s: %s has a question".formatted(asked.number(), who),
        "%s has a question about %s. It waits for an answer until %s; after that, it may be decided without one."
            .formatted(who, asked.whose(), DAY.format(goesOn)),
        new Action("Read the question and answer", link),
        asked.why());
  }

  public static Letter answered(String number, String asker, String title, String link) {
    return Letter.of(
        "%s: %s has answered".formatted(number, asker),
        "%s has answered the question about the request for %s. The clock is running again."
            .formatted(asker, title),
        new Action("Read the answer", link),
        "You get this because you asked the question or decide this request.");
  }

  public static Letter unanswered(String number, String asker, String title, String link) {
    return Letter.of(
        "%s: no answer from %s".formatted(number, asker),
        "There is no answer to the question about the request for %s. The clock is running again."
            .formatted(title),
        new Action("Open the request", link),
        "You get this because you asked the question or decide this request.");
  }

  public static Letter endsSoon(String title, LocalDate last, String link) {
    return Letter.of(
        "%s ends soon".formatted(title),
        "%s ends by itself after %s. If you need it for longer, ask to keep it."
            .formatted(title, DAY.format(last)),
        new Action("Ask to keep it", link),
        "You get this 14 days, 3 days and 1 day before something you asked for ends, unless you have asked to keep it.");
  }

  public static Letter accepted(String number, String name, String link) {
    return Letter.of(
        "%s: %s has been accepted".formatted(number, name),
        "%s, which you suggested, has been accepted. It is on your front page.".formatted(name),
        new Action("Go to your front page", link),
        "You get this because you suggested the app.");
  }

  public static Letter declined(String number, String name, String link) {
    return Letter.of(
        "%s: %s has been declined".formatted(number, name),
        "%s, which you suggested, has been declined.".formatted(name),
        new Action("Read the reason", link),
        "You get this because you suggested the app.");
  }

  public static Letter problemAnswered(String number, String tile, String link) {
    return Letter.of(
        "%s: an answer about %s".formatted(number, tile),
        "There is an answer to the problem you reported with %s.".formatted(tile),
        new Action("Read the answer", link),
        "You get this because you reported the problem.");
  }

  /**
   * @param from when it changes; null where it has changed
   */
  public static Letter accessChanged(
      List<String> gained, List<String> lost, @Nullable String from, String link) {
    boolean will = from != null;
    String subject =
        lost.isEmpty()
            ? (will ? "You will have access to " : "You have access to ") + first(gained)
            : gained.isEmpty()
                ? "Your access to " + first(lost) + (will ? " will end" : " has ended")
                : will ? "Your access will change" : "Your access has changed";
    List<Listed> lists = new ArrayList<>();
    if (!gained.isEmpty()) {
      lists.add(
          new Listed(will ? "From %s you can open".formatted(from) : "You can now open", gained));
    }
    if (!lost.isEmpty()) {
      lists.add(
          new Listed(
              will ? "From %s you can no longer open".formatted(from) : "You can no longer open",
              lost));
    }
    return Letter.of(
            subject,
            will
                ? "An administrator has scheduled a change."
                : "An administrator has made a change.",
            new Action("See your access, and whom to ask", link),
            "You get this once for each change that affects you, where the administrator chose to"
                + " tell those affected.")
        .listing(lists);
  }

  public static Letter query(String name, long lines, String every, String link) {
    return Letter.of(
        "%s: %d %s".formatted(name, lines, lines == 1 ? "line" : "lines"),
        "“%s” now has %d %s.".formatted(name, lines, lines == 1 ? "line" : "lines"),
        new Action("See them", link),
        sentEvery(every));
  }

  public static Letter queryFailed(String name, String problem, String every, String link) {
    return Letter.of(
        "%s cannot be answered".formatted(name),
        "“%s” cannot be answered: %s".formatted(name, problem),
        new Action("Open the query", link),
        sentEvery(every));
  }

  private static String sentEvery(String every) {
    return "You get this every %s, because you asked for it; the query’s page is where you change that."
        .formatted(every);
  }

  private static String first(List<String> titles) {
    return titles.isEmpty()
        ? "nothing new"
        : titles.size() == 1
            ? titles.getFirst()
            : "%s and %d more".formatted(titles.getFirst(), titles.size() - 1);
  }

  /** A letter with its kind in words, for those who want to see what people get. */
  public record Sample(String kind, String title, Letter letter) {}

  /** One letter of every kind, with made-up names. */
  public static List<Sample> samples(String organisation, String base, LocalDate today) {
    return List.of(
        new Sample(
            "invitation",
            "Invitation",
            invitation(organisation, "oda.brekke", base + "/welcome/example", today.plusDays(14))),
        new Sample("reset", "New password", reset(organisation, base + "/welcome/example", 24)),
        new Sample("old-address", "Email address changed", oldAddress(organisation)),
        new Sample(
            "to-decide",
            "Request to decide",
            toDecide(
                "R-2041", "Oda Brekke", "Refund Bench · Approver", null, base + "/desk/docket")),
        new Sample(
            "remind",
            "Request still waiting",
            remind(
                "R-2041",
                "Oda Brekke",
                "Refund Bench · Approver",
                today.plusDays(2),
                base + "/desk/docket")),
        new Sample(
            "deputy",
            "Named as deputy",
            deputy(
                "Lena Aho",
                Set.of(Duty.values()),
                today.plusDays(3),
                today.plusDays(17),
                base + "/me")),
        new Sample(
            "deputy-given",
            "Given a deputy",
            deputyGiven("Nils Sand", Set.of(Duty.TEAM), today, today.plusDays(14), base + "/me")),
        new Sample(
            "asked-for-you",
            "Request made for someone",
            askedForYou("R-2041", "Lena Aho", "Refund Bench · Approver", base + "/requests")),
        new Sample(
            "asked-back",
            "Question about a request",
            askedBack(
                Asked.own("R-2041", "Refund Bench · Approver"),
                "Lena Aho",
                today.plusDays(7),
                base + "/requests")),
        new Sample(
            "answered",
            "Answer to a question",
            answered("R-2041", "Oda Brekke", "Refund Bench · Approver", base + "/desk/docket")),
        new Sample(
            "unanswered",
            "No answer to a question",
            unanswered("R-2041", "Oda Brekke", "Refund Bench · Approver", base + "/desk/docket")),
        new Sample(
            "granted",
            "Request granted",
            granted(
                Asked.own("R-2041", "Refund Bench · Approver"), today.plusDays(45), base + "/")),
        new Sample(
            "refused",
            "Request refused",
            refused(
                Asked.forOther("R-2041", "Refund Bench · Approver", "Oda Brekke"),
                "Petra Lindholm",
                base + "/requests")),
        new Sample(
            "lapsed",
            "Request lapsed",
            lapsed(Asked.own("R-2041", "Refund Bench · Approver"), base + "/ask")),
        new Sample(
            "ends-soon",
            "Access ends soon",
            endsSoon("Refund Bench · Approver", today.plusDays(14), base + "/ask")),
        new Sample("accepted", "Suggestion accepted", accepted("S-1004", "Cable Map", base + "/")),
        new Sample(
            "declined", "Suggestion declined", declined("S-1004", "Cable Map", base + "/requests")),
        new Sample(
            "problem-answered",
            "Answer to a problem",
            problemAnswered("P-1002", "Quaynotes", base + "/requests")),
        new Sample(
            "access-changed",
            "Access changed",
            accessChanged(
                List.of("Farebox · Seller", "Fare Table · Reader"),
                List.of("Manifest Desk · Viewer"),
                null,
                base + "/holdings")),
        new Sample(
            "access-will-change",
            "Access will change",
            accessChanged(
                List.of("Farebox · Seller"),
                List.of(),
                DAY.format(today.plusDays(7)),
                base + "/holdings")),
        new Sample(
            "query",
            "Scheduled query",
            query("Who could do both", 3, "week", base + "/desk/queries")));
  }
}
