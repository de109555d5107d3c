package eleutheria.server.holdings;

import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.CanonicalJson;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * JSON Lines: the first line says what the report is and where the ledger stood, the last how many
 * lines there were and the digest of what is proven; between them one object a line. All of it is
 * canonical (RFC 8785).
 */
final class JsonLines implements ReportFile {
  private final OutputStream out;
  private List<String> names = List.of();

  JsonLines(OutputStream out) {
    this.out = out;
  }

  @Override
  public void begin(Head head) throws IOException {
    names = head.columns().stream().map(ReportColumn::word).toList();
    Map<String, Object> first = new TreeMap<>();
    first.put("report", String.valueOf(head.number()));
    first.put("name", head.name());
    first.put("organisation", head.organisation());
    first.put("by", head.maker());
    first.put("made", Moments.text(head.made()));
    first.put("asOf", Moments.text(head.asOf()));
    first.put("position", head.position());
    first.put("entryHash", head.entryHash());
    first.put("query", head.spec());
    first.put("columns", names);
    write(CanonicalJson.write(first));
  }

  @Override
  public void line(List<String> values) throws IOException {
    Map<String, Object> line = new TreeMap<>();
    for (int i = 0; i < names.size(); i++) {
      line.put(names.get(i), values.get(i));
    }
    write(CanonicalJson.write(line));
  }

  @Override
  public void end(long lines, String digest) throws IOException {
    write(CanonicalJson.write(Map.of("lines", lines, "digest", digest)));
  }

  private void write(String line) throws IOException {
    out.write((line + "\n").getBytes(StandardCharsets.UTF_8));
  }

  @Override
  public String type() {
    return "application/jsonl";
  }

  @Override
  public String ending() {
    return "jsonl";
  }
}
