package eleutheria.server.holdings;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** How a report is written: its head, one line after the other, its foot. */
interface ReportFile {
  /**
   * What a report says of itself.
   *
   * @param spec what was asked, as canonical JSON
   * @param asks the same in words
   */
  record Head(
      long number,
      String name,
      String organisation,
      String maker,
      Instant made,
      Instant asOf,
      long position,
      String entryHash,
      String spec,
      String asks,
      List<ReportColumn> columns,
      long total,
      Map<String, Integer> byUnit) {}

  void begin(Head head) throws IOException;

  void line(List<String> values) throws IOException;

  /**
   * @param lines how many there were
   * @param digest SHA-256 over what is proven of them
   */
  void end(long lines, String digest) throws IOException;

  String type();

  String ending();

  /**
   * Comma-separated values (RFC 4180) in UTF-8, with one line of heads. What a spreadsheet would
   * take for a formula is made plain text by an apostrophe before it.
   */
  final class Csv implements ReportFile {
    private static final String FORMULA = "=+-@\t\r";

    private final CSVPrinter printer;

    Csv(OutputStream out) {
      try {
        this.printer =
            new CSVPrinter(new OutputStreamWriter(out, StandardCharsets.UTF_8), CSVFormat.RFC4180);
      } catch (IOException e) {
        throw new UncheckedIOException("a printer writes nothing before its first line", e);
      }
    }

    @Override
    public void begin(Head head) throws IOException {
      line(head.columns().stream().map(ReportColumn::word).toList());
    }

    @Override
    public void line(List<String> values) throws IOException {
      for (String value : values) {
        boolean formula = !value.isEmpty() && FORMULA.indexOf(value.charAt(0)) >= 0;
        printer.print(formula ? "'" + value : value);
      }
      printer.println();
    }

    @Override
    public void end(long lines, String digest) throws IOException {
      printer.flush();
    }

    @Override
    public String type() {
      return "text/csv;charset=utf-8";
    }

    @Override
    public String ending() {
      return "csv";
    }
  }
}
