package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** One afternoon of an administrator, from an app to a tile, a request, an end and a departure. */
class SliceJourneyTest {
  private static final String WHY = "Reason (kept in the ledger)";

  @Test
  void fromAnAppToATileARequestARevocationAndWhoHoldsIt() {
    try (Browser ines = new Browser();
        Browser oda = new Browser()) {
      ines.signIn("ines.roth");
      bringsInAnApp(ines);
      entitles(ines);
      curates(ines);
      oda.signIn("oda.brekke");
      uses(oda);
      asks(oda);
      managerDecides();
      ownerDecides();
      // In the browser that has been open all the time.
      oda.sees("Quay Clock");
      oda.find("//a[starts-with(@href, '/go/')][.//b[.='Quay Clock']]");
      oda.sees("Quay Clock · Reader ends after");
      Stage.get().mail("oda.brekke@ternsound.example", "you have Quay Clock · Reader");
      endsWhatIsHeld(ines, oda);
      letsSomeoneDepart(ines);
      readsTheLedger(ines);
    }
  }

  private static void bringsInAnApp(Browser ines) {
    ines.open("/desk/apps");
    ines.follow("Add an app");
    ines.type("Name", "Quay Clock");
    ines.type("One line on what it is for", "Who is on the quay");
    ines.press("Change picture or colour");
    ines.find("//label[.//input[@aria-label='clock']]").click();
    ines.type("Address it opens at", "javascript:alert(1)");
    ines.type("Owners", "petra lindholm");
    ines.take("Petra Lindholm");
    ines.type("Entitlement", "Reader");
    ines.press("Add app");
    ines.sees("An address begins with https:// and names a host.");
    ines.type("Address it opens at", "https://quay-clock.ternsound.example/");
    ines.axe();
    ines.press("Add app");
    ines.heading("Quay Clock");
    ines.sees("proposed");
    ines.press("Add an entitlement");
    ines.find("//*[@role='dialog']//input[@id='role-name']").sendKeys("Planner");
    ines.choose("Sensitivity", "high: moves money, people’s data or safety");
    ines.press("Add entitlement");
    ines.follow("Planner");
    ines.heading("Quay Clock · Planner");
    ines.sees("Nobody holds it");
    ines.follow("Quay Clock");
    ines.press("Open it");
    ines.sees("open since");
  }

  private static void entitles(Browser ines) {
    ines.follow("Reader");
    ines.heading("Quay Clock · Reader");
    ines.press("Grant access");
    ines.tick("everyone who matches a filter");
    ines.press("Edit as text");
    ines.type("Filter", "unit eq \"Safety\"");
    ines.sees("people gain Quay Clock · Reader");
    ines.axe();
    ines.press("Grant access to");
    ines.sees("Give a reason; it is kept in the ledger.");
    ines.type(WHY, "Safety walks the quay");
    ines.press("Grant access to");
    ines.seesNot("people gain");
    ines.sees("Safety walks the quay");
    // Someone who holds it already: nobody gains.
    String holder = ines.find("//*[@role='row']//button").getText();
    ines.press("Grant access");
    ines.type("People and groups", holder.split(", ")[1] + " " + holder.split(", ")[0]);
    ines.click("//*[@role='dialog']//*[@role='option'][contains(., 'Safety')]");
    ines.sees("Nobody gains, loses or sees anything different.");
    ines.press("Cancel");
    ines.follow("Quay Clock");
  }

