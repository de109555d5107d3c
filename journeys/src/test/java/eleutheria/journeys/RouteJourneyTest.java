package eleutheria.journeys;

import org.junit.jupiter.api.Test;

/** Who decides is set, seen before it counts, and followed. */
class RouteJourneyTest {
  @Test
  void anEntitlementGetsARouteOfItsOwn() {
    try (Browser ines = new Browser();
        Browser oda = new Browser();
        Browser lena = new Browser();
        Browser mina = new Browser()) {
      ines.signIn("ines.roth");
      String role = ines.role(ines.app("Safe Book", "petra.lindholm"));
      ines.open("/desk/entitlements/" + role);
      ines.follow("Approval route");
      ines.heading("Safe Book · User");
      ines.sees("It has no route of its own");
      ines.press("Set a route");
      ines.choose("Who approves step 2", "A person or group …");
      ines.type("Person or group for step 2", "mina sato");
      ines.take("Mina Sato");
      ines.type("Days for step 2", "3");
      ines.type("If this person asks (yourself, if empty)", "oda brekke");
      ines.take("Oda Brekke");
      ines.sees("If Oda Brekke asked for Safe Book · User now:");
      ines.sees("named for this step");
      ines.type("Reason (kept in the ledger)", "Mina keeps the safe.");
      ines.axe();
      ines.axeInDark();
      ines.press("Save route");
      ines.sees("Manager, then Mina Sato");
      ines.size(390, 844);
      ines.fits();
      ines.size(1280, 800);

      oda.signIn("oda.brekke").open("/ask/" + role);
      oda.sees("Mina Sato (named for this step)");
      oda.type("What you need it for", "The evening count");
      oda.press("Send request");
      oda.heading("Your requests");

      // Another route from now on: hers stays as it was.
      ines.press("Change");
      ines.press("Remove Mina Sato");
      ines.sees("1 request is open. It keeps the steps it was made with.");
      ines.type("Reason (kept in the ledger)", "Mina has handed over the key.");
      ines.press("Save route");
      ines.seesNot("Manager, then Mina Sato");

      decides(lena, "lena.aho");
      oda.sees("Lena Aho");
      decides(mina, "mina.sato");
      oda.open("/requests");
      oda.find("//article[.//h2[.='Safe Book · User']]//*[.='granted']");
    }
  }

  private static void decides(Browser who, String userName) {
    who.signIn(userName);
    // Whoever has nothing else to decide has the desk once the step before cannot be taken back.
    who.until(
        "there is something to decide",
        () -> {
          who.open("/desk/docket").comes();
          return who.address().startsWith("/desk/docket");
        });
    who.click("//a[.//b[.='Oda Brekke asks for Safe Book']]");
    who.heading("Oda Brekke asks for Safe Book · User");
    who.find("//button[starts-with(normalize-space(), 'Approve')][not(@disabled)]").click();
    who.sees("Take it back");
  }
}
