package eleutheria.server.holdings;

import java.io.IOException;
import java.io.OutputStream;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.openpdf.text.Phrase;

/**
 * A report to be printed: what it asks and of when, people by unit as bars, and its lines. Of more
 * than {@value #MOST} lines it says that the rest is only in the other formats.
 */
final class Pdf implements ReportFile {
  static final int MOST = 5_000;

  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("d MMM uuuu, HH:mm", Locale.UK);
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.UK);
  private static final Set<ReportColumn> DAYS =
      EnumSet.of(
          ReportColumn.SINCE,
          ReportColumn.UNTIL,
          ReportColumn.LAST_USED,
          ReportColumn.ON,
          ReportColumn.STATED,
          ReportColumn.LEFT);
  private static final Set<ReportColumn> BROAD =
      EnumSet.of(ReportColumn.PERSON, ReportColumn.GROUNDS);
  private static final float WIDE = 1.6f;

  private final OutputStream out;
  private final ZoneId zone;
  private final PdfFonts title = PdfFonts.title(17);
  private final PdfFonts small = PdfFonts.text(7.5f);
  private final PdfFonts text = PdfFonts.text(8.5f);
  private List<ReportColumn> columns = List.of();
  private @Nullable Paper paper;
  private long lines;

  Pdf(OutputStream out, ZoneId zone) {
    this.out = out;
    this.zone = zone;
  }

  @Override
  public void begin(Head head) throws IOException {
    Phrase foot =
        small.plain(
            "Report %d · as of %s · ledger position %d"
                .formatted(head.number(), time(head.asOf()), head.position()));
    Paper paper = new Paper(out, head.name(), foot, small);
    paper.heading(title.bold(head.name()));
    paper.paragraph(
        text.plain(
            "%s · %,d lines · as of %s · report %d, made %s by %s"
                .formatted(
                    head.organisation(),
                    head.total(),
                    time(head.asOf()),
                    head.number(),
                    time(head.made()),
                    head.maker())));
    paper.paragraph(text.plain("Shows " + head.asks() + "."));
    paper.paragraph(
        small.plain(
            "Ledger position %d, entry hash %s".formatted(head.position(), head.entryHash())));
    if (!text.complete()) {
      paper.paragraph(text.bold("Fonts are missing here; some names cannot be drawn."));
    }
    bars(paper, head.byUnit());
    columns = head.columns();
    float[] shares = new float[Math.max(1, columns.size())];
    for (int i = 0; i < shares.length; i++) {
      shares[i] = i < columns.size() && BROAD.contains(columns.get(i)) ? WIDE : 1;
    }
    paper.table(columns.stream().map(c -> small.bold(c.label())).toList(), shares);
    this.paper = paper;
  }

  private String time(Instant at) {
    return TIME.withZone(zone).format(at);
  }

  /** People by unit, longest bar first. */
  private void bars(Paper paper, Map<String, Integer> byUnit) {
    paper.space(8);
    if (byUnit.size() < 2) {
      return;
    }
    int most = byUnit.values().stream().mapToInt(Integer::intValue).max().orElse(1);
    byUnit.entrySet().stream()
        .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
        .limit(12)
        .forEach(
            each ->
                paper.bar(
                    text.plain(each.getKey().isEmpty() ? "–" : each.getKey()),
                    (double) each.getValue() / most,
                    text.plain("%,d".formatted(each.getValue()))));
    paper.space(10);
  }

  /** A value as it is read on paper; the other formats have it as programs read it. */
  private static String read(ReportColumn column, String value) {
    if (column == ReportColumn.GROUNDS) {
      return Arrays.stream(value.split(" "))
          .map(ground -> GROUNDS.getOrDefault(ground, ground))
          .collect(Collectors.joining("; "));
    }
    if (DAYS.contains(column) && value.matches("\\d{4}-\\d{2}-\\d{2}.*")) {
      return DAY.format(LocalDate.parse(value.substring(0, 10))) + value.substring(10);
    }
    return value;
  }

  private static final Map<String, String> GROUNDS = grounds();

  private static Map<String, String> grounds() {
    Map<String, String> by =
        Map.of(
            "person", "granted directly", "group", "through a group", "filter", "through a filter");
    Map<String, String> sources =
        Map.of(
            "hand", "",
            "request", "on request",
            "import", "from a source",
            "review", "by a review");
    Map<String, String> all = new HashMap<>();
    by.forEach(
        (one, told) ->
            sources.forEach(
                (source, whence) ->
                    all.put(one + "/" + source, whence.isEmpty() ? told : told + ", " + whence)));
    return all;
  }

  @Override
  public void line(List<String> values) throws IOException {
    if (++lines > MOST || paper == null) {
      return;
    }
    List<Phrase> cells = new ArrayList<>();
    List<Integer> fromTheRight = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      String value = i < columns.size() ? read(columns.get(i), values.get(i)) : values.get(i);
      cells.add(small.plain(value));
      if (PdfFonts.fromTheRight(value)) {
        fromTheRight.add(i);
      }
    }
    paper.row(cells, fromTheRight);
  }

  @Override
  public void end(long all, String digest) throws IOException {
    if (paper == null) {
      return;
    }
    paper.space(6);
    if (all > MOST) {
      paper.paragraph(
          text.bold(
              "%,d more lines are not printed; the CSV and JSON Lines files have them all."
                  .formatted(all - MOST)));
    }
    paper.paragraph(
        small.plain(
            "%,d lines. SHA-256 over what the facts prove of them: %s".formatted(all, digest)));
    paper.close();
  }

  @Override
  public String type() {
    return "application/pdf";
  }

  @Override
  public String ending() {
    return "pdf";
  }
}
