package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** What staff do on the portal. */
class StaffJourneyTest {
  private static void menu(Browser browser, String tile, String item) {
    browser.click("//button[@aria-label=\"More about " + tile + "\"]");
    browser.click("//*[@role='menuitem'][.=\"" + item + "\"]");
  }

  private static final String HITS = "//section[contains(@class, 'hits')]";

  /** A clerk's morning on a phone, with the thumb alone. */
  @Test
  void aClerksMorningOnAPhone() {
    try (Browser phone = new Browser(390, 844)) {
      phone.signIn("oda.brekke");
      phone.sees("Pinned");
      phone.axe();
      phone.fits();
      assertThat(
              phone.script(
                  "return innerHeight - document.querySelector('nav').getBoundingClientRect().bottom"))
          .as("the ways stand where the thumb is")
          .isEqualTo(0L);
      // What is used often is pinned, and stays pinned.
      menu(phone, "Payrow", "Pin");
      phone.find("//section[.//h2[starts-with(., 'Pinned')]]//a[.//b[.='Payrow']]");
      phone.press("list");
      phone.open("/");
      phone.find("//section[.//h2[starts-with(., 'Pinned')]]//a[.//b[.='Payrow']]");
      phone.find("//button[.='list'][@aria-pressed='true']");
      phone.fits();
      phone.axe();
      phone.press("tiles");
      menu(phone, "Payrow", "Unpin");
      phone.until(
          "let go",
          () ->
              !phone
                  .script(
                      "return [...document.querySelectorAll('section')].some(s =>"
                          + " s.innerText.startsWith('Pinned') && s.innerText.includes('Payrow'))")
                  .equals(true));
      // By a nickname, and with a slip.
      phone.type("Type to find a tile; Enter opens the first", "rota");
      phone.find(HITS + "//a[contains(@class, 'first')][.//b[.='Crewsheet']]");
      phone.type("Type to find a tile; Enter opens the first", "tidewacth");
      phone.find(HITS + "//a[contains(@class, 'first')][.//b[.='Tidewatch']]");
      phone.keys(Keys.ESCAPE);
      // A section that only takes room is hidden, and comes again.
      phone.click("//button[@aria-label='More about the section Today aboard']");
      phone.click("//*[@role='menuitem']");
      phone.press("Show Today aboard");
      phone.sees("Sailing Plan");
      // Why, and whom to ask.
      menu(phone, "Farebox", "Why do I have this?");
      phone.sees("Everyone whose unit is Ticketing has it.");
      phone.sees("Lena Aho");
      phone.axe();
      phone.press("Close");
      menu(phone, "Farebox", "Hand it back");
      phone.sees("You cannot hand it back yourself");
      phone.press("Close");
      menu(phone, "Refund Bench", "Report a problem");
      phone.press("Report");
      phone.sees("Say what is wrong.");
      phone.type("What is wrong", "The list is empty on Sundays.");
      phone.press("Report");
      phone.sees("The answer comes by email");
      phone.press("Close");
      phone.click("//nav//a[contains(., 'Your requests')]");
      phone.sees("The list is empty on Sundays.");
      phone.axe();
      phone.fits();
      phone.press("It works again");
      phone.sees("withdrawn");
      phone.click("//nav//a[contains(., 'Your access')]");
      phone.sees("last used on");
      phone.axe();
      phone.fits();
    }
  }

  private static final int MANY = 600;

