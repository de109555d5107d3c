package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** The portal is arranged where it is seen: in its preview. */
class ArrangeJourneyTest {
  private static final String SHELF =
      "//section[@aria-labelledby='preview-title']"
          + "//section[.//h2[starts-with(normalize-space(), 'Ticket office')]]";

  private static String tile(String name) {
    return SHELF + "//button[.//b[.='" + name + "']]";
  }

  /** What was only tried is nobody's draft any more. */
  private static void drops(Browser browser) {
    Object open = browser.asked("/api/drafts", "tray => tray.open && tray.open.draft.id");
    if (open != null) {
      browser.made("DELETE", "/api/drafts/" + open, "");
    }
  }

  private static List<String> order(Browser browser) {
    return browser.find(SHELF).findElements(By.cssSelector(".tile b")).stream()
        .map(WebElement::getText)
        .toList();
  }

  /** By mouse: a tile to another place, before and after, undone and done again; nobody sees it. */
  @Test
  void byMouseInTheProofOfSomebodyTypical() {
    try (Browser ines = new Browser();
        Browser lena = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal");
      ines.click("//button[.//span[contains(., 'front page')]]");
      ines.choose("Someone typical of …", "Ticketing");
      ines.sees("front page 1 of");
      ines.sees("hold the same");
      ines.find(tile("Farebox"));
      ines.axe();
      List<String> before = order(ines);
      assertThat(before.getFirst()).isEqualTo("Farebox");
      ines.drag(tile("Farebox"), tile("Coin House"));
      ines.sees("1 edit");
      ines.sees("see another order");
      ines.until(
          "Farebox has moved",
          () -> order(ines).indexOf("Farebox") > order(ines).indexOf("Coin House"));
      List<String> after = order(ines);
      ines.press("Before");
      ines.until("before the draft", () -> order(ines).equals(before));
      ines.press("After");
      ines.until("with the draft", () -> order(ines).equals(after));
      lena.signIn("lena.aho").open("/");
      lena.sees("Ticket office");
      assertThat(lena.text().indexOf("Farebox")).isLessThan(lena.text().indexOf("Coin House"));
      ines.press("Undo");
      ines.until("undone", () -> order(ines).equals(before));
      ines.press("Redo");
      ines.until("done again", () -> order(ines).equals(after));
      ines.press("Phone");
      ines.find("//*[@data-device='phone']//b[.='Farebox']");
      ines.press("Undo");
      ines.until("undone", () -> order(ines).equals(before));
      ines.axe();
      drops(ines);
    }
  }

