package eleutheria.server.letters;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Samples;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

class LettersTest {
  private static final Pattern LOADED =
      Pattern.compile("(?i)<(img|script|link|iframe)|url\\(|@import");

  private final RunningServer server = RunningServer.shop();
  private final Letters letters = server.context().getBean(Letters.class);

  @Test
  void everyKindLeadsFirstToItsOneActionAndLoadsNothing() {
    List<Kinds.Sample> all =
        Kinds.samples("Tern Sound Ferries", "https://portal.example", LocalDate.of(2026, 3, 2));
    assertThat(all).extracting(Kinds.Sample::kind).doesNotHaveDuplicates();
    for (Kinds.Sample one : all) {
      String html = letters.html("Åse", one.letter());
      String text = letters.text("Åse", one.letter());
      assertThat(html).doesNotContainPattern(LOADED).contains("Hello Åse,");
      assertThat(text).matches(t -> !Samples.readsLikeCode(t.replaceAll("https://\\S+", "")));
      // Why it comes stands at the end of both.
      assertThat(html).contains("class=\"why\">You get this");
      assertThat(text.strip().lines().toList().getLast()).startsWith("You get this");
      Letter.Action action = one.letter().action();
      if (action == null) {
        assertThat(html).doesNotContain("<a ");
      } else {
        assertThat(html.indexOf("<a "))
            .isEqualTo(html.indexOf("<a class=\"act\" href=\"" + action.address() + "\""));
        assertThat(text).contains(action.label() + ":\n" + action.address());
      }
    }
  }

  @Test
  void whatPeopleHaveNamedIsNeverMarkup() {
    Letter hostile =
        Kinds.declined("S-1", "<img src=x onerror=alert(1)>", "https://a.example/?a=1&b=\"2\"");
    assertThat(letters.html("<b>Eve</b>", hostile))
        .doesNotContain("<img")
        .doesNotContain("<b>Eve")
        .contains("href=\"https://a.example/?a=1&amp;b=&quot;2&quot;\"");
  }

  @Test
  void theyAreShownAsTheyArriveToWhoeverSetsTheBrand() {
    Visitor ines = server.signedIn("ines");
    List<String> kinds =
        ines.get("/api/letters").expect(200).json().path("kinds").findValuesAsString("kind");
    assertThat(kinds).contains("invitation", "access-changed");
    assertThat(ines.get("/api/letters/granted").expect(200).body())
        .contains("You have been granted Refund Bench");
    ines.get("/api/letters/none-such").expect(404);
    server.signedIn("oda").get("/api/letters").expect(403);
    server.signedIn("oda").get("/api/letters/granted").expect(403);
    server.nobody().get("/api/letters/granted").expect(401);
  }
}
