package eleutheria.server.holdings;

import java.awt.Color;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.openpdf.text.Document;
import org.openpdf.text.DocumentException;
import org.openpdf.text.Element;
import org.openpdf.text.PageSize;
import org.openpdf.text.Paragraph;
import org.openpdf.text.Phrase;
import org.openpdf.text.Rectangle;
import org.openpdf.text.pdf.ColumnText;
import org.openpdf.text.pdf.PdfContentByte;
import org.openpdf.text.pdf.PdfPCell;
import org.openpdf.text.pdf.PdfPTable;
import org.openpdf.text.pdf.PdfPageEventHelper;
import org.openpdf.text.pdf.PdfTemplate;
import org.openpdf.text.pdf.PdfWriter;

/**
 * A report to be printed: what it asks and of when, people by unit as bars, and its lines. Of more
 * than {@value #MOST} lines it says that the rest is only in the other formats.
 */
final class Pdf implements ReportFile {
  static final int MOST = 5_000;

  private static final Color INK = new Color(0x14, 0x26, 0x2b);
  private static final Color PALE = new Color(0x58, 0x6b, 0x6f);
  private static final Color BAR = new Color(0x2f, 0x5d, 0x58);
  private static final Color RULE = new Color(0xcb, 0xd7, 0xd3);
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
  private static final int TABLE_PIECE = 200;

  private final OutputStream out;
  private final ZoneId zone;
  private final PdfFonts large = new PdfFonts(15);
  private final PdfFonts small = new PdfFonts(7.5f);
  private final PdfFonts text = new PdfFonts(8.5f);
  private final Document document = new Document(PageSize.A4.rotate(), 36, 36, 36, 40);
  private List<ReportColumn> columns = List.of();
  private @Nullable PdfPTable table;
  private long lines;

  Pdf(OutputStream out, ZoneId zone) {
    this.out = out;
    this.zone = zone;
  }

  @Override
  public void begin(Head head) throws IOException {
    try {
      PdfWriter writer = PdfWriter.getInstance(document, out);
      writer.setPageEvent(new Foot(head));
      document.addTitle(head.name());
      document.addCreator("Eleutheria");
      document.open();
      document.add(new Paragraph(large.bold(head.name())));
      document.add(
          new Paragraph(
              text.plain(
                  "%s · %,d lines · as of %s · report %d, made %s by %s"
                      .formatted(
                          head.organisation(),
                          head.total(),
                          time(head.asOf()),
                          head.number(),
                          time(head.made()),
                          head.maker()))));
      document.add(new Paragraph(text.plain("Shows " + head.asks() + ".")));
      document.add(
          new Paragraph(
              small.plain(
                  "Ledger position %d, entry hash %s"
                      .formatted(head.position(), head.entryHash()))));
      if (!text.complete()) {
        document.add(
            new Paragraph(text.bold("Fonts are missing here; some names cannot be drawn.")));
      }
      bars(writer.getDirectContent(), head.byUnit());
      columns = head.columns();
      table = started(columns);
    } catch (DocumentException e) {
      throw new IOException(e);
    }
  }

  private String time(Instant at) {
    return TIME.withZone(zone).format(at);
  }

  /** People by unit, longest bar first. */
  private void bars(PdfContentByte canvas, Map<String, Integer> byUnit) throws DocumentException {
    if (byUnit.size() < 2) {
      document.add(new Paragraph(" "));
      return;
    }
    int most = byUnit.values().stream().mapToInt(Integer::intValue).max().orElse(1);
    PdfPTable chart = new PdfPTable(new float[] {26, 60, 14});
    chart.setWidthPercentage(62);
    chart.setHorizontalAlignment(PdfPTable.ALIGN_LEFT);
    chart.setSpacingBefore(8);
    chart.setSpacingAfter(10);
    byUnit.entrySet().stream()
        .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
        .limit(12)
        .forEach(
            each -> {
              chart.addCell(bare(text.plain(each.getKey().isEmpty() ? "–" : each.getKey())));
              PdfTemplate bar = canvas.createTemplate(280, 7);
              bar.setColorFill(BAR);
              bar.rectangle(0, 0, Math.max(1, 280f * each.getValue() / most), 7);
              bar.fill();
              try {
                PdfPCell cell = new PdfPCell(org.openpdf.text.Image.getInstance(bar), false);
                cell.setBorder(Rectangle.NO_BORDER);
                cell.setVerticalAlignment(PdfPCell.ALIGN_MIDDLE);
                chart.addCell(cell);
              } catch (DocumentException e) {
                throw new IllegalStateException(e);
              }
              chart.addCell(bare(text.plain("%,d".formatted(each.getValue()))));
            });
    document.add(chart);
  }

