package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** What somebody meets who has never used this before: nothing is lost, misread or in the way. */
class FirstTimeJourneyTest {
  /** On a phone: the list, a case, the next one; and alike requests without one of them. */
  @Test
  void aDeciderWorksOnAPhone() {
    try (Browser phone = new Browser(390, 844)) {
      phone.signIn("ines.roth").open("/desk/docket");
      phone.heading("Docket");
      phone.click("//a[.//b[.='11 ask for Crewsheet']]");
      phone.heading("11 people ask for Crewsheet · Viewer");
      assertThat(phone.text()).doesNotContain("Decide today");
      phone.fits();
      phone.click("//section[@aria-label='The case']//label[starts-with(., 'Aho, Karin')]");
      phone.press("Open the request of Defne Abara");
      phone.sees("Able seafarer");
      phone.press("Approve 10 of 11, until ");
      phone.sees("Approved: 10 requests for Crewsheet · Viewer.");
      // Taken back, it is what one is at again.
      phone.press("Take it back");
      phone.heading("11 people ask for Crewsheet · Viewer");
      phone.follow("‹ Docket");
      phone.sees("Decide today");
      phone.press("Sections");
      phone.click("//nav[@aria-label='Sections']//a[.='People']");
      phone.heading("People");
    }
  }

  /** By the keyboard and by ear: past the masthead, to the heading of each page, by a number. */
  @Test
  void theKeyboardIsNeverLost() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/docket");
      browser.heading("Docket");
      browser.keys(Keys.TAB);
      assertThat(browser.focused()).isEqualTo("Skip to content");
      browser.keys(Keys.ENTER);
      String number =
          String.valueOf(
              browser.asked(
                  "/api/docket",
                  "docket => docket.folds.find(one => one.cases.length === 11)?.cases[0].number"));
      browser.keys("/");
      browser.type("Find people, groups, apps, entitlements and requests", number);
      browser.find("//*[@role='option'][contains(., 'Access request')]");
      browser.keys(Keys.ENTER);
      browser.heading("11 people ask for Crewsheet · Viewer");
      browser.click("//header//a[.='Applications']");
      browser.heading("Applications");
      browser.until("the heading has the focus", () -> browser.focused().equals("Applications"));
      assertThat(browser.title()).isEqualTo("Applications · Eleutheria");
      // A refused form leads to what is wrong, and says what was done once it is done.
      browser.open("/desk/apps/new");
      browser.press("Add app");
      browser.until(
          "the first wrong field has the focus",
          () -> "true".equals(browser.attribute("aria-invalid")));
    }
  }

  /** Access is given, its consequences are read and published by the keyboard, each step said. */
  @Test
  void whatWouldHappenIsReadAndPublishedByTheKeyboard() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk");
      String role = browser.role(browser.app("Fathom Book", "petra.lindholm"));
      browser.open("/desk/entitlements/" + role).heading("Fathom Book · User");
      browser.reach("Grant access");
      browser.keys(Keys.ENTER);
      browser.reach("People and groups");
      browser.keys("oda brekke");
      browser.find("//*[@role='dialog']//*[@role='option'][contains(., 'Oda Brekke')]");
      browser.keys(Keys.ENTER);
      browser.sees("1 person gains Fathom Book · User");
      browser.reach("Reason (kept in the ledger)");
      browser.keys("She reads the depths now");
      browser.reach("Make it a draft");
      browser.keys(Keys.ENTER);
      browser.reach("See consequences");
      browser.keys(Keys.ENTER);
      browser.heading("Consequences");
      browser.until(
          "the heading has the focus", () -> browser.focused().startsWith("Grant Fathom"));
      browser.reach("Reason (kept in the ledger)");
      browser.keys("Read with her manager");
      browser.reach("Publish now");
      browser.keys(Keys.ENTER);
      browser.heading("It is in force");
      // The button is gone: the nearest heading has the focus.
      browser.until("a heading has the focus", browser::atHeading);
      browser.until("it is said", () -> browser.said().startsWith("Done: "));
    }
  }

  /** What was typed is there again after a reload, and can be thrown away. */
  @Test
  void nothingTypedIsLost() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/apps/new");
      browser.type("Name", "Lantern Log");
      browser.type("Address it opens at", "https://lantern.ternsound.example/");
      browser.until(
          "it is kept",
          () ->
              String.valueOf(
                      browser.asked(
                          "/api/my/unsent/new%20app", "kept => JSON.stringify(kept.fields)"))
                  .contains("lantern.ternsound"));
      browser.open("/desk/people").heading("People");
      browser.open("/desk/apps/new");
      browser.sees("What you typed earlier is still here.");
      assertThat(browser.value("Name")).isEqualTo("Lantern Log");
      assertThat(browser.value("Address it opens at"))
          .isEqualTo("https://lantern.ternsound.example/");
      browser.press("Start again");
      browser.until("the form is empty", () -> browser.value("Name").isEmpty());
    }
  }

  /** A unit is found by its name; a date that is half typed gives nobody anything. */
  @Test
  void accessIsGivenToAUnitUntilADayThatIsWhole() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/apps?find=quaynotes");
      browser.follow("Quaynotes");
      browser.follow("Writer");
      browser.press("Grant access");
      browser.type("People and groups", "Safety");
      browser.click("//*[@role='option'][contains(., 'Unit')]");
      browser.find("//*[@role='dialog']//b[contains(., 'gain Quaynotes · Writer')]");
      browser.press("and ");
      browser.find("//*[@role='dialog']//button[contains(., 'no end')]");
      browser.field("Last day (blank: no end)").sendKeys("31");
      browser.field("Reason (kept in the ledger)").sendKeys("For the season");
      browser.sees("This is not a complete date.");
      // It is neither sent nor tried.
      browser.find("//*[@role='dialog']//button[@type='submit'][@disabled]");
      assertThat(browser.text()).doesNotContain("malformed");
      browser.press("Cancel");
    }
  }
}
