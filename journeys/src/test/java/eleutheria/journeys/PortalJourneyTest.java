package eleutheria.journeys;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class PortalJourneyTest {
  private static final int TILES = 60;

  /** Sixty tiles: one query to the server, little to load, and good to use on a phone. */
  @Test
  void aFrontPageOfSixtyTiles() {
    try (ManyTiles many = Stage.get().manyTiles(TILES);
        Browser phone = new Browser(390, 844)) {
      phone.signIn("oda.brekke").sees("Many 60");
      Number bytes =
          (Number)
              phone.script(
                  "return performance.getEntriesByType('resource')"
                      + ".filter(e => e.name.endsWith('.js'))"
                      + ".reduce((sum, e) => sum + e.encodedBodySize, 0)");
      assertThat(bytes.longValue()).isBetween(1L, 160L * 1024);
      phone.open("/");
      phone.sees("Many 60");
      Object asked =
          phone.script(
              "return performance.getEntriesByType('resource').map(e => new URL(e.name))"
                  + ".filter(u => u.pathname.startsWith('/api/') && u.pathname !== '/api/stream')"
                  // The organisation's mark is a file that browsers keep.
                  + ".map(u => u.pathname).filter(p => !p.startsWith('/api/pictures/'))"
                  + ".join(' ')");
      assertThat(asked).isEqualTo("/api/front");
      phone.fits();
      phone.axe();
      phone.keys("many 42");
      phone.find("//a[contains(@class, 'first')][.//b[.='Many 42']]");
      phone.fits();
    }
  }

  /** Without a mouse, and what is not open says whom to ask. */
  @Test
  void whatIsNotOpenSaysWhatToDo() {
    try (Browser browser = new Browser(390, 844)) {
      browser.signIn("oda.brekke");
      browser.open("/ask");
      browser.heading("Ask for access");
      browser.axe();
      browser.fits();
      browser.type("Name of an app or entitlement, or what you need it for", "hullcare");
      browser.sees("Hullcare · Technician");
      browser.open("/holdings");
      browser.sees("Refund Bench · Asker");
      browser.click("//li[.//h3[.='Refund Bench · Asker']]//button[.='Why']");
      browser.sees("Everyone whose unit is Ticketing has it.");
      browser.axe();
      browser.fits();
      browser.open("/requests");
      browser.sees("Refund Bench · Approver");
      browser.axe();
      browser.fits();
      browser.open("/go/00000000-0000-7000-8000-00000000ffff");
      browser.sees("There is no such tile");
      browser.open("/me");
      browser.heading("Your profile");
      browser.fits();
    }
  }
}
