package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/**
 * Every address of desk and portal, with the demo in it: nothing lies on anything else, nothing is
 * cut or torn, nothing is behind what stays in its place, each has a title of its own, and axe
 * finds nothing. {@code -Dviews=all} ({@code ./check --long}) looks at more widths, in dark, and at
 * twice the size.
 */
class EveryViewJourneyTest {
  private static final boolean ALL = "all".equals(System.getProperty("views"));

  /** Addresses that show nothing of their own, or what the walk cannot reach. */
  private static final Set<String> ELSEWHERE =
      Set.of(
          // They lead on.
          "/go/:tile",
          "/*",
          "/desk/*",
          "/sign-in",
          // With a one-time link alone: SliceJourneyTest.
          "/welcome",
          // A file is there once somebody has given one: ImportJourneyTest.
          "/desk/deliveries/:id",
          // Somebody's departure: SliceJourneyTest.
          "/desk/departures/:id");

  private record View(String route, String address) {}

  @Test
  void everyAddressIsAsItShouldBe() throws IOException {
    try (Browser browser = new Browser()) {
      List<String> wrong = new ArrayList<>();
      look(browser, new View("/sign-in", "/sign-in"), wrong);
      browser.axe();
      browser.axeInDark();
      browser.signIn("ines.roth");
      String draft = draft(browser);
      List<View> views = views(browser, draft);
      Set<String> walked = new LinkedHashSet<>(ELSEWHERE);
      views.forEach(view -> walked.add(view.route));
      assertThat(walked).as("every route of the web is walked").containsAll(routes());
      try {
        walk(browser, views, wrong);
      } finally {
        browser.made("DELETE", "/api/drafts/" + draft, null);
      }
      assertThat(wrong).isEmpty();
    }
  }

  private static void walk(Browser browser, List<View> views, List<String> wrong) {
    Map<String, String> titles = new LinkedHashMap<>();
    for (View view : views) {
      browser.open(view.address).comes();
      told(browser, view, wrong);
      String title = browser.title();
      if (!title.endsWith(" · Eleutheria") || titles.containsKey(title)) {
        wrong.add(view.address + " is called “" + title + "”, as is " + titles.get(title));
      }
      titles.put(title, view.address);
      browser.axe();
      browser.axeInDark();
      browser.size(390, 844);
      browser.comes();
      told(browser, view, wrong);
      browser.size(1280, 800);
    }
    if (ALL) {
      // Twice the size on a laptop's screen is half its width.
      for (int[] size : new int[][] {{1024, 768}, {320, 640}, {640, 400}}) {
        browser.size(size[0], size[1]);
        views.forEach(view -> look(browser, view, wrong));
      }
      browser.size(1280, 800);
      browser.dark(true);
      views.forEach(view -> look(browser, view, wrong));
    }
    browser.size(1280, 800);
  }

  private static void look(Browser browser, View view, List<String> wrong) {
    browser.open(view.address).comes();
    told(browser, view, wrong);
  }

  private static void told(Browser browser, View view, List<String> wrong) {
    browser.layout().forEach(line -> wrong.add(browser.width() + " " + view.address + ": " + line));
  }

  /** The routes as the web's own files say them. */
  private static Set<String> routes() throws IOException {
    Set<String> found = new LinkedHashSet<>();
    String app = Files.readString(Path.of("../web/src/app/App.tsx"));
    matches("path=\"([^\"]+)\"", app).forEach(found::add);
    matches("'(/[a-z]+[^']*)': beside", app).forEach(found::add);
    String desk = Files.readString(Path.of("../web/src/desk/Desk.tsx"));
    matches("path=\"([^\"]+)\"", desk).forEach(path -> found.add("/desk/" + path));
    found.remove("*");
    assertThat(found).hasSizeGreaterThan(30);
    return found;
  }

  private static List<String> matches(String pattern, String text) {
    return Pattern.compile(pattern).matcher(text).results().map(found -> found.group(1)).toList();
  }

