package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Changing something for many: seen before it happens, and reverted after it. */
class DraftsJourneyTest {
  private static final String WHY = "Reason (kept in the ledger)";

  @Test
  void changesFromThreeViewsAreSeenAnsweredPublishedAndRevert() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/groups?find=counter leads");
      opensADraft(ines);
      gathersInThreeViews(ines);
      looks(ines);
      answersTheConflict(ines);
      publishes(ines);
      Stage.get().mail("jonas.weir@ternsound.example", "You have access to");
      putsItBack(ines);
    }
  }

  private static void opensADraft(Browser ines) {
    ines.sees("What you change here takes effect immediately.");
    ines.press("Open a draft");
    ines.type("Name", "Ticket office tidy-up");
    ines.axe();
    ines.press("Open draft");
    ines.sees("0 edits");
  }

  private static void gathersInThreeViews(Browser ines) {
    ines.follow("Counter leads");
    ines.heading("Counter leads");
    ines.press("Add people or groups");
    ines.type("Find a person or group to add", "jonas weir");
    ines.take("Jonas Weir");
    ines.type(WHY, "Helps at the counter");
    ines.press("Add 1 to the group");
    ines.sees("1 edit");
    ines.sees("In the draft “Ticket office tidy-up”");
    ines.sees("joins group “Counter leads”");
    // Nothing has happened yet.
    assertThat(ines.text()).doesNotContain("Weir, Jonas");
    ines.axe();

    ines.open("/desk/apps?find=refund");
    ines.follow("Refund Bench");
    ines.follow("Approver");
    ines.press("End the grant to Refund desk");
    ines.sees("Nothing happens until it is published.");
    ines.find("//*[@role='dialog']//input[@id='end-grant-reason']")
        .sendKeys("Leads approve from now on");
    ines.press("Add to draft: ");
    ines.sees("2 edits");

    ines.open("/desk/portal");
    ines.press("New collection");
    ines.type("Name", "Leads at the counter");
    ines.tick("everyone");
    ines.press("Add to draft: ");
    ines.sees("3 edits");
    ines.find("//aside//button[.//b[.='Leads at the counter']]");
    assertThat(ines.text()).contains("1 new conflict");
  }

  private static void looks(Browser ines) {
    ines.follow("See consequences");
    ines.heading("Consequences");
    ines.sees("exact for all 1,2");
    ines.sees("lose access");
    ines.sees("no other ground is left");
    ines.sees("1 conflict needs a decision.");
    ines.axe();
    ines.dark(true);
    ines.axe();
    ines.dark(false);
    ines.click("//button[.//span[.='lose access']]");
    ines.find("//*[@role='dialog']//*[@role='row'][2]");
    ines.sees("edit 2");
    ines.axe();
    ines.press("Close");
  }

  private static void answersTheConflict(Browser ines) {
    ines.press("Accept it until a day");
    ines.day("Until the end of", Stage.today().plusDays(40).toString());
    ines.find("//*[@role='dialog']//input[@id='accept-reason']")
        .sendKeys("Until the new lead begins");
    ines.press("Add to draft: Accept it until then");
    ines.sees("4 edits");
    ines.seesNot("1 conflict needs a decision.");
    ines.sees("may hold Refund Bench · Approver with Coin House · Closer");
  }

  private static void publishes(Browser ines) {
    ines.type(WHY, "Counter leads take over approvals from the refund desk.");
    ines.press("Publish now");
    ines.heading("It is in force");
    ines.sees("published");
    ines.sees("What you change here takes effect immediately.");
    ines.open("/desk/groups?find=counter leads");
    ines.follow("Counter leads");
    ines.find("//*[@role='row']//*[.='Weir, Jonas']");
    ines.open("/desk/portal");
    ines.find("//aside//button[.//b[.='Leads at the counter']]");
    ines.open("/desk/ledger");
    ines.sees("published a draft");
    ines.click("//tr[contains(., 'published a draft')]//a[1]");
    ines.sees("Counter leads take over approvals");
    ines.follow("The draft");
    ines.heading("It is in force");
  }

  private static void putsItBack(Browser ines) {
    String published = ines.address();
    ines.made("POST", "/api/drafts", "{\"name\":\"Something else\"}");
    ines.open("/desk/drafts");
    ines.heading("Drafts");
    ines.axe();
    ines.follow("Something else");
    ines.press("Discard");
    ines.press("Discard 0 edits");
    ines.heading("Drafts");
    ines.open(published.substring(published.indexOf("/desk/")));
    ines.heading("It is in force");
    ines.press("Revert");
    ines.sees("All of it can be reverted.");
    ines.sees("no longer");
    ines.axe();
    ines.type(WHY, "The lead is back.");
    ines.press("Publish now");
    ines.heading("It is in force");
    ines.open("/desk/groups?find=counter leads");
    ines.follow("Counter leads");
    ines.find("//*[@role='row']//*[.='Aho, Lena']");
    assertThat(ines.text()).doesNotContain("Weir, Jonas");
  }
}
