package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.support.ui.Select;

/** The map of holdings, and what an auditor asks. */
class HoldingsJourneyTest {
  private static final String WHY = "Reason (kept in the ledger)";
  private static final String FIND = "Find people, groups, apps, entitlements and requests";

  private static void gives(Browser ines, String role, String... people) {
    for (String person : people) {
      ines.made(
          "POST",
          "/api/entitlements/" + role + "/grants",
          "{\"subjects\": [{\"kind\": \"person\", \"id\": \"%s\"}], \"reason\": \"for the season\"}"
              .formatted(ines.idOf(person)));
    }
  }

  /** What is marked on the map ends in a draft, and is reverted. */
  @Test
  void fromTheMapToADraftAndBack() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      String role = ines.role(ines.app("Mooring Log", "petra.lindholm"));
      gives(ines, role, "oda.brekke", "lena.aho", "jonas.weir");
      ines.open("/desk/holdings?entitlements=" + role);
      ines.sees("3 holdings");
      // By keyboard: into the grid, to Ticketing, and open it.
      WebElement grid = ines.find("//*[@role='grid']");
      grid.sendKeys(Keys.ARROW_DOWN);
      for (int i = 0; i < 12 && !marked(ines).startsWith("Ticketing"); i++) {
        grid.sendKeys(Keys.ARROW_DOWN);
      }
      assertThat(marked(ines)).isEqualTo("Ticketing, Mooring Log · User: 2");
      ines.sees("held by 2 of 28 here; 1 more elsewhere");
      grid.sendKeys(Keys.ENTER);
      ines.find("//*[@role='rowheader']//button[contains(., 'Brekke, Oda')]");
      ines.sees("26 others hold none of it");
      ines.axe();
      ines.press("End all 2");
      ines.sees("2 holdings end.");
      ines.type(WHY, "The season is over");
      ines.sees("2 people lose Mooring Log · User");
      ines.axe();
      ines.press("Make it a draft");
      ines.follow("See consequences");
      ines.heading("Consequences");
      ines.type(WHY, "The season is over");
      ines.press("Publish now");
      ines.heading("It is in force");
      String published = ines.address();
      ines.open("/desk/holdings?entitlements=" + role);
      ines.sees("1 holding");
      ines.open(published.substring(published.indexOf("/desk/")));
      ines.press("Revert");
      ines.sees("All of it can be reverted.");
      ines.type(WHY, "It goes on until Sunday");
      ines.press("Publish now");
      ines.heading("It is in force");
      // The table says the same as the map, at the same address.
      ines.open("/desk/holdings?entitlements=" + role);
      ines.sees("3 holdings");
      ines.press("As table");
      ines.find("//*[@role='row'][contains(., 'Ticketing') and contains(., '2 of 28')]");
      ines.axe();
    }
  }

  private static String marked(Browser browser) {
    Object label =
        browser.script(
            "const on = document.querySelector('.map-cell.on');"
                + "return on === null ? '' : on.getAttribute('aria-label')");
    return String.valueOf(label).replaceAll(" of 28.*", "");
  }

  /** A hint becomes a rule that moves nobody. */
  @Test
  void aHintBecomesARuleThatMovesNobody() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      // Everybody who is in the unit by now: other pieces of work may have moved somebody.
      String role = ines.role(ines.app("Ladder Log", "petra.lindholm"));
      String safety =
          String.valueOf(
              ines.asked(
                  "/api/people?unit=Safety&limit=200",
                  "page => JSON.stringify(page.lines.filter(one => one.status !== 'departed').map(one => ({kind: 'person', id: one.id})))"));
      ines.made(
          "POST",
          "/api/entitlements/" + role + "/grants",
          "{\"subjects\": %s, \"reason\": \"one by one\"}".formatted(safety));
      ines.open("/desk/hints");
      String line = "//li[contains(., 'Ladder Log · User') and contains(., 'grants of their own')]";
      ines.click(line + "//summary[.='Exact filter']");
      ines.find(line + "//code[.='unit eq \"Safety\"']");
      ines.axe();
      ines.click(line + "//button[.='Draft: one filter instead']");
      ines.heading("Consequences");
      ines.find("//*[normalize-space()='0gain access' or normalize-space()='0 gain access']");
      ines.find("//*[normalize-space()='0lose access' or normalize-space()='0 lose access']");
      ines.sees("lose a ground, keep access");
      ines.press("Discard");
      ines.press("Discard 2 edits");
      ines.heading("Drafts");
      ines.open("/desk/hints");
      ines.click("//li[contains(., 'Counter leads')]//button[.='Dismiss']");
      ines.type("Why it can stay as it is", "Until the counter is rebuilt");
      ines.click("//*[@role='dialog']//button[@type='submit']");
      ines.press("Dismissed (1)");
      ines.sees("Until the counter is rebuilt");
      ines.press("Show it again");
      ines.sees("Nothing has been dismissed");
    }
  }

  /** A manager sees their team, and nothing that is not theirs. */
  @Test
  void aManagersMapIsTheirTeam() {
    try (Browser lena = new Browser()) {
      lena.signIn("lena.aho").open("/desk/holdings");
      lena.find("//*[@role='rowheader']//button[contains(., 'Ticketing')]");
      lena.seesNot("Deck crew412");
      lena.open("/desk/holdings?open=Ticketing");
      lena.find("//*[@role='rowheader']//button[contains(., 'Brekke, Oda')]");
      lena.seesNot("End all");
      lena.open("/desk/use");
      lena.seesNot("Sign-ins by week");
    }
  }

  /** A report is downloaded, and checked later by its file. */
  @Test
  void aReportIsCheckedLater() throws IOException {
    try (Browser jonas = new Browser()) {
      jonas.signIn("jonas.weir").open("/desk/queries");
      jonas.heading("Queries");
      jonas.axe();
      jonas.follow("Who holds high-sensitivity access");
      jonas.sees("People by unit");
      jonas.axe();
      jonas.press("Download");
      jonas.press("CSV, for spreadsheets");
      Path file = jonas.download(".csv");
      assertThat(Files.readString(file)).startsWith("person,unit,app,role,grounds,givenBy");
      jonas.open("/desk/reports");
      jonas.find("//input[@type='file']").sendKeys(file.toString());
      jonas.sees("Genuine.");
      jonas.sees("The file is the one that was downloaded, byte for byte.");
      jonas.axe();
      Path other = Files.writeString(file.resolveSibling("other.csv"), "person,unit\r\n");
      jonas.find("//input[@type='file']").sendKeys(other.toString());
      jonas.sees("No report with exactly these bytes was downloaded here");
      // Saved under a name, shared, and found by somebody else.
      jonas.open("/desk/queries/new?sensitivities=high&only=hand");
      jonas.press("Save");
      jonas.type("Name", "High sensitivity, by an administrator");
      jonas.tick("Share it: everyone who may see holdings finds it");
      jonas.click("//*[@role='dialog']//button[@type='submit']");
      jonas.heading("High sensitivity, by an administrator");
    }
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/queries");
      ines.sees("by Jonas Weir");
      ines.follow("High sensitivity, by an administrator");
      ines.sees("Shows high sensitivity; granted by an administrator");
    }
  }

  /** Light and dark, map and figures. */
  @Test
  void everyViewIsReadable() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/holdings?open=Ticketing");
      ines.find("//*[@role='rowheader']//button[contains(., 'Brekke, Oda')]");
      ines.axe();
      for (String path : new String[] {"/desk/holdings?against=" + Stage.today().minusDays(30)}) {
        ines.open(path);
        ines.find("//*[@role='grid']//*[@role='gridcell']");
        ines.axe();
      }
      ines.open("/desk/use");
      ines.heading("Use by app");
      ines.axe();
      ines.open("/desk/people?find=oda.brekke");
      ines.follow("Brekke, Oda");
      ines.open(
          "/desk/people/" + ines.address().replaceAll(".*/people/([^?/]+).*", "$1") + "/holdings");
      ines.heading("Use");
      ines.axe();
    }
  }

  // ---- ten queries, each in at most five actions

  /** Somebody at the desk who counts what they do: a key, a click, a text typed, a choice made. */
  private static final class Auditor implements AutoCloseable {
    private final Browser browser = new Browser();
    private int actions;

    Auditor() {
      browser.signIn("ines.roth");
    }

    Auditor asks() {
      browser.open("/desk/docket");
      browser.sees("Docket");
      actions = 0;
      return this;
    }

    private Auditor did(Runnable act) {
      actions++;
      act.run();
      return this;
    }

    Auditor opens(String part, String what) {
      did(() -> browser.keys("/"));
      did(() -> browser.type(FIND, part));
      return did(() -> browser.click("//*[@role='option'][.//b[.='" + what + "']]"));
    }

    Auditor follows(String link) {
      return did(() -> browser.follow(link));
    }

    Auditor clicks(String xpath) {
      return did(() -> browser.click(xpath));
    }

    Auditor chooses(String label, String option) {
      return did(
          () ->
              new Select(
                      browser.find(
                          "//label[starts-with(normalize-space(), '" + label + "')]/select"))
                  .selectByVisibleText(option));
    }

    void sees(String... texts) {
      for (String text : texts) {
        browser.sees(text);
      }
      assertThat(actions).isLessThanOrEqualTo(5);
    }

    @Override
    public void close() {
      browser.close();
    }
  }

  @Test
  void tenQueriesAreAnsweredInFiveActions() {
    String month =
        Stage.today()
            .minusMonths(8)
            .format(DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH));
    try (Auditor auditor = new Auditor()) {
      auditor
          .asks()
          .opens("refund bench · app", "Refund Bench · Approver")
          .follows("As a list, with since, why and last use")
          .sees("Held since", "Last used", "Grounds", "Aho, Lena");
      auditor
          .asks()
          .opens("refund bench · app", "Refund Bench · Approver")
          .chooses("held", "at any time in " + month)
          .sees("any time from", "Held");
      auditor
          .asks()
          .opens("refund bench · app", "Refund Bench · Approver")
          .clicks("//*[@role='row']//button[.='Aho, Lena']")
          .sees("2 grounds", "by Ines Roth");
      auditor
          .asks()
          .follows("Holdings")
          .follows("Queries")
          .follows("Who could do both")
          .sees("Sato, Mina", "accepted until");
      auditor
          .asks()
          .follows("Holdings")
          .follows("Queries")
          .follows("What changed last quarter")
          .sees("gained", "lost");
      auditor
          .asks()
          .follows("Holdings")
          .follows("Queries")
          .follows("Leavers who still held something")
          .sees("Stated last day", "Ended");
      auditor
          .asks()
          .follows("Holdings")
          .follows("Queries")
          .follows("What ends by the end of next month")
          .sees("Until");
      auditor
          .asks()
          .follows("Holdings")
          .clicks("//fieldset//button[.='unused']")
          .clicks("//*[@role='rowheader']//button[contains(., 'Ticketing')]")
          .sees("Grounds", "unused for 90 days");
      auditor.asks().opens("sato, mina", "Sato, Mina").sees("Last sign-in");
      auditor
          .asks()
          .follows("Holdings")
          .follows("Hints")
          .sees("others with the same unit and title");
    }
  }
}
