package eleutheria.server.holdings;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;

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
    private final OutputStream out;
    private final StringBuilder line = new StringBuilder();

    Csv(OutputStream out) {
      this.out = out;
    }

    @Override
    public void begin(Head head) throws IOException {
      line(head.columns().stream().map(ReportColumn::word).toList());
    }

    @Override
    public void line(List<String> values) throws IOException {
      line.setLength(0);
      for (int i = 0; i < values.size(); i++) {
        if (i > 0) {
          line.append(',');
        }
        cell(values.get(i));
      }
      line.append("\r\n");
      out.write(line.toString().getBytes(StandardCharsets.UTF_8));
    }

    private void cell(String value) {
      String safe =
          !value.isEmpty() && "=+-@\t\r".indexOf(value.charAt(0)) >= 0 ? "'" + value : value;
      boolean quoted = false;
      for (int i = 0; i < safe.length() && !quoted; i++) {
        quoted = "\",\r\n".indexOf(safe.charAt(i)) >= 0;
      }
      if (quoted) {
        line.append('"').append(safe.replace("\"", "\"\"")).append('"');
      } else {
        line.append(safe);
      }
    }

    @Override
    public void end(long lines, String digest) {}

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
