package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class DocketJourneyTest {
  private static String ask(Browser oda, Browser ines, String app) {
    String role = ines.role(app);
    return oda.made(
        "POST",
        "/api/requests",
        "{\"entitlement\": \"%s\", \"reason\": \"for the season\"}".formatted(role));
  }

  /** Whoever comes second is shown what the first has decided, without reloading. */
  @Test
  void theSecondDeciderIsTooLateAndIsShownSo() {
    try (Browser ines = new Browser();
        Browser oda = new Browser()) {
      ines.signIn("ines.roth");
      oda.signIn("oda.brekke");
      String app = ines.app("Rope Book", "lena.aho");
      ask(oda, ines, app);
      ines.open("/desk/docket?all=true");
      ines.click("//a[.//b[.='Oda Brekke asks for Rope Book']]");
      ines.sees("If you decide on their behalf, say why.");
      ines.press("Approve");
      ines.sees("Say why you decide on someone else’s behalf.");
      ines.type("Note to the requester", "Lena is away");
      try (Browser lena = new Browser()) {
        lena.signIn("lena.aho").open("/desk/docket");
        lena.click("//a[.//b[.='Oda Brekke asks for Rope Book']]");
        lena.press("Refuse");
        lena.sees("Say why not; the requester reads it.");
        lena.type("Note to the requester", "Not this season");
        lena.press("Refuse");
        lena.sees("Refused: Oda Brekke, Rope Book · User.");
      }
      // It went from her list; the case itself stays in sight, and says what has become of it.
      ines.sees("This request is refused; there is nothing to decide.");
      ines.sees("“Not this season”");
      assertThat(ines.address()).contains("/desk/docket/request/");
      oda.open("/requests");
      oda.find("//article[.//h2[.='Rope Book · User']]//*[.='refused']");
      oda.sees("“Not this season”");
      // The only owner of it asks: it goes to a steward, who is not told to step in.
      String own = ines.app("Own Book", "oda.brekke");
      ask(oda, ines, own);
      oda.open("/desk/docket");
      oda.sees("Docket");
      assertThat(oda.text()).doesNotContain("Own Book");
    }
  }

  /** Paused while it is asked for: the evidence says what a yes would come to. */
  @Test
  void theAppIsPausedMeanwhileAndTheRequestIsWithdrawn() {
    try (Browser ines = new Browser();
        Browser oda = new Browser();
        Browser lena = new Browser()) {
      ines.signIn("ines.roth");
      oda.signIn("oda.brekke");
      lena.signIn("lena.aho");
      String app = ines.app("Knot Book", "petra.lindholm");
      ask(oda, ines, app);
      lena.open("/desk/docket");
      lena.click("//a[.//b[.='Oda Brekke asks for Knot Book']]");
      lena.heading("Oda Brekke asks for Knot Book · User");
      ines.open("/desk/apps/" + app);
      ines.press("Pause it");
      ines.sees("While it is paused, nobody holds any of its entitlements");
      ines.type("Reason (kept in the ledger)", "Repairs");
      ines.sees("Nobody gains, loses or sees anything different.");
      ines.find("//*[@role='dialog']//button[.='Pause it'][not(@disabled)]").click();
      lena.sees("Knot Book is paused. Approval takes effect once it is open again.");
      oda.open("/requests");
      oda.find("//article[.//h2[.='Knot Book · User']]//button").click();
      oda.find("//article[.//h2[.='Knot Book · User']]//*[.='withdrawn']");
      lena.seesNot("Oda Brekke asks for Knot Book");
    }
  }

  /** Asked back, the clock stands; the answer comes in sight without reloading, then the yes. */
  @Test
  void aQuestionIsAskedAndAnsweredBeforeItIsApproved() {
    try (Browser lena = new Browser();
        Browser oda = new Browser()) {
      lena.signIn("lena.aho").open("/desk/docket");
      oda.signIn("oda.brekke");
      try (Browser ines = new Browser()) {
        ines.signIn("ines.roth");
        ask(oda, ines, ines.app("Tide Book", "lena.aho"));
      }
      lena.click("//a[.//b[.='Oda Brekke asks for Tide Book']]");
      lena.heading("Oda Brekke asks for Tide Book · User");
      lena.keys("q");
      lena.type("Message to Oda Brekke", "Which tides do you need?\nSpring or neap?");
      lena.press("Ask, and stop the clock");
      lena.sees("Waiting for Oda Brekke to answer.");
      lena.find("//li[.//b[.='Oda Brekke asks for Tide Book']]//*[.='waiting for an answer']");
      lena.axe();
      oda.open("/requests");
      oda.sees("Lena Aho has asked you something.");
      oda.sees("Which tides do you need?");
      oda.axe();
      oda.type("Your answer to Lena Aho", "Both, <b>daily</b>");
      oda.press("Send answer");
      oda.seesNot("Lena Aho has asked you something.");
      lena.sees("Both, <b>daily</b>");
      lena.seesNot("Waiting for Oda Brekke to answer.");
      oda.sees("Lena Aho has read it.");
      // Somebody else knows better: it goes on to her, and Lena sees what becomes of it.
      lena.press("Pass on");
      lena.sees("They decide this step from now on");
      lena.axe();
      lena.choose("To", "Ines Roth · Yard & office");
      lena.type("What they should know", "You made the tide tables.");
      lena.find("//*[@role='dialog']//button[.='Pass on'][not(@disabled)]").click();
      lena.sees("This step is for someone else to decide.");
      try (Browser ines = new Browser()) {
        ines.signIn("ines.roth").open("/desk/docket");
        ines.click("//a[.//b[.='Oda Brekke asks for Tide Book']]");
        ines.sees("You made the tide tables.");
        ines.sees("was passed this step");
        ines.press("Approve");
        ines.sees("Approved: Oda Brekke, Tide Book · User.");
      }
      // The next step has its own people again: Lena, who owns it.
      lena.open("/desk/docket");
      lena.click("//a[.//b[.='Oda Brekke asks for Tide Book']]");
      lena.press("Approve");
      lena.sees("Approved: Oda Brekke, Tide Book · User.");
      oda.find("//article[.//h2[.='Tide Book · User']]//*[.='granted']");
    }
  }

  /** Somebody goes away: a colleague is told by email, decides for her, and it says so. */
  @Test
  void aDeputyDecidesForWhomIsAway() {
    try (Browser lena = new Browser();
        Browser samira = new Browser();
        Browser oda = new Browser()) {
      lena.signIn("lena.aho").open("/me");
      lena.press("Name a deputy");
      lena.choose("Deputy", "Samira Demir · Ticketing");
      lena.axe();
      lena.click("//*[@role='dialog']//button[.='Name a deputy']");
      lena.sees("Samira Demir");
      lena.find("//button[@aria-label='End Samira Demir as deputy']");
      lena.axe();
      Stage.get().mail("samira.demir@ternsound.example", "You are deputy for Lena Aho");

      oda.signIn("oda.brekke");
      try (Browser ines = new Browser()) {
        ines.signIn("ines.roth");
        ask(oda, ines, ines.app("Lock Book", "petra.lindholm"));
      }
      oda.open("/requests");
      oda.sees("Lena Aho your manager or Samira Demir as deputy");
      // She decides nothing else, and has the desk for this.
      samira.signIn("samira.demir").open("/desk/docket");
      samira.click("//a[.//b[.='Oda Brekke asks for Lock Book']]");
      samira.sees("you decide for Lena Aho");
      samira.axe();
      samira.press("Approve");
      samira.sees("Approved: Oda Brekke, Lock Book · User.");
      oda.sees("for Lena Aho, your manager");
      // She is back: from then on it is hers alone again.
      lena.press("End Samira Demir as deputy");
      lena.sees("You have no deputy.");
      samira.open("/desk/docket");
      samira.seesNot("asks for");
    }
  }

  /** Eleven alike: one look, one decision, each with its own outcome. */
  @Test
  void alikeOnesAreDecidedTogether() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/docket");
      ines.click("//a[.//b[.='11 ask for Crewsheet']]");
      ines.heading("11 people ask for Crewsheet · Viewer");
      ines.sees("The 11 who ask");
      ines.axe();
      ines.press("Approve all 11");
      ines.sees("Approved: 11 requests for Crewsheet · Viewer.");
      ines.press("Take it back");
      ines.find("//a[.//b[.='11 ask for Crewsheet']]");
    }
  }
}