  private static void curates(Browser ines) {
    ines.press("New tile");
    ines.find("//*[@role='dialog']//label[starts-with(normalize-space(), 'Planner')]").click();
    ines.find("//*[@role='dialog']//button[.='New tile']").click();
    ines.find("//aside//a[.='Quay Clock']");
    ines.open("/desk/portal");
    ines.press("New collection");
    ines.type("Name", "On the quay");
    ines.tick("only these");
    ines.tick("everyone who matches a filter");
    ines.press("Edit as text");
    ines.type("Filter", "unit eq \"Ticketing\" or unit eq \"Safety\"");
    ines.sees("people match");
    ines.press("Add to draft: Create");
    ines.sees("1 edit");
    ines.click("//aside//button[.//b[.='On the quay']]");
    ines.choose("Add a tile to On the quay", "Tidewatch");
    ines.find("//aside//ol//button[.='Tidewatch']");
    ines.choose("Add a tile to On the quay", "Quay Clock");
    ines.find("//aside//ol//button[.='Quay Clock']");
    // Keys alone: taken up, one place earlier, put down.
    ines.find("//button[@aria-label='Move Quay Clock']").sendKeys(Keys.SPACE);
    ines.keys(Keys.ARROW_UP);
    ines.keys(Keys.SPACE);
    ines.find("//aside//ol/li[1][.//button[normalize-space()='Quay Clock']]");
    ines.press("Offer on request: Quay Clock");
    ines.find("//button[@aria-label='Do not offer: Quay Clock']");
    ines.axe();
    ines.follow("Publish…");
    ines.type(WHY, "The quay has its own shelf");
    ines.press("Publish now");
    ines.heading("It is in force");
  }

  private static void uses(Browser oda) {
    oda.sees("On the quay");
    oda.find("//section[.//h2[starts-with(normalize-space(), 'On the quay')]]//*[.='Ask for it']");
    assertThat(oda.text().indexOf("Also yours")).isGreaterThan(oda.text().indexOf("On the quay"));
    oda.keys("tidew");
    oda.seesNot("Ticket office");
    oda.axe();
    oda.keys(Keys.ENTER);
    oda.leadsTo("https://tidewatch.ternsound.example/");
    oda.open("/");
  }

  private static void asks(Browser oda) {
    oda.sees("On the quay");
    oda.keys("quay cl");
    oda.seesNot("Ticket office");
    oda.keys(Keys.ENTER);
    oda.heading("Ask for Quay Clock · Reader");
    oda.sees("Lena Aho");
    oda.sees("Petra Lindholm");
    oda.axe();
    oda.press("Send request");
    oda.sees("Say what you need it for.");
    oda.type("What you need it for", "I open the quay on Saturdays");
    oda.day("Until the end of", Stage.today().plusDays(5).toString());
    oda.press("Send request");
    oda.heading("Your requests");
    oda.find("//article[.//h2[.='Quay Clock · Reader']]//*[.='decides now']");
    oda.axe();
    oda.open("/");
    oda.find("//section[.//h2[starts-with(normalize-space(), 'On the quay')]]//*[.='Ask for it']");
  }

  private static void managerDecides() {
    try (Browser lena = new Browser()) {
      // The mail leads to the case.
      lena.signIn("lena.aho");
      lena.open(
          Stage.get()
              .mail("lena.aho@ternsound.example", "Oda Brekke asks for Quay Clock")
              .links()
              .getFirst());
      lena.heading("Docket");
      lena.heading("Oda Brekke asks for Quay Clock · Reader");
      lena.sees("Who holds it already");
      lena.sees("“I open the quay on Saturdays”");
      lena.sees("new on the front page: Quay Clock");
      lena.axe();
      lena.keys("y");
      lena.sees("Approved: Oda Brekke, Quay Clock · Reader.");
      lena.press("Take it back");
      lena.click("//a[.//b[.='Oda Brekke asks for Quay Clock']]");
      lena.heading("Oda Brekke asks for Quay Clock · Reader");
      // A letter that is typed into a field is text.
      lena.type("Note to the requester", "yes, ny");
      lena.heading("Oda Brekke asks for Quay Clock · Reader");
      lena.press("Approve");
      lena.sees("Approved: Oda Brekke, Quay Clock · Reader.");
      lena.seesNot("Oda Brekke asks for Quay Clock");
    }
  }