  /** Six hundred tiles, some in other scripts, without a mouse. */
  @Test
  void sixHundredTilesByKeyboard() {
    try (ManyTiles many =
            Stage.get()
                .manyTiles(MANY, "Ώρες εργασίας", "Расписание смен", "جدول المناوبات", "排班表");
        Browser browser = new Browser()) {
      browser.signIn("oda.brekke").sees("排班表");
      browser.fits();
      browser.script("document.activeElement.blur()");
      browser.keys(Keys.ARROW_DOWN);
      browser.until("the first has the focus", () -> browser.focused().contains("Crewsheet"));
      browser.keys(Keys.ARROW_RIGHT);
      browser.until("the next has it", () -> browser.focused().contains("Farebox"));
      browser.keys(Keys.END);
      browser.until("the last has it", () -> browser.focused().contains("排班表"));
      browser.keys("many 417");
      browser.find(HITS + "//a[contains(@class, 'first')][.//b[.='Many 417']]");
      browser.sees("Many 417");
      browser.keys(Keys.ARROW_DOWN);
      browser.until("the hit has the focus", () -> browser.focused().contains("Many 417"));
      browser.keys(Keys.chord(Keys.SHIFT, Keys.F10));
      browser.find("//*[@role='menu']");
      browser.keys(Keys.ENTER);
      browser.keys(Keys.ESCAPE);
      browser.find("//section[.//h2[starts-with(., 'Pinned')]]//a[.//b[.='Many 417']]");
      browser.axe();
      for (String name : new String[] {"ωρες", "распис", "المناوبات", "排班"}) {
        browser.type("Type to find a tile; Enter opens the first", name);
        browser.sees("1 tile matches");
        browser.find(HITS + "//a[contains(@class, 'first')]");
      }
      browser.keys(Keys.ESCAPE);
      browser.script("document.activeElement.blur()");
      browser.keys("?");
      browser.sees("what can be done with a tile");
      browser.press("Close");
      menu(browser, "Many 417", "Unpin");
    }
  }

  /** What one may bring is told before and after; nobody else sees it. */
  @Test
  void aLinkOfOnesOwn() {
    try (Browser oda = new Browser();
        Browser emre = new Browser()) {
      oda.signIn("oda.brekke").open("/suggest");
      oda.sees("You can keep links of your own to anything on the approved list.");
      oda.axe();
      oda.fits();
      oda.press("New link of your own");
      oda.type("Name", "Trains");
      oda.find("//*[@role='dialog']//input[@id='link-address']")
          .sendKeys("https://else.example/trains");
      oda.click("//*[@role='dialog']//button[@type='submit']");
      oda.sees("It is not on the approved list.");
      oda.axe();
      oda.follow("Suggest it instead");
      oda.until(
          "what was typed came along",
          () -> oda.field("Name of the app").getDomProperty("value").equals("Trains"));
      oda.type("Find by name, kind or address", "trians");
      oda.sees("Lowland Trains");
      oda.press("Keep a link to Lowland Trains");
      oda.find("//*[@role='dialog']");
      oda.click("//*[@role='dialog']//button[@type='submit']");
      oda.open("/");
      oda.find(
          "//section[.//h2[starts-with(., 'Your links')]]"
              + "//a[@href='https://trains.lowland.example/'][contains(@rel, 'noreferrer')]");
      oda.type("Type to find a tile; Enter opens the first", "lowland");
      oda.find(HITS + "//a[contains(@class, 'first')][.//b[.='Lowland Trains']]");
      oda.keys(Keys.ESCAPE);
      oda.click("//button[@aria-label='More about Lowland Trains']");
      oda.click("//*[@role='menuitem'][.='Change']");
      oda.press("Remove");
      oda.seesNot("Lowland Trains");
      // Whose unit may keep anything.
      emre.signIn("emre.demir").open("/suggest");
      emre.sees("You can keep links of your own to anything.");
      emre.press("New link of your own");
      emre.type("Name", "Anything");
      emre.find("//*[@role='dialog']//input[@id='link-address']")
          .sendKeys("https://else.example/trains");
      emre.click("//*[@role='dialog']//button[@type='submit']");
      emre.seesNot("Only you see it.");
      emre.open("/");
      emre.find("//a[@href='https://else.example/trains']");
      menu(emre, "Anything", "Change");
      emre.press("Remove");
      emre.seesNot("else.example");
    }
  }

