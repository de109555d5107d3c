package eleutheria.journeys;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;

/** Renews docs/screenshots from the demo; run by bin/renew-screenshots. */
@EnabledIfSystemProperty(named = "pictures", matches = ".+")
class PicturesTest {
  private final Path folder = Path.of(System.getProperty("pictures", "."));

  @Test
  void ofEveryMainView() throws IOException {
    Files.createDirectories(folder);
    try (Browser browser = new Browser()) {
      browser.open("/sign-in");
      browser.sees("This is the demo");
      browser.picture(folder.resolve("sign-in.png"));
      browser.signIn("ines.roth");
      browser.open("/desk/docket");
      browser.click("//a[.//b[.='Oda Brekke asks for Refund Bench']]");
      browser.sees("Who holds it already");
      browser.sees("Who decides");
      browser.picture(folder.resolve("docket.png"));
      browser.open("/desk/portal?unit=Ticketing");
      browser.click("//aside//button[.//b[.='Ticket office']]");
      browser.sees("How much of it they can open");
      browser.find("//section[@aria-labelledby='preview-title']//b[.='Farebox']");
      browser.picture(folder.resolve("arranging.png"));
      browser.click("//aside//button[.//b[.='Counter and quay']]");
      browser.sees("See it now");
      browser.press("Phone");
      browser.picture(folder.resolve("front-pages.png"));
      browser.open("/desk/holdings?open=Ticketing");
      browser.sees("Brekke, Oda");
      browser.click(
          "//*[@role='gridcell'][starts-with(@aria-label, 'Ticketing, Farebox · Pricer')]");
      browser.find("//aside//h2//a[contains(., 'Farebox · Pricer')]");
      browser.picture(folder.resolve("map.png"));
      browser.dark(true);
      browser.picture(folder.resolve("map-dark.png"));
      browser.dark(false);
      browser.open("/desk/queries/high");
      browser.sees("People by unit");
      browser.picture(folder.resolve("query.png"));
      browser.open("/desk/apps?find=refund");
      browser.follow("Refund Bench");
      browser.follow("Approver");
      browser.click("//*[@role='row']//button[.='Aho, Lena']");
      browser.sees("2 grounds");
      browser.picture(folder.resolve("entitlement.png"));
      browser.open("/desk/people?find=mina.sato");
      browser.follow("Sato, Mina");
      browser.sees("The first delivery");
      browser.picture(folder.resolve("person.png"));
      browser.open("/desk/deliveries");
      browser.tick("Staff register");
      browser.file(Stage.get().files.resolve("staff-this-week.csv"));
      browser.heading("staff-this-week.csv");
      browser.tick("all of “Staff register”");
      browser.press("10 invalid");
      browser.sees("The managers form a circle");
      browser.picture(folder.resolve("delivery.png"));
      browser.press("Discard this file");
      browser.open("/desk/groups?find=counter leads");
      browser.press("Open a draft");
      browser.type("Name", "Ticket office tidy-up");
      browser.press("Open draft");
      browser.follow("Counter leads");
      browser.press("Add people or groups");
      for (String name : new String[] {"Jonas Weir", "Oda Brekke", "Mina Sato"}) {
        browser.type("Find a person or group to add", name);
        browser.take(name);
      }
      browser.press("Add 3 to the group");
      browser.sees("In the draft");
      browser.open("/desk/apps?find=refund");
      browser.follow("Refund Bench");
      browser.follow("Approver");
      browser.press("End the grant to Refund desk");
      browser
          .find("//*[@role='dialog']//input[@id='end-grant-reason']")
          .sendKeys("Leads approve from now on");
      browser.press("Add to draft: ");
      browser.sees("2 edits");
      browser.follow("See consequences");
      browser.sees("1 conflict needs a decision.");
      browser.picture(folder.resolve("consequences.png"));
      browser.press("Discard");
      browser.press("Discard 2 edits");
      browser.heading("Drafts");
      browser.open("/desk/ledger");
      browser.sees("previewed the portal as someone");
      browser.press("Check the chain");
      browser.sees("Intact");
      browser.picture(folder.resolve("ledger.png"));
    }
    try (Browser browser = new Browser()) {
      browser.signIn("oda.brekke");
      browser.sees("Also yours");
      browser.picture(folder.resolve("front.png"));
      browser.dark(true);
      browser.picture(folder.resolve("front-dark.png"));
      browser.dark(false);
      browser.open("/ask");
      browser.sees("Berthboard");
      browser.type("Name of an app or entitlement, or what you need it for", "hullcare");
      browser.click("//a[.//b[.='Hullcare · Technician']]");
      browser.heading("Ask for Hullcare · Technician");
      browser.picture(folder.resolve("ask.png"));
      browser.open("/holdings");
      browser.click("//li[.//h3[.='Refund Bench · Asker']]//button[.='Why']");
      browser.sees("Everyone whose unit is Ticketing has it.");
      browser.picture(folder.resolve("holdings.png"));
    }
    try (ManyTiles many = Stage.get().manyTiles(600);
        Browser browser = new Browser()) {
      browser.signIn("oda.brekke").sees("Many 600");
      browser.press("icons");
      browser.type("Type to find a tile; Enter opens the first", "many 5");
      browser.sees("tiles match");
      browser.type("Type to find a tile; Enter opens the first", "");
      browser.sees("Also yours");
      browser.script("scrollTo(0, 260)");
      browser.picture(folder.resolve("front-many.png"));
      browser.press("tiles");
    }
    try (Browser phone = new Browser(390, 844)) {
      phone.signIn("oda.brekke");
      phone.sees("Also yours");
      phone.picture(folder.resolve("front-phone.png"));
    }
  }
}