  /** By keyboard alone: two tiles marked and moved together, said aloud. */
  @Test
  void byKeyboardAlone() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal?unit=Ticketing");
      ines.find(tile("Farebox")).sendKeys("x");
      ines.find(tile("Farebox") + "[@aria-pressed='true']");
      ines.find(tile("Refund Bench")).sendKeys("x");
      ines.find(tile("Refund Bench") + "[@aria-pressed='true']");
      ines.find(tile("Refund Bench")).sendKeys(Keys.SPACE);
      ines.sees("Farebox, Refund Bench picked up, place 1 in Ticket office.");
      ines.keys(Keys.ARROW_RIGHT);
      ines.sees("Place 2 in Ticket office.");
      ines.keys(Keys.ESCAPE);
      ines.sees("left where it was");
      ines.find(tile("Farebox")).sendKeys(Keys.SPACE);
      ines.keys(Keys.ARROW_RIGHT);
      ines.keys(Keys.SPACE);
      ines.sees("put down, place 2 in Ticket office.");
      ines.sees("1 edit");
      ines.until(
          "moved together",
          () -> order(ines).subList(1, 3).equals(List.of("Farebox", "Refund Bench")));
      // The focus stays on what was carried.
      assertThat(ines.focused()).contains("Farebox");
      ines.keys(Keys.chord(Keys.CONTROL, "z"));
      ines.until("undone", () -> order(ines).getFirst().equals("Farebox"));
      drops(ines);
    }
  }

  /** With a finger: what rests a moment is taken up, and what moves at once scrolls. */
  @Test
  void byTouch() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal?unit=Ticketing");
      ines.find(tile("Farebox"));
      ines.carry(tile("Farebox"), tile("Coin House"));
      ines.sees("1 edit");
      ines.until(
          "Farebox has moved",
          () -> order(ines).indexOf("Farebox") > order(ines).indexOf("Coin House"));
      drops(ines);
    }
  }

  /** An owner arranges what is theirs, and nothing else. */
  @Test
  void anOwnerArrangesOnlyTheirs() {
    try (Browser lena = new Browser()) {
      lena.signIn("lena.aho").open("/desk/portal");
      lena.click("//aside//button[.//b[.='Ticket office']]");
      lena.find("//button[@aria-label='Move Farebox']");
      // It is seen as Lena meets it; what is not hers cannot be taken up.
      lena.find(tile("Farebox"));
      lena.seesNot("Front pages");
      assertThat(lena.find("//aside[.//h2[.='Collections']]").getText())
          .doesNotContain("Today aboard");
      lena.press("Do not offer: Coin House");
      lena.sees("1 edit");
      lena.find("//button[@aria-label='Offer on request: Coin House']");
      lena.axe();
      lena.press("Undo edit 1");
      lena.find("//button[@aria-label='Do not offer: Coin House']");
      drops(lena);
    }
  }

  /** Two pages fit somebody: the first counts, and the preview says which and why. */
  @Test
  void twoFrontPagesThatFitAndAWave() {
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal?unit=Ticketing");
      ines.sees("front page 1 of 4");
      ines.press("New front page");
      ines.type("Name", "Winter counter");
      ines.tick("everyone who matches a filter");
      ines.press("Edit as text");
      ines.type("Filter", "unit eq \"Ticketing\"");
      ines.sees("people match");
      ines.axe();
      ines.press("Add to draft: Create");
      ines.sees("1 edit");
      // It stands behind the others, so the one that was met is met still.
      ines.sees("front page 1 of 5");
      ines.find("//button[@aria-label='Move Winter counter']").sendKeys(Keys.SPACE);
      ines.keys(Keys.ARROW_UP);
      ines.keys(Keys.ARROW_UP);
      ines.keys(Keys.ARROW_UP);
      ines.keys(Keys.SPACE);
      ines.sees("2 edits");
      ines.click("//aside//button[.//b[.='Winter counter']]");
      ines.sees("See it now");
      ines.sees("28 people");
      ines.press("Change");
      ines.press("Add a wave");
      ines.find("//fieldset[.//legend[.='Wave 1']]//label[normalize-space()='everyone']").click();
      ines.day("From (blank: now)", Stage.today().plusDays(9).toString());
      ines.press("Add to draft: Save");
      ines.sees("to come");
      ines.sees("3 edits");
      ines.follow("See consequences");
      ines.heading("Consequences");
      ines.sees("reaches everyone");
      ines.axe();
      drops(ines);
    }
  }

  /** A picture that could do something is refused with the reason; a plain one is on the tile. */
  @Test
  void aPictureThatIsRefusedAndOneThatIsTaken(@TempDir Path folder) throws IOException {
    Path bad = folder.resolve("bad.svg");
    Files.writeString(
        bad,
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 24 24'>"
            + "<script>alert(1)</script><path d='M2 2h20v20H2z'/></svg>");
    Path good = folder.resolve("good.svg");
    Files.writeString(
        good,
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 24 24'>"
            + "<path fill='#0c5f86' d='M2 12h20v6H2z'/></svg>");
    try (Browser ines = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal?tiles=all");
      ines.type("Find a tile", "tidewatch");
      ines.click("//aside//button[.='Tidewatch']");
      ines.press("Change the tile");
      ines.press("Change picture or colour");
      ines.type("Find a picture", "anch");
      ines.find("//input[@type='radio'][@aria-label='anchor']");
      ines.file(bad);
      ines.sees("It contains “script”, which a picture does not need.");
      ines.file(good);
      ines.find("//*[@role='dialog']//input[@type='radio'][@aria-label='uploaded'][@checked]");
      ines.axe();
      ines.press("Add to draft: Save");
      ines.sees("1 edit");
      ines.until(
          "the picture is drawn",
          () ->
              Boolean.TRUE.equals(
                  ines.script(
                      "const i = document.querySelector('aside .picture.own img');"
                          + "return i !== null && i.complete && i.naturalWidth > 0")));
      drops(ines);
    }
  }

  /** What the help desk says is what the person finds. */
  @Test
  void whereIsIt() {
    try (Browser ines = new Browser();
        Browser lena = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal/where");
      ines.type("Find someone", "Lena Aho");
      ines.click("//button[starts-with(normalize-space(), 'Aho, Lena')]");
      ines.choose("What they are looking for", "Refund Bench");
      ines.sees("Look under “Ticket office”: Refund Bench is the second tile there.");
      ines.axe();
      String link = ines.find("//code[contains(., '/?tile=')]").getText();
      String type = ines.find("//blockquote").getText().replaceAll(".*type “(.*)” any.*", "$1");
      lena.signIn("lena.aho").open(link.substring(link.indexOf("/?")));
      lena.find("//a[@aria-current='true'][.//b[.='Refund Bench']]");
      assertThat(lena.focused()).contains("Refund Bench");
      lena.open("/");
      lena.sees("Ticket office");
      lena.keys(type);
      lena.find("//a[contains(@class, 'first')][.//b[.='Refund Bench']]");
    }
  }

  /** Another colour is seen before anybody has it, and is refused where nobody could read on it. */
  @Test
  void nameAndColoursAndUse() {
    try (Browser ines = new Browser();
        Browser nobody = new Browser()) {
      ines.signIn("ines.roth").open("/desk/portal/brand");
      ines.type("Text on the sign-in page (optional)", "Good to have you aboard.");
      ines.type("Band colour", "#e6c200");
      ines.sees("4.5 is needed");
      ines.press("Save");
      ines.sees("Take a darker one.");
      ines.type("Band colour", "#1b3a6b");
      ines.axe();
      ines.press("Save");
      nobody.open("/sign-in");
      ines.until(
          "words at the door",
          () -> {
            nobody.open("/sign-in").sees("Tern Sound Ferries");
            return nobody.text().contains("Good to have you aboard.");
          });
      nobody.axe();
      ines.type("Text on the sign-in page (optional)", "");
      ines.type("Band colour", "#17504a");
      ines.press("Save");
      ines.open("/desk/portal/use");
      ines.sees("parking");
      ines.sees("tile nobody used");
      ines.axe();
    }
  }
}