  /** Two suggest the same app; it is accepted once, and both have its tile at once. */
  @Test
  void anAppSuggestedByTwo() {
    try (Browser oda = new Browser();
        Browser emre = new Browser();
        Browser ines = new Browser()) {
      suggest(oda.signIn("oda.brekke"), "Hitch Counter", "The deck crews");
      // Half filled, it is there again after a reload.
      oda.type("Name of the app", "Another");
      oda.until(
          "it is kept",
          () ->
              "Another"
                  .equals(oda.asked("/api/my/unsent/suggested", "form => form.fields.name ?? ''")));
      oda.open("/suggest");
      oda.until(
          "it is there again",
          () -> "Another".equals(oda.field("Name of the app").getDomProperty("value")));
      oda.type("Name of the app", "");
      suggest(emre.signIn("emre.demir"), "HitchCounter", "The yard");
      oda.open("/");
      oda.sees("Also yours");
      emre.open("/");
      emre.sees("Also yours");
      oda.type("Type to find a tile; Enter opens the first", "hitch");
      ines.signIn("ines.roth").open("/desk/docket");
      ines.click("//a[.//*[.='2 suggest the same app'] and .//b[contains(., 'Hitch')]]");
      ines.sees("For: The deck crews.");
      ines.sees("For: The yard.");
      ines.axe();
      ines.type("Name", "Hitch Counter");
      ines.type("One line on what it is for", "Knots tied today");
      ines.type("Note to whoever suggested it", "Good idea.");
      ines.press("Accept, for 2 people");
      // It comes by itself, and what was typed stays.
      oda.find(HITS + "//a[contains(@class, 'first')][.//b[.='Hitch Counter']]");
      assertThat(oda.field("Type to find a tile; Enter opens the first").getDomProperty("value"))
          .isEqualTo("hitch");
      emre.find("//a[.//b[.='Hitch Counter']][.//*[.='new']]");
      assertThat(Stage.get().mail("oda.brekke@ternsound.example", "Hitch Counter").text())
          .contains("has been accepted");
      oda.open("/suggest");
      oda.sees("Good idea.");
      ines.open("/desk/suggestions");
      ines.sees("suggested by 2");
      ines.axe();
      ines.fits();
      String app =
          String.valueOf(
              ines.asked("/api/apps?find=Hitch%20Counter", "page => page.lines[0].app.id"));
      ines.made(
          "PUT", "/api/apps/" + app + "/state", "{\"base\": \"OPEN\", \"state\": \"RETIRED\"}");
    }
  }

  private static void suggest(Browser who, String name, String whom) {
    who.open("/suggest");
    who.type("Name of the app", name);
    who.find("//input[@id='suggest-address']").sendKeys("https://knots.tally.example/app");
    who.type("Who needs it", whom);
    who.type("What for", "We count them on paper.");
    who.press("Suggest an app");
    who.sees("Your suggestion is sent.");
    who.sees(name);
  }

  /** Handed back, it goes at once; asked for again, it waits. */
  @Test
  void handedBackAndAskedForAgain() {
    try (Browser oda = new Browser();
        Browser ines = new Browser()) {
      ines.signIn("ines.roth");
      oda.signIn("oda.brekke").sees("Also yours");
      String app =
          String.valueOf(ines.asked("/api/apps?find=Berthboard", "page => page.lines[0].app.id"));
      String role =
          String.valueOf(
              ines.asked(
                  "/api/apps/" + app, "app => app.entitlements.find(e => e.name === 'Viewer').id"));
      ines.made(
          "POST",
          "/api/entitlements/" + role + "/grants",
          """
          {"subjects": [{"kind": "person", "id": "%s"}], "from": null, "until": null,
           "reason": "For the quay."}"""
              .formatted(ines.idOf("oda.brekke")));
      // Given: it comes by itself, and says that it is new.
      oda.find("//a[.//b[.='Berthboard']][.//*[.='new']]");
      menu(oda, "Berthboard", "Why do I have this?");
      oda.sees("It was granted to you. By Ines Roth");
      oda.sees("For the quay.");
      oda.press("Hand it back");
      oda.sees("You no longer hold Berthboard · Viewer");
      oda.sees("1 tile goes: Berthboard");
      oda.axe();
      oda.click("//*[@role='dialog']//button[@type='submit']");
      oda.until(
          "the tile has gone",
          () ->
              Boolean.FALSE.equals(
                  oda.script(
                      "return [...document.querySelectorAll('.tile b')]"
                          + ".some(b => b.innerText === 'Berthboard')")));
      oda.type("Type to find a tile; Enter opens the first", "berthboard");
      oda.follow("Ask for berthboard");
      oda.click("//a[.//b[.='Berthboard · Viewer']]");
      oda.type("What you need it for", "For the quay again.");
      oda.press("Send request");
      oda.sees("Berthboard · Viewer");
      oda.press("Withdraw");
      oda.sees("withdrawn");
    }
  }

