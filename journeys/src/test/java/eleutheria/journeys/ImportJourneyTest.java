package eleutheria.journeys;

import eleutheria.standins.mailroom.Mailroom;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

class ImportJourneyTest {
  private final Stage stage = Stage.get();

  /** A bad file, then one with bad lines; a mail with a link, a password, and the first sign-in. */
  @Test
  void fromABadFileToAFirstSignIn() throws Exception {
    Path folder = Files.createTempDirectory("files");
    Path zip =
        Files.write(
            folder.resolve("staff.csv"), "PK\u0003\u0004".getBytes(StandardCharsets.ISO_8859_1));
    Path staff =
        Files.writeString(
            folder.resolve("gulls.csv"),
            """
            member no,given name,family name,sign-in,mail,unit
            G-1,Wanda,Tern,wanda.tern,wanda.tern@ternsound.example,Safety
            G-2,=2+2,Tern,calc.tern,calc.tern@ternsound.example,Safety
            """);
    try (Browser browser = new Browser()) {
      browser.signIn("petra.lindholm").open("/desk/deliveries");
      browser.tick("a new source");
      browser.type("Name of the source", "Gull watchers");
      browser.file(zip);
      browser.sees("This is a zip archive or a spreadsheet, not a CSV file.");
      browser.file(staff);
      browser.heading("gulls.csv");
      browser.sees("Say which column is the key");
      browser.choose("Attribute: member no", "Key, never changes");
      browser.press("1 invalid");
      browser.sees("Cell 2 holds a formula");
      // Whose access moves stands there before anything is done.
      browser.sees("Whose access changes");
      browser.sees("1 person gains");
      browser.sees("Quaynotes · Reader");
      browser.axe();
      browser.tick("Skip 1 invalid line");
      browser.type("Reason (kept in the ledger)", "New gull watchers");
      browser.press("Import: +1 added, 0 changed, −0 removed");
      browser.sees("Imported. It is entry");
    }
    Mailroom.Mail mail = stage.mail("wanda.tern@ternsound.example", "");
    try (Browser browser = new Browser(390, 844)) {
      browser.open(mail.links().getFirst());
      browser.heading("Welcome, Wanda Tern");
      browser.axe();
      browser.type("New password", "wanda");
      browser.press("Set password and sign in");
      browser.sees("at least 12 are needed");
      browser.type("New password", "gulls over the quay");
      browser.press("Set password and sign in");
      browser.sees("Hello, Wanda");
      browser.fits();
      browser.open(mail.links().getFirst());
      browser.sees("This link has been used");
    }
  }

  /** HR's delivery of this week, bad lines and all. */
  @Test
  void thisWeeksDelivery() {
    try (Browser browser = new Browser()) {
      browser.signIn("petra.lindholm").open("/desk/deliveries");
      browser.tick("Staff register");
      browser.file(stage.files.resolve("staff-this-week.csv"));
      browser.heading("staff-this-week.csv");
      browser.tick("all of “Staff register”");
      browser.press("10 invalid");
      browser.sees("The manager “TS-00000” is unknown.");
      browser.sees("The managers form a circle");
      browser.sees("is not a day; write it as 2026-09-30.");
      browser.sees("The sign-in name “ines.roth” belongs to Ines Roth.");
      browser.axe();
      browser.press("−2 removed");
      browser.tick("Skip 10 invalid lines");
      browser.press("Import: ");
      browser.sees("Imported. It is entry");
    }
  }
}
