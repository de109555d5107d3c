package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Asking for a team, and for many by a file. */
class AskForOthersJourneyTest {

  /** A manager asks for three; one of them does not need it; the one above decides the rest. */
  @Test
  void aManagerAsksForThreeOfTheTeam() {
    try (Browser ines = new Browser();
        Browser lena = new Browser();
        Browser oda = new Browser()) {
      ines.signIn("ines.roth");
      String role = ines.role(ines.app("Crew Book", "petra.lindholm"));
      lena.signIn("lena.aho").open("/ask/" + role);
      lena.heading("Ask for Crew Book · User");
      lena.press("Ask for someone else");
      lena.type("Name or sign-in name", "brekke");
      lena.tick("Oda Brekke");
      lena.type("Name or sign-in name", "dem");
      lena.tick("Samira Demir");
      lena.type("Name or sign-in name", "eide");
      lena.tick("Pia Eide");
      lena.axe();
      lena.press("Done");
      lena.sees("For Oda Brekke, Samira Demir, and Pia Eide.");
      lena.sees("Ines Roth (manager’s manager)");
      // What was chosen stands in the address, and what was typed is kept.
      lena.type("What it is needed for", "The summer rota");
      lena.until(
          "what was typed is kept",
          () ->
              "The summer rota"
                  .equals(
                      lena.asked("/api/my/unsent/ask%20" + role, "form => form.fields.reason")));
      lena.open(lena.address().replaceAll("^https?://[^/]+", ""));
      lena.sees("For Oda Brekke, Samira Demir, and Pia Eide.");
      lena.until(
          "what was typed is there again",
          () -> lena.value("What it is needed for").equals("The summer rota"));
      lena.press("Send 3 requests, no end");
      lena.heading("Your requests");
      lena.sees("You asked for Pia Eide.");
      oda.signIn("oda.brekke").open("/requests");
      oda.sees("Lena Aho asked for you.");
      oda.axe();
      ines.open("/desk/docket");
      ines.click("//a[.//b[.='Crew Book for 3 people']]");
      ines.heading("Crew Book · User for 3 people");
      // She does not need it: hers goes from the fold, the others stay.
      oda.find("//article[.//h2[.='Crew Book · User']]//button[normalize-space()='Withdraw']")
          .click();
      oda.find("//article[.//h2[.='Crew Book · User']]//*[.='withdrawn']");
      ines.click("//a[.//b[.='Crew Book for 2 people']]");
      ines.heading("Crew Book · User for 2 people");
      ines.find("//button[starts-with(normalize-space(), 'Approve')][not(@disabled)]").click();
      ines.seesNot("Crew Book for 2 people");
    }
  }

  @Test
  void manyAreAskedForByAFile(@TempDir Path folder) throws IOException {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth");
      ines.app("Tally Book", "petra.lindholm");
      @SuppressWarnings("unchecked")
      List<Map<String, Object>> people =
          (List<Map<String, Object>>)
              ines.asked(
                  "/api/people?limit=200&status=active",
                  "(page) => page.lines.map((one) => ({userName: one.userName}))");
      StringBuilder file = new StringBuilder("person,entitlement,last day,reason\r\n");
      people.forEach(
          one ->
              file.append(one.get("userName"))
                  .append(",Tally Book · User,,\"Count, for the season\"\r\n"));
      file.append("nobody.here,Tally Book · User,,x\r\n");
      Path csv = folder.resolve("many.csv");
      Files.writeString(csv, file);
      ines.open("/ask");
      ines.follow("Ask for many by file");
      ines.heading("Ask for many by file");
      ines.axe();
      ines.file(csv);
      ines.sees(" of 201 lines can be sent.");
      ines.sees("You cannot ask for “nobody.here”.");
      ines.axe();
      ines.find("//button[starts-with(normalize-space(), 'Send ')]").click();
      for (int least = 50; least <= people.size(); least += 50) {
        int some = least;
        ines.until(some + " are sent", () -> sent(ines.text()) >= some);
      }
      ines.sees(" requests sent.");
      assertThat(ines.text()).doesNotContain("will be sent");
      // The same file once more sends nothing twice.
      ines.file(csv);
      ines.sees("No line in this file can be sent.");
    }
  }

  /** How many the page says were sent. */
  private static int sent(String page) {
    Matcher told = Pattern.compile("(\\d+) (?:of \\d+|requests) sent").matcher(page);
    return told.find() ? Integer.parseInt(told.group(1)) : 0;
  }
}