  /** On a device that others use too nothing of a person stays. */
  @Test
  void aSharedDevice() {
    try (Browser bridge = new Browser()) {
      bridge.signIn("oda.brekke").open("/holdings").sees("Crewsheet · Viewer");
      bridge.open("/").sees("Pinned");
      assertThat(kept(bridge)).isEmpty();
      bridge.press("Sign out");
      bridge.sees("Sign-in name or email address");
      assertThat(kept(bridge)).isEmpty();
      bridge.script("history.back()");
      bridge.sees("Sign-in name or email address");
      assertThat(bridge.text()).doesNotContain("Pinned", "Crewsheet · Viewer", "Hello");
      bridge.signIn("lena.aho").sees("Also yours");
      assertThat(bridge.text()).doesNotContain("Pinned", "Wind today");
      bridge.press("Sign out");
      bridge.sees("Sign-in name or email address");
      // On one's own device the front page stays, until one signs out.
      bridge.tick("Only I use this device");
      bridge.axe();
      bridge.type("Sign-in name or email address", "oda.brekke");
      bridge.type("Password", eleutheria.demo.LoadDemo.PASSWORD);
      bridge.press("Sign in");
      bridge.sees("Pinned");
      bridge.until("it is kept", () -> kept(bridge).contains("Kept") || !kept(bridge).isEmpty());
      bridge.press("Sign out");
      bridge.sees("Sign-in name or email address");
      assertThat(kept(bridge)).isEmpty();
    }
  }

  /** What the browser has of somebody: its stores, and the answers that it has kept. */
  private static String kept(Browser browser) {
    Object found =
        browser.later(
            """
            const done = arguments[0];
            (async () => {
              const texts = [JSON.stringify(localStorage), JSON.stringify(sessionStorage)];
              for (const name of await caches.keys()) {
                for (const request of await (await caches.open(name)).keys()) {
                  if (new URL(request.url).pathname.startsWith('/api')) texts.push(request.url);
                }
              }
              done(texts.filter(text => text !== '{}').join(' '));
            })();
            """);
    return String.valueOf(found);
  }

  /** Without network the last front page is there, on one's own device alone. */
  @Test
  void offline() throws IOException {
    try (Line line = new Line(Stage.get().base);
        Browser own = new Browser(390, 844).at(line.address());
        Browser shared = new Browser().at(line.address())) {
      own.open("/sign-in");
      own.tick("Only I use this device");
      own.type("Sign-in name or email address", "oda.brekke");
      own.type("Password", eleutheria.demo.LoadDemo.PASSWORD);
      own.press("Sign in");
      own.sees("Pinned");
      shared.signIn("lena.aho").sees("Also yours");
      for (Browser browser : new Browser[] {own, shared}) {
        browser.later(
            "const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(true));");
        // The worker has the page from the next visit on.
        browser.open("/");
        browser.until(
            "the worker has it",
            () ->
                Boolean.TRUE.equals(browser.script("return !!navigator.serviceWorker.controller")));
      }
      line.cut();
      own.open("/");
      own.sees("There is no network. This is your front page as it was");
      own.sees("Pinned");
      own.type("Type to find a tile; Enter opens the first", "crew");
      own.find(HITS + "//a[contains(@class, 'first')][.//b[.='Crewsheet']]");
      own.keys(Keys.ENTER);
      own.sees("Crewsheet cannot be opened without a network");
      own.axe();
      shared.open("/");
      shared.sees("The server does not answer.");
      assertThat(shared.text()).doesNotContain("Lena", "Farebox", "Also yours");
      line.mend();
      own.open("/");
      own.seesNot("There is no network");
      own.sees("Pinned");
    }
  }
}
