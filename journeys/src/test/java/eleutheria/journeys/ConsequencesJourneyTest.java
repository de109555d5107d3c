package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/**
 * What a change would do is seen before, by whoever decides, and nothing more than that happens.
 */
class ConsequencesJourneyTest {
  private static final String WHY = "Reason (kept in the ledger)";

  private static String group(Browser ines, String name, String... people) {
    String id =
        ines.made("POST", "/api/groups", "{\"name\": \"%s\", \"reason\": \"\"}".formatted(name));
    for (String person : people) {
      joins(ines, id, person);
    }
    return id;
  }

  private static void joins(Browser ines, String group, String person) {
    ines.made(
        "POST",
        "/api/groups/" + group + "/members",
        "{\"people\": [\"%s\"], \"groups\": [], \"reason\": \"\"}".formatted(ines.idOf(person)));
  }

  private static void gives(Browser ines, String role, String kind, String id) {
    ines.made(
        "POST",
        "/api/entitlements/" + role + "/grants",
        "{\"subjects\": [{\"kind\": \"%s\", \"id\": \"%s\"}], \"reason\": \"for the season\"}"
            .formatted(kind, id));
  }

  /** Set for tomorrow and told ahead; then more would gain, so it is on hold and is looked at. */
  @Test
  void aScheduledDraftHoldsItselfWhereMoreWouldHappen() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      String role = ines.role(ines.app("Tide Gauge", "petra.lindholm"));
      String group = group(ines, "Gauge readers", "oda.brekke");
      ines.open("/desk/entitlements/" + role);
      ines.press("Grant access");
      ines.type("People and groups", "gauge readers");
      ines.click("//*[@role='dialog']//*[@role='option']");
      ines.sees("1 person gains Tide Gauge · User");
      ines.type(WHY, "They read it from June on");
      ines.axe();
      ines.press("Make it a draft");
      ines.follow("See consequences");
      ines.heading("Consequences");
      ines.tick("At a set time");
      ines.day("Day", Stage.today().plusDays(1).toString());
      ines.tick("Email them now, before it happens");
      ines.type(WHY, "The gauge is read from tomorrow on.");
      ines.press("Schedule");
      ines.sees("to be published");
      assertThat(
              Stage.get()
                  .mail("oda.brekke@ternsound.example", "You will have access to Tide Gauge")
                  .text())
          .contains("From ", "Tide Gauge · User");
      String draft = ines.address().replaceAll(".*/drafts/([0-9a-f-]+).*", "$1");
      joins(ines, group, "jonas.weir");
      Stage.get().comes("draft-publish", draft);
      ines.open("/desk/docket");
      ines.click("//a[.//b[contains(., 'Tide Gauge')]]");
      ines.sees("On hold: needs attention.");
      ines.sees("More people would now gain or lose");
      ines.axe();
      ines.open("/desk/drafts/" + draft);
      ines.sees("1 more than you saw");
      ines.press("Publish now");
      ines.heading("It is in force");
    }
  }

  /** Who would gain asks; whoever says yes has the sheet before them. */
  @Test
  void whoGainsByTheirOwnDraftAsksASecondPerson() {
    try (Browser ines = new Browser();
        Browser maren = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      String role = ines.role(ines.app("Berth Book", "petra.lindholm"));
      maren.signIn("maren.quist").open("/desk/entitlements/" + role);
      maren.press("Grant access");
      maren.type("People and groups", "maren quist");
      maren.click("//*[@role='dialog']//*[@role='option']");
      maren.sees("By this you would gain Berth Book · User yourself; someone else does that.");
      maren.type(WHY, "I stand in for Lena");
      maren.press("Make it a draft");
      maren.follow("See consequences");
      maren.heading("Consequences");
      maren.sees("By this you would gain Berth Book · User yourself");
      maren.type(WHY, "I stand in for Lena in June.");
      maren.press("Ask a second person");
      maren.sees("waiting for a second person");
      ines.open("/desk/docket");
      ines.sees("Maren Quist asks you to approve a draft");
      ines.click("//a[.//b[.='Grant Berth Book · User']]");
      ines.sees("I stand in for Lena in June.");
      ines.sees("Quist, Maren");
      ines.axe();
      ines.press("Approve and publish");
      ines.heading("It is in force");
      maren.open("/holdings");
      maren.sees("Berth Book");
    }
  }

  /** Three grounds, each with what ends it and what else that does; then the holding is gone. */
  @Test
  void aHoldingOnThreeGroundsEndsTruly() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      String role = ines.role(ines.app("Fog Log", "petra.lindholm"));
      String person = ines.idOf("oda.brekke");
      gives(ines, role, "person", person);
      gives(ines, role, "group", group(ines, "Fog watch", "oda.brekke", "jonas.weir"));
      gives(ines, role, "group", group(ines, "Fog desk", "oda.brekke"));
      ines.open("/desk/people/" + person + "/holdings?holding=" + role);
      ines.sees("3 grounds");
      ines.press("End this holding");
      ines.sees("The holding rests on 3 grounds, and stays while one of them is left.");
      ines.sees("Oda Brekke still holds it: 2 grounds are left.");
      ines.sees("1 other person loses it too");
      ines.press("End it completely, with the fewest side effects");
      ines.sees("After that Oda Brekke does not hold it any more.");
      ines.sees("1 person loses Fog Log · User");
      ines.axe();
      ines.type(WHY, "Not on the fog watch any more");
      ines.press("End the holding");
      ines.sees("Oda Brekke does not hold it at this moment.");
      // Nobody else has lost it.
      ines.open("/desk/entitlements/" + role);
      ines.find("//*[@role='row']//*[.='Weir, Jonas']");
      assertThat(ines.text()).doesNotContain("Brekke, Oda");
      // A slip: any entry is reverted.
      ines.open("/desk/ledger");
      ines.click("//tr[contains(., 'ended access')]//a[1]");
      ines.press("Revert");
      ines.sees("All of it can be reverted.");
      ines.type(WHY, "She stays on it after all.");
      ines.press("Publish now");
      ines.heading("It is in force");
      ines.open("/desk/people/" + person + "/holdings?holding=" + role);
      ines.sees("3 grounds");
    }
  }

  /** Two have the same form open: theirs stands beside what was typed, and nothing is lost. */
  @Test
  void whatSomebodyElseChangedStandsBesideWhatWasTyped() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk");
      String group = group(ines, "Rope lockers", "oda.brekke");
      ines.open("/desk/groups/" + group);
      ines.press("Rename");
      ines.type("Name", "Rope and lockers");
      ines.made(
          "PUT",
          "/api/groups/" + group + "/name",
          "{\"base\": \"Rope lockers\", \"name\": \"Rope store\"}");
      ines.sees("Someone else has changed this since you opened it.");
      ines.find("//tr[contains(., 'Rope store')][contains(., 'Rope and lockers')]");
      ines.axe();
      ines.press("Keep what I typed");
      ines.find("//form//button[normalize-space()='Rename'][not(@disabled)]").click();
      ines.heading("Rope and lockers");
    }
  }
}
