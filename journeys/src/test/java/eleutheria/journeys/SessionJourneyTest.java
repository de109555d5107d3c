package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.verifier.VerifyLedger;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

class SessionJourneyTest {
  /** Two browsers; one ends the other, who signs in over the page and loses nothing typed. */
  @Test
  void signOutEverywhere() {
    try (Browser here = new Browser();
        Browser there = new Browser()) {
      there.signIn("emre.demir").open("/desk/people");
      there.type("Name, sign-in name, email address or staff number", "abara, em");
      there.sees("Abara, Emre");
      here.signIn("emre.demir").open("/me");
      here.sees("Where you are signed in");
      here.press("End 1 other session");
      here.sees("1 session ended.");
      here.sees("You are not signed in anywhere else.");
      // It hears of it by itself.
      there.sees("You are signed out. Sign in to go on");
      there.type("Sign-in name or email address", "emre.demir");
      there.type("Password", "tern over the sound");
      there.press("Sign in");
      there.seesNot("You are signed out.");
      there.sees("Abara, Emre");
      assertThat(
              there
                  .field("Name, sign-in name, email address or staff number")
                  .getDomProperty("value"))
          .isEqualTo("abara, em");
    }
  }

  @Test
  void theWantedAddressSurvivesAndOneMailOfTwoAccountsAsksWhich() {
    try (Browser browser = new Browser()) {
      browser.open("/desk/ledger?find=regatta");
      browser.type("Sign-in name or email address", "jonas.weir");
      browser.type("Password", "tern over the sound");
      browser.press("Sign in");
      browser.sees("For the regatta in July only");
      browser.open("/");
      browser.press("Sign out");
      browser.heading("Sign in");
      browser.enter("nils.sand@ternsound.example", "tern over the sound");
      browser.sees("Two accounts have this email address. Choose one:");
      browser.press("nils.sand.crew");
      browser.sees("Hello, Nils");
      browser.open("/me");
      browser.sees("Arctic Tern");
    }
  }

  /** An auditor checks the chain, takes it out, and a program of its own finds it whole. */
  @Test
  void theLedgerIsTakenOutAndVerified() throws Exception {
    try (Browser browser = new Browser()) {
      browser.signIn("jonas.weir").open("/desk/ledger");
      browser.press("Check the chain");
      browser.sees("Intact: all");
      browser.press("Export as JSON Lines");
      Path ledger = browser.download(".jsonl");
      browser.press("Public key");
      Path key = browser.download(".pem");
      try (InputStream in = Files.newInputStream(ledger)) {
        VerifyLedger.Verdict verdict =
            VerifyLedger.verify(in, VerifyLedger.key(Files.readString(key)));
        assertThat(verdict.broken()).as(verdict.toString()).isNull();
        assertThat(verdict.entries()).isGreaterThan(300);
      }
    }
  }
}
