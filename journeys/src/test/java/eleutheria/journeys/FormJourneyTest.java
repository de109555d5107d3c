package eleutheria.journeys;

import org.junit.jupiter.api.Test;

/** What is asked is set, tried as somebody, answered by whoever asks, and read by who decides. */
class FormJourneyTest {
  @Test
  void aFormWithAConditionIsAskedAndRead() {
    try (Browser ines = new Browser();
        Browser oda = new Browser();
        Browser lena = new Browser()) {
      ines.signIn("ines.roth");
      String role = ines.role(ines.app("Key Cabinet", "petra.lindholm"));
      ines.open("/desk/entitlements/" + role);
      ines.follow("Request form");
      ines.heading("Key Cabinet · User");
      ines.sees("It has no form of its own");
      ines.press("Set a form");
      ines.press("Add a question");
      ines.type("Question", "What is it for?");
      ines.choose("Answer", "One of several choices");
      ines.type("Choices, one on each line", "I cover for someone\nIt is my work");
      ines.press("Add a question");
      ines.type("Question", "Who is away?");
      ines.choose("Answer", "A colleague");
      ines.press("Show only if …");
      ines.type("Value of condition 1", "I cover for someone");
      ines.type("If this person asks (yourself, if empty)", "oda brekke");
      ines.take("Oda Brekke");
      ines.sees("As Oda Brekke would see it.");
      ines.seesNot("Choose …");
      ines.click("//section[@aria-label='Preview']//label[.='I cover for someone']");
      ines.sees("Choose …");
      ines.type("At most, in days", "30");
      ines.type("Offered, in days", "14, 90");
      ines.sees("Nothing longer than 30 days can be chosen.");
      ines.type("Offered, in days", "7, 14");
      ines.type("Reason (kept in the ledger)", "Petra asks this every time.");
      ines.axe();
      ines.axeInDark();
      ines.press("Save form");
      ines.sees("“What is it for?” is I cover for someone");
      ines.size(390, 844);
      ines.fits();
      ines.size(1280, 800);

      oda.signIn("oda.brekke").open("/ask/" + role);
      oda.type("What you need it for", "The evening round");
      oda.press("Send request");
      oda.sees("Answer this.");
      oda.click("//label[.='I cover for someone']");
      oda.choose("Who is away?", "Lena Aho, Ticketing");
      // What is typed is there again after a reload, before it was sent.
      oda.until("it is kept", () -> kept(oda, role).contains("answer who-is-away"));
      oda.open("/ask/" + role);
      oda.sees("Who is away?");
      oda.until("her choice is there", () -> !oda.value("Who is away?").isEmpty());
      oda.axe();
      oda.size(390, 844);
      oda.fits();
      oda.size(1280, 800);
      oda.press("Send request");
      oda.heading("Your requests");
      oda.find("//article[.//h2[.='Key Cabinet · User']]//dd[.='Lena Aho']");

      // Another form from now on: hers says what she was asked.
      ines.press("Change");
      ines.press("Remove Who is away?");
      ines.type("Reason (kept in the ledger)", "It is known from the roster.");
      ines.press("Save form");
      ines.seesNot("Questions that are not always shown");

      lena.signIn("lena.aho").open("/desk/docket");
      lena.click("//a[.//b[.='Oda Brekke asks for Key Cabinet']]");
      lena.heading("Oda Brekke asks for Key Cabinet · User");
      lena.find("//dt[.='Who is away?']/following-sibling::dd[.='Lena Aho']");
      lena.find("//button[starts-with(normalize-space(), 'Approve')][not(@disabled)]").click();
      lena.sees("Take it back");
      // The next request begins with the old answers, as far as they are still asked for.
      oda.press("Withdraw");
      oda.open("/ask/" + role);
      oda.until(
          "the old answer is chosen",
          () ->
              Boolean.TRUE.equals(
                  oda.script("return document.querySelector('input[type=radio]')?.checked")));
      oda.seesNot("Who is away?");
    }
  }

  private static String kept(Browser who, String role) {
    return String.valueOf(
        who.asked("/api/my/unsent/" + "ask%20" + role, "kept => JSON.stringify(kept.fields)"));
  }
}