  private static List<View> views(Browser browser, String draft) {
    List<View> views = new ArrayList<>();
    String app = asked(browser, "/api/apps?find=refund", "page => page.lines[0].app.id");
    String role = asked(browser, "/api/apps/" + app, "page => page.entitlements[0].id");
    String mina = browser.idOf("mina.sato");
    String group = asked(browser, "/api/groups?find=counter", "page => page.lines[0].id");
    String rule = asked(browser, "/api/rules", "page => page.rules[0].id");
    views.add(new View("/", "/"));
    views.add(new View("/ask", "/ask"));
    views.add(new View("/ask/:id", "/ask/" + role));
    views.add(new View("/ask/many", "/ask/many"));
    views.add(new View("/requests", "/requests"));
    views.add(new View("/holdings", "/holdings"));
    views.add(new View("/suggest", "/suggest"));
    views.add(new View("/me", "/me"));
    views.add(new View("/closed/:tile", "/closed/" + closedTile(browser, app)));
    views.add(new View("/desk/docket/:kind?/:id?", "/desk/docket"));
    for (String one : cases(browser)) {
      views.add(new View("/desk/docket/:kind?/:id?", "/desk/docket/" + one));
    }
    for (String path :
        List.of(
            "requests",
            "holdings",
            "queries",
            "reports",
            "hints",
            "use",
            "portal",
            "portal/brand",
            "portal/emails",
            "portal/use",
            "portal/where",
            "apps",
            "apps/new",
            "people",
            "groups",
            "deliveries",
            "attributes",
            "ledger",
            "suggestions",
            "rules",
            "routes",
            "forms",
            "drafts")) {
      views.add(new View("/desk/" + path, "/desk/" + path));
    }
    views.add(new View("/desk/queries/:id", "/desk/queries/high"));
    views.add(new View("/desk/apps/:id", "/desk/apps/" + app));
    views.add(new View("/desk/entitlements/:id", "/desk/entitlements/" + role));
    views.add(new View("/desk/people/:id/holdings", "/desk/people/" + mina + "/holdings"));
    views.add(new View("/desk/people/:id", "/desk/people/" + mina));
    views.add(new View("/desk/groups/:id", "/desk/groups/" + group));
    views.add(new View("/desk/ledger/:position", "/desk/ledger/100"));
    views.add(new View("/desk/routes/:scope", "/desk/routes/all"));
    views.add(new View("/desk/forms/:scope", "/desk/forms/all"));
    views.add(new View("/desk/rules/:id", "/desk/rules/" + rule));
    views.add(new View("/desk/drafts/:id", "/desk/drafts/" + draft));
    return views;
  }

  private static String asked(Browser browser, String path, String function) {
    Object found = browser.asked(path, function);
    assertThat(found).as(path).isNotNull();
    return String.valueOf(found);
  }

  /** The first case of each kind that waits for somebody, and one in which many are alike. */
  private static List<String> cases(Browser browser) {
    Object found =
        browser.asked(
            "/api/docket?all=true",
            "docket => [...new Map(docket.folds.map(fold =>"
                + " [fold.cases[0].kind + (fold.cases.length > 3),"
                + " fold.cases[0].kind.toLowerCase() + '/' + fold.cases[0].id]))"
                + ".values()]");
    List<String> all = ((List<?>) found).stream().map(String::valueOf).toList();
    assertThat(all).hasSizeGreaterThan(3);
    return all;
  }

  /** A draft that is there to be looked at, and gathers nothing. */
  private static String draft(Browser browser) {
    String id = browser.made("POST", "/api/drafts", "{\"name\": \"Every view\"}");
    browser.made("PUT", "/api/drafts/" + id + "/gathers", "{\"gathers\": false}");
    return id;
  }

  private static String closedTile(Browser browser, String app) {
    return asked(browser, "/api/apps/" + app, "page => page.tiles[0].id");
  }
}
