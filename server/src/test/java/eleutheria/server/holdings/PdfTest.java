package eleutheria.server.holdings;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.openpdf.text.pdf.PdfReader;
import org.openpdf.text.pdf.parser.PdfTextExtractor;
import org.verapdf.gf.foundry.VeraGreenfieldFoundryProvider;
import org.verapdf.pdfa.Foundries;
import org.verapdf.pdfa.PDFAParser;
import org.verapdf.pdfa.flavours.PDFAFlavour;

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
    return new PdfReader(bytes(lines, all));
  }

  private static byte[] bytes(List<List<String>> lines, long all) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Pdf pdf = new Pdf(out, ZoneId.of("Europe/Oslo"));
    pdf.begin(head(all));
    for (List<String> line : lines) {
      pdf.line(line);
    }
    pdf.end(all, "00");
    return out.toByteArray();
  }

  /** What is told against its being PDF/UA-1 (ISO 14289-1); nothing where it is. */
  private static List<String> faults(byte[] pdf) throws Exception {
    VeraGreenfieldFoundryProvider.initialise();
    try (PDFAParser parser =
        Foundries.defaultInstance()
            .createParser(new ByteArrayInputStream(pdf), PDFAFlavour.PDFUA_1)) {
      return Foundries.defaultInstance()
          .createValidator(PDFAFlavour.PDFUA_1, false)
          .validate(parser)
          .getTestAssertions()
          .stream()
          .map(one -> one.getRuleId().getClause() + ": " + one.getMessage())
          .distinct()
          .toList();
    }
  }

  @Test
  void itIsReadAloudAsWhatItIs() throws Exception {
    List<String> line = List.of("Brekke, Oda", "Viewer", "filter/hand group/request", "2027-01-15");
    List<String> arabic = List.of("حداد, ليلى", "Viewer", "person/hand", "");
    String endless = "Refund Bench · Approver; ".repeat(400);
    List<List<String>> lines = new ArrayList<>(Collections.nCopies(60, line));
    lines.add(arabic);
    // Higher than a page, so that it goes on over the next ones.
    lines.add(List.of("Aho, Lena", endless, "person/hand", "2027-01-15"));
    lines.addAll(Collections.nCopies(5, line));
    byte[] pdf = bytes(lines, lines.size());
    assertThat(faults(pdf)).isEmpty();
    PdfReader reader = new PdfReader(pdf);
    assertThat(reader.getNumberOfPages()).isGreaterThan(3);
    // What only decorates is not read: the heads are told once, the foot not at all.
    PdfTextExtractor extractor = new PdfTextExtractor(reader);
    StringBuilder read = new StringBuilder();
    for (int page = 1; page <= reader.getNumberOfPages(); page++) {
      read.append(extractor.getTextFromPage(page)).append('\n');
    }
    assertThat(read.toString().split("Grounds", -1)).hasSize(2);
    assertThat(read.toString().split("Brekke, Oda", -1)).hasSize(66);
    assertThat(read.toString().split("Approver;", -1)).hasSize(401);
    assertThat(read.toString()).doesNotContain("Page 2").contains("67 lines.");
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
        .contains("Ledger position 42", "as of 26 Nov 2026, 23:59", "Deck crew")
        .contains("Shows high sensitivity.", "through a filter; through a group, on request")
        .doesNotContain("filter/hand");
    // Arabic is joined and turned, so its letters are others than were written.
    assertThat(text.codePoints().anyMatch(c -> c >= 0xFB50 && c <= 0xFEFF)).isTrue();
    String raw = new String(reader.getPageContent(1), StandardCharsets.ISO_8859_1);
    assertThat(raw).contains("BT");
  }

  @Test
  void whatIsNotPrintedIsSaid() throws IOException {
    List<String> line = List.of("Brekke, Oda", "Viewer", "filter/hand group/request", "2027-01-15");
    PdfReader reader = written(Collections.nCopies(Pdf.MOST + 20, line), Pdf.MOST + 20);
    String last = new PdfTextExtractor(reader).getTextFromPage(reader.getNumberOfPages());
    assertThat(last).contains("20 more lines are not printed");
  }
}
