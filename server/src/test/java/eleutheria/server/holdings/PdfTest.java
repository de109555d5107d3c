package eleutheria.server.holdings;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.openpdf.text.pdf.PdfReader;
import org.openpdf.text.pdf.parser.PdfTextExtractor;

class PdfTest {
  private static ReportFile.Head head(long total) {
    return new ReportFile.Head(
        7,
        "Who holds high-sensitivity access",
        "Tern Sound Ferries",
        "Ines Roth",
        Instant.parse("2026-11-27T08:00:00Z"),
        Instant.parse("2026-11-26T22:59:59Z"),
        42,
        "ab".repeat(32),
        "{}",
        "high sensitivity",
        List.of(ReportColumn.PERSON, ReportColumn.ROLE, ReportColumn.GROUNDS, ReportColumn.UNTIL),
        total,
        Map.of("Deck crew", 3, "Safety", 1));
  }

  private static PdfReader written(List<List<String>> lines, long all) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Pdf pdf = new Pdf(out, ZoneId.of("Europe/Oslo"));
    pdf.begin(head(all));
    for (List<String> line : lines) {
      pdf.line(line);
    }
    pdf.end(all, "00");
    return new PdfReader(out.toByteArray());
  }

  @Test
  void namesInEveryScriptOfTheOrganisationAreDrawn() throws IOException {
    PdfReader reader =
        written(
            List.of(
                List.of("Παπαδάκη, Ελένη", "Viewer", "filter/hand group/request", "2027-01-15"),
                List.of("Шевченко, Олена", "Viewer", "filter/hand group/request", "2027-01-15"),
                List.of("حداد, ليلى", "Viewer", "filter/hand group/request", "2027-01-15"),
                List.of("王, 小明", "Viewer", "filter/hand group/request", "2027-01-15"),
                List.of("Ødegaard, Åse", "Viewer", "filter/hand group/request", "2027-01-15")),
            5);
    String text = new PdfTextExtractor(reader).getTextFromPage(1);
    assertThat(text)
        .contains("Παπαδάκη", "Шевченко", "小明", "Ødegaard")
        .contains("ledger position 42", "as of 26 Nov 2026, 23:59", "Deck crew")
        .contains("Shows high sensitivity.", "through a filter, by an administrator", "15 Jan 2027")
        .doesNotContain("filter/hand");
    // Arabic is joined and turned, so its letters are others than were written.
    assertThat(text.codePoints().anyMatch(c -> c >= 0xFB50 && c <= 0xFEFF)).isTrue();
    String raw = new String(reader.getPageContent(1), StandardCharsets.ISO_8859_1);
    assertThat(raw).contains("BT");
  }

  @Test
  void whatIsNotPrintedIsSaid() throws IOException {
    List<String> line = List.of("Brekke, Oda", "Viewer", "filter/hand group/request", "2027-01-15");
    PdfReader reader = written(java.util.Collections.nCopies(Pdf.MOST + 20, line), Pdf.MOST + 20);
    String last = new PdfTextExtractor(reader).getTextFromPage(reader.getNumberOfPages());
    assertThat(last).contains("20 more lines are not printed");
  }
}
