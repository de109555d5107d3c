package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

class DirectoryJourneyTest {
  /** A group by filter is typed: what is wrong, how many fit; then it follows. */
  @Test
  void aFilterGroupIsTyped() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/groups");
      browser.press("New group");
      browser.type("Name", "Night loaders");
      browser.tick("by filter: everyone who matches");
      browser.press("Edit as text");
      browser.type("Filter", "titel eq \"Loader\"");
      browser.sees("There is no attribute “titel”; did you mean “title”.");
      browser.type("Filter", "title eq \"Loader\" and site eq \"Skarholm\"");
      browser.sees("people match");
      browser.axe();
      browser.press("Create group");
      browser.heading("Night loaders");
      browser.sees("Whoever matches its filter is in it.");
      browser.sees("Terminals");
      browser.press("Change");
      browser.press("Edit as text");
      browser.type("Filter", "title eq \"Loader\"");
      browser.press("Change the filter: +");
      browser.seesNot("Change the filter");
      browser.sees("everyone whose title is Loader");
      browser.click("//summary[.='Exact filter']");
      browser.find("//code[.='title eq \"Loader\"']");
    }
  }

  /** A listed group is filled by its owner, who sees no other. */
  @Test
  void anOwnerFillsTheirGroup() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth");
      String group = browser.made("POST", "/api/groups", "{\"name\": \"Quay watch\"}");
      String lena = browser.idOf("lena.aho");
      browser.made(
          "PUT",
          "/api/groups/" + group + "/owners",
          "{\"base\": [], \"owners\": [\"%s\"]}".formatted(lena));
    }
    try (Browser browser = new Browser()) {
      browser.signIn("lena.aho").open("/desk/groups");
      browser.heading("Groups");
      browser.sees("3 groups");
      browser.follow("Counter leads");
      browser.press("Add people or groups");
      browser.type("Find a person or group to add", "oda brekke");
      browser.take("Oda Brekke");
      browser.sees("1 person gains Refund Bench · Approver, which needs the power");
      browser.open("/desk/groups");
      browser.follow("Quay watch");
      browser.press("Add people or groups");
      browser.type("Find a person or group to add", "oda brekke");
      browser.take("Oda Brekke");
      browser.type("Reason (kept in the ledger)", "Leads the counter in June");
      browser.press("Add 1 to the group");
      browser.find("//*[@role='row']//*[.='Brekke, Oda']");
      browser.press("Remove Oda Brekke");
      browser.sees("Nobody gains, loses or sees anything different.");
      browser.axe();
      browser
          .find("//*[@role='dialog']//button[normalize-space()='Remove'][not(@disabled)]")
          .click();
      browser.seesNot("Brekke, Oda");
      assertThat(browser.text()).doesNotContain("Rename");
    }
  }

  /** The desk as of a past day: who was there then, and nothing can be changed. */
  @Test
  void theLensOnAPastDay() {
    String past = Stage.today().minusDays(400).toString();
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/groups?find=Regatta");
      browser.sees("Regatta weekend helpers");
      browser.press("as of");
      browser.day("As of a past day", Stage.today().minusDays(700).toString());
      browser.press("Show that day");
      browser.sees("What you see is the past and cannot be changed.");
      browser.seesNot("Regatta weekend helpers");
      assertThat(browser.text()).doesNotContain("New group");
      browser.axe();
      browser.follow("People");
      browser.heading("People");
      assertThat(browser.address()).contains("asOf=");
      browser.press("Back to now");
      browser.seesNot("What you see is the past");
      browser.open("/desk/people?asOf=" + past);
      browser.sees("What you see is the past");
    }
  }

  /** Everything by the keyboard: find, arrows, Enter, Escape. */
  @Test
  void withoutAMouse() {
    try (Browser browser = new Browser()) {
      browser.signIn("ines.roth").open("/desk/people");
      browser.heading("People");
      browser.keys("/");
      browser.type("Find people, groups, apps, entitlements and requests", "brekke, od");
      browser.find("//*[@role='option' and @aria-selected='true']//b[.='Brekke, Oda']");
      browser.keys(Keys.ENTER);
      browser.heading("Oda Brekke");
      browser.sees("Ticketing staff");
      browser.keys("?");
      browser.heading("Keys of this page");
      browser.keys(Keys.ESCAPE);
      browser.seesNot("Keys of this page");
    }
  }
}