  private static PdfPCell bare(Phrase phrase) {
    PdfPCell cell = new PdfPCell(phrase);
    cell.setBorder(Rectangle.NO_BORDER);
    cell.setPadding(2);
    return cell;
  }

  private PdfPTable started(List<ReportColumn> columns) {
    PdfPTable started = new PdfPTable(Math.max(1, columns.size()));
    started.setWidthPercentage(100);
    started.setHeaderRows(1);
    started.setComplete(false);
    for (ReportColumn column : columns) {
      PdfPCell cell = new PdfPCell(small.bold(column.label()));
      cell.setBorder(Rectangle.BOTTOM);
      cell.setBorderColor(INK);
      cell.setPadding(3);
      started.addCell(cell);
    }
    return started;
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
            "hand", "by an administrator",
            "request", "on request",
            "import", "from a source",
            "review", "by a review");
    Map<String, String> all = new HashMap<>();
    by.forEach(
        (one, told) ->
            sources.forEach((source, whence) -> all.put(one + "/" + source, told + ", " + whence)));
    return all;
  }

  @Override
  public void line(List<String> values) throws IOException {
    if (++lines > MOST || table == null) {
      return;
    }
    for (int i = 0; i < values.size(); i++) {
      String value = i < columns.size() ? read(columns.get(i), values.get(i)) : values.get(i);
      PdfPCell cell = new PdfPCell(small.plain(value));
      cell.setBorder(Rectangle.BOTTOM);
      cell.setBorderColor(RULE);
      cell.setPadding(3);
      if (PdfFonts.fromTheRight(value)) {
        cell.setRunDirection(PdfWriter.RUN_DIRECTION_RTL);
        cell.setHorizontalAlignment(PdfPCell.ALIGN_RIGHT);
      }
      table.addCell(cell);
    }
    if (lines % TABLE_PIECE == 0) {
      try {
        document.add(table);
      } catch (DocumentException e) {
        throw new IOException(e);
      }
    }
  }

  @Override
  public void end(long all, String digest) throws IOException {
    try {
      if (table != null) {
        table.setComplete(true);
        document.add(table);
      }
      if (all > MOST) {
        document.add(
            new Paragraph(
                text.bold(
                    "%,d more lines are not printed; the CSV and JSON Lines files have them all."
                        .formatted(all - MOST))));
      }
      document.add(
          new Paragraph(
              small.plain(
                  "%,d lines. SHA-256 over what the facts prove of them: %s"
                      .formatted(all, digest))));
      document.close();
    } catch (DocumentException e) {
      throw new IOException(e);
    }
  }

  @Override
  public String type() {
    return "application/pdf";
  }

  @Override
  public String ending() {
    return "pdf";
  }

  /** What every page says at its foot. */
  private final class Foot extends PdfPageEventHelper {
    private final Head head;
    private @Nullable PdfTemplate pages;

    private Foot(Head head) {
      this.head = head;
    }

    @Override
    public void onOpenDocument(PdfWriter writer, Document page) {
      // How many pages there are is known at the end.
      pages = writer.getDirectContent().createTemplate(60, 12);
    }

    @Override
    public void onCloseDocument(PdfWriter writer, Document page) {
      if (pages != null) {
        ColumnText.showTextAligned(
            pages,
            Element.ALIGN_LEFT,
            small.plain("of %d".formatted(writer.getPageNumber() - 1)),
            0,
            2,
            0);
      }
    }

    @Override
    public void onEndPage(PdfWriter writer, Document page) {
      PdfPTable foot = new PdfPTable(1);
      foot.setTotalWidth(page.right() - page.left());
      PdfPCell cell =
          bare(
              small.plain(
                  "Report %d · as of %s · ledger position %d"
                      .formatted(head.number(), time(head.asOf()), head.position())));
      cell.setBorder(Rectangle.TOP);
      cell.setBorderColor(PALE);
      foot.addCell(cell);
      foot.writeSelectedRows(0, -1, page.left(), page.bottom() - 8, writer.getDirectContent());
      if (pages != null) {
        String number = "Page %d".formatted(writer.getPageNumber());
        ColumnText.showTextAligned(
            writer.getDirectContent(),
            Element.ALIGN_RIGHT,
            small.plain(number),
            page.right() - 34,
            page.bottom() - 20,
            0);
        writer.getDirectContent().addTemplate(pages, page.right() - 32, page.bottom() - 22);
      }
    }
  }
}
