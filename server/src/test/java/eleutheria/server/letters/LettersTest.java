package eleutheria.server.letters;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Samples;
import eleutheria.server.testing.Visitor;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMultipart;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

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
      String html = letters.html("Åse", one.letter(), null);
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
    assertThat(letters.html("<b>Eve</b>", hostile, null))
        .doesNotContain("<img")
        .doesNotContain("<b>Eve")
        .contains("href=\"https://a.example/?a=1&amp;b=&quot;2&quot;\"");
  }

  @Test
  void theMarkComesWithThemWhereMailProgramsDrawIt() throws Exception {
    Visitor ines = server.signedIn("ines");
    JsonNode before = ines.get("/api/brand").expect(200).json().path("brand");
    ByteArrayOutputStream png = new ByteArrayOutputStream();
    ImageIO.write(new BufferedImage(16, 16, BufferedImage.TYPE_INT_ARGB), "png", png);
    String svg =
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 2 2'><path d='M0 0h2v2z'/></svg>";
    Letter letter = Kinds.declined("S-1", "Tide Clock", "https://a.example/");
    assertThat(letters.message("oda@x.example", "Oda", letter).getContent())
        .asInstanceOf(InstanceOfAssertFactories.type(MimeMultipart.class))
        .satisfies(whole -> assertThat(parts(whole)).doesNotContain("image/png"));

    JsonNode drawn = worn(ines, before, ines.upload("/api/pictures", svg.getBytes(UTF_8)));
    assertThat(letters.mark()).isEmpty();
    JsonNode kept = worn(ines, drawn, ines.upload("/api/pictures", png.toByteArray()));
    MimeMultipart whole =
        (MimeMultipart) letters.message("oda@x.example", "Oda", letter).getContent();
    assertThat(parts(whole)).contains("text/html cid:mark", "image/png <mark>");
    // On the page it is asked for here, and nowhere else.
    assertThat(ines.get("/api/letters/granted").expect(200).body())
        .contains("<img src=\"/api/pictures/" + kept.path("mark").asString().substring(4) + "\"");
    worn(ines, kept, before.path("mark").asString());
  }

  private static JsonNode worn(Visitor ines, JsonNode brand, Visitor.Answer uploaded) {
    return worn(ines, brand, uploaded.expect(200).json().path("picture").asString());
  }

  private static JsonNode worn(Visitor ines, JsonNode brand, String mark) {
    JsonNode wanted = ((ObjectNode) brand.deepCopy()).put("mark", mark);
    ines.put("/api/brand", Map.of("base", brand, "wanted", wanted)).expect(200);
    return wanted;
  }

  /** The parts of a message: their type, and the mark that is named in them or that they are. */
  private static List<String> parts(MimeMultipart whole) throws Exception {
    List<String> found = new ArrayList<>();
    for (int i = 0; i < whole.getCount(); i++) {
      MimeBodyPart part = (MimeBodyPart) whole.getBodyPart(i);
      if (part.getContent() instanceof MimeMultipart inner) {
        found.addAll(parts(inner));
      } else {
        String id = part.getContentID();
        boolean names = part.getContent() instanceof String text && text.contains("cid:mark");
        found.add(
            part.getDataHandler().getContentType().replaceAll(";.*", "")
                + (id != null ? " " + id : names ? " cid:mark" : ""));
      }
    }
    return found;
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