  private static void ownerDecides() {
    try (Browser petra = new Browser()) {
      petra.signIn("petra.lindholm").open("/desk/docket");
      // It comes by itself once Lena's ten seconds are over.
      petra.click("//a[.//b[.='Oda Brekke asks for Quay Clock']]");
      petra.sees("“yes, ny”");
      petra.press("Approve");
      petra.sees("Approved: Oda Brekke, Quay Clock · Reader.");
    }
  }

  private static void endsWhatIsHeld(Browser ines, Browser oda) {
    // A second ground: everyone in Ticketing.
    ines.open("/desk/apps?find=quay+clock");
    ines.follow("Quay Clock");
    ines.follow("Reader");
    ines.press("Grant access");
    ines.tick("everyone who matches a filter");
    ines.press("Edit as text");
    ines.type("Filter", "unit eq \"Ticketing\"");
    ines.sees("1 person holds it already.");
    ines.type(WHY, "All of the counter");
    ines.press("Grant access to");
    ines.find("//td[contains(., 'everyone whose unit is Ticketing')]");
    ines.type("Part of a name", "brekke");
    ines.click("//*[@role='row']//button[.='Brekke, Oda']");
    ines.sees("2 grounds");
    ines.sees("on request R-");
    ines.press("End this holding");
    ines.sees("The holding rests on 2 grounds, and stays while one of them is left.");
    ines.sees("Oda Brekke still holds it: 1 ground is left.");
    ines.axe();
    ines.type(WHY, "The Saturdays are over");
    ines.press("End 1 ground, the holding stays");
    ines.sees("1 ground");
    ines.seesNot("2 grounds");
    oda.seesNot("Quay Clock · Reader ends after");
    oda.find("//a[starts-with(@href, '/go/')][.//b[.='Quay Clock']]");
    // The last one goes, and with it the tile from the open browser.
    ines.press("End the grant to everyone whose unit is Ticketing");
    ines.sees("people lose Quay Clock · Reader");
    ines.type(WHY, "Only Safety needs it");
    ines.press("End the grant: ");
    ines.sees("Oda Brekke does not hold it at this moment.");
    oda.find("//section[.//h2[starts-with(normalize-space(), 'On the quay')]]//*[.='Ask for it']");
    // As of yesterday there was no such app.
    ines.open("/desk/people?find=oda.brekke");
    ines.follow("Brekke, Oda");
    ines.find("//button[@aria-label='Refund Bench · Asker']");
    ines.axe();
  }

  private static void letsSomeoneDepart(Browser ines) {
    // The demo moves with the day: whoever works there today and is no part of another story.
    Map<?, ?> leaver =
        (Map<?, ?>)
            ines.asked(
                "/api/people?unit=Workshop&limit=100",
                "page => page.lines.filter(line => line.status === 'active').at(-1)");
    String familyFirst = (String) leaver.get("familyFirst");
    String departure = "Departure of " + leaver.get("displayed");
    ines.open("/desk/people?find=" + leaver.get("userName"));
    ines.follow(familyFirst);
    ines.press("Run a departure");
    ines.sees("Stays on record, without effect");
    ines.axe();
    ines.type(WHY, "Last day was today");
    ines.press("End everything: ");
    ines.heading(departure);
    ines.sees("holdings ended");
    ines.sees("Granted through filters that still match:");
    ines.axe();
    ines.follow(familyFirst);
    ines.sees("departed");
    ines.follow("Departure slip");
    ines.heading(departure);
  }

  private static void readsTheLedger(Browser ines) {
    ines.open("/desk/ledger");
    for (String act :
        new String[] {
          "ran a departure", "ended access", "approved a request", "took back a decision",
          "asked for access", "arranged a collection", "created a collection", "created a tile",
          "granted access", "added an application"
        }) {
      ines.sees(act);
    }
    ines.press("Check the chain");
    ines.sees("Intact: all");
  }
}
