package eleutheria.server.holdings;

import java.awt.Color;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.openpdf.text.Document;
import org.openpdf.text.Element;
import org.openpdf.text.PageSize;
import org.openpdf.text.Phrase;
import org.openpdf.text.pdf.ColumnText;
import org.openpdf.text.pdf.PdfContentByte;
import org.openpdf.text.pdf.PdfDictionary;
import org.openpdf.text.pdf.PdfName;
import org.openpdf.text.pdf.PdfPageEventHelper;
import org.openpdf.text.pdf.PdfString;
import org.openpdf.text.pdf.PdfStructureElement;
import org.openpdf.text.pdf.PdfTemplate;
import org.openpdf.text.pdf.PdfWriter;
import org.springframework.web.util.HtmlUtils;

/**
 * Pages to be printed and to be listened to: headings, paragraphs and tables are tagged as what
 * they are, and what only decorates is an artifact (ISO 14289-1, PDF/UA-1). Lengths are in points
 * of 1/72 inch. What has been set is written at once, so a long table takes no more room than its
 * tags.
 */
final class Paper {
  private static final float MARGIN = 36;
  private static final float FOOT = 46;
  private static final float PADDING = 3;
  private static final PdfName SCOPE = new PdfName("Scope");
  private static final PdfName TR = new PdfName("TR");
  private static final PdfName TH = new PdfName("TH");
  private static final PdfName TD = new PdfName("TD");
  private static final PdfName ARTIFACT = new PdfName("Artifact");

  private static final Color INK = new Color(0x14, 0x26, 0x2b);
  private static final Color PALE = new Color(0x58, 0x6b, 0x6f);
  private static final Color RULE = new Color(0xcb, 0xd7, 0xd3);
  private static final Color BAR = new Color(0x2f, 0x5d, 0x58);

  private final Document document =
      new Document(PageSize.A4.rotate(), MARGIN, MARGIN, MARGIN, FOOT);
  private final PdfWriter writer;
  private final PdfContentByte canvas;
  private final PdfStructureElement whole;
  private float y;
  private float[] widths = {};
  private List<Phrase> heads = List.of();
  private @Nullable PdfStructureElement table;

  /**
   * @param foot what stands at the left of every foot; the number of the page stands at the right
   * @param small in what the foot is set
   */
  Paper(OutputStream out, String title, Phrase foot, PdfFonts small) {
    writer = PdfWriter.getInstance(document, out);
    writer.setPdfVersion(PdfWriter.VERSION_1_7);
    writer.setTagged();
    writer.setViewerPreferences(PdfWriter.DisplayDocTitle);
    writer.setXmpMetadata(metadata(title));
    writer.setPageEvent(new Foot(foot, small));
    document.addTitle(title);
    document.addCreator("Eleutheria");
    document.open();
    writer.getExtraCatalog().put(PdfName.LANG, new PdfString("en-GB"));
    canvas = writer.getDirectContent();
    whole = new PdfStructureElement(writer.getStructureTreeRoot(), PdfName.DOCUMENT);
    y = document.top();
  }

  /** The title, and that this is PDF/UA-1, as XMP (ISO 16684-1). */
  private static byte[] metadata(String title) {
    return """
        <?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>
        <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
        <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"
            xmlns:pdfuaid="http://www.aiim.org/pdfua/ns/id/">
        <dc:title><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:title>
        <pdfuaid:part>1</pdfuaid:part>
        </rdf:Description>
        </rdf:RDF>
        <?xpacket end="w"?>"""
        .formatted(HtmlUtils.htmlEscapeDecimal(title, "UTF-8"))
        .getBytes(StandardCharsets.UTF_8);
  }

  void heading(Phrase text) {
    flow(PdfName.H1, text, 20);
  }

  void paragraph(Phrase text) {
    flow(PdfName.P, text, 12);
  }

  void space(float points) {
    y -= points;
  }

  /** Text over the whole width, from here downwards and on over the next pages. */
  private void flow(PdfName as, Phrase text, float leading) {
    PdfStructureElement element = new PdfStructureElement(whole, as);
    ColumnText column = new ColumnText(canvas);
    column.setText(text);
    column.setLeading(leading);
    while (true) {
      column.setSimpleColumn(document.left(), document.bottom(), document.right(), y);
      if (!drawn(column, element)) {
        y = column.getYLine() - 3;
        return;
      }
      turn();
    }
  }

  /** Draws what fits; whether there is more. */
  private boolean drawn(ColumnText column, PdfStructureElement element) {
    canvas.beginMarkedContentSequence(element);
    boolean more = ColumnText.hasMoreText(column.go());
    canvas.endMarkedContentSequence();
    return more;
  }

  private void turn() {
    document.newPage();
    y = document.top();
  }

  /** A line of a chart: what it is of, a bar by its share of the largest, and its figure. */
  void bar(Phrase name, double share, Phrase figure) {
    float height = 13;
    if (y - height < document.bottom()) {
      turn();
    }
    artifact(
        () -> {
          canvas.setColorFill(BAR);
          canvas.rectangle(document.left() + 170, y - 10, Math.max(1, (float) (280 * share)), 7);
          canvas.fill();
          canvas.setColorFill(Color.BLACK);
        });
    // Read as one line: the bar says no more than its figure.
    PdfStructureElement line = new PdfStructureElement(whole, PdfName.P);
    placed(line, name, document.left(), document.left() + 166, Element.ALIGN_LEFT);
    placed(line, figure, document.left() + 456, document.left() + 510, Element.ALIGN_LEFT);
    y -= height;
  }

  private void placed(
      PdfStructureElement element, Phrase text, float left, float right, int align) {
    ColumnText column = new ColumnText(canvas);
    column.setSimpleColumn(text, left, y - 13, right, y, 10, align);
    drawn(column, element);
  }

  /** Begins a table; its heads stand again on every page that it goes on to. */
  void table(List<Phrase> heads, float[] shares) {
    this.heads = heads;
    float all = 0;
    for (float share : shares) {
      all += share;
    }
    widths = new float[shares.length];
    for (int i = 0; i < shares.length; i++) {
      widths[i] = shares[i] / all * (document.right() - document.left());
    }
    table = new PdfStructureElement(whole, PdfName.TABLE);
    PdfStructureElement row = new PdfStructureElement(table, TR);
    List<PdfStructureElement> cells = new ArrayList<>();
    for (int i = 0; i < heads.size(); i++) {
      PdfStructureElement head = new PdfStructureElement(row, TH);
      PdfDictionary scope = new PdfDictionary();
      scope.put(PdfName.O, PdfName.TABLE);
      scope.put(SCOPE, new PdfName("Column"));
      head.put(PdfName.A, scope);
      cells.add(head);
    }
    set(columns(heads, List.of()), cells, INK);
  }

  /**
   * @param rtl the numbers of the cells that are read from the right
   */
  void row(List<Phrase> texts, List<Integer> rtl) {
    PdfStructureElement row = new PdfStructureElement(table, TR);
    List<PdfStructureElement> cells = new ArrayList<>();
    for (int i = 0; i < texts.size(); i++) {
      cells.add(new PdfStructureElement(row, TD));
    }
    if (tall(columns(texts, rtl)) > y - document.bottom() && y < document.top() - 60) {
      turn();
      again();
    }
    set(columns(texts, rtl), cells, RULE);
  }

  private List<ColumnText> columns(List<Phrase> texts, List<Integer> rtl) {
    List<ColumnText> columns = new ArrayList<>();
    for (int i = 0; i < texts.size(); i++) {
      ColumnText column = new ColumnText(canvas);
      column.setText(texts.get(i));
      column.setLeading(9.5f);
      if (rtl.contains(i)) {
        column.setRunDirection(PdfWriter.RUN_DIRECTION_RTL);
      }
      columns.add(column);
    }
    return columns;
  }

  /** How high a row is that has all the room it wants. */
  private float tall(List<ColumnText> columns) {
    float lowest = y;
    for (ColumnText column : bounded(columns, -100_000)) {
      column.go(true);
      lowest = Math.min(lowest, column.getYLine());
    }
    return y - lowest + PADDING;
  }

  private List<ColumnText> bounded(List<ColumnText> columns, float bottom) {
    float left = document.left();
    for (int i = 0; i < columns.size(); i++) {
      columns.get(i).setSimpleColumn(left + PADDING, bottom, left + widths[i] - PADDING, y - 1);
      left += widths[i];
    }
    return columns;
  }

  /** A row, and the rest of it on the next pages where it is higher than one. */
  private void set(List<ColumnText> columns, List<PdfStructureElement> cells, Color rule) {
    while (true) {
      boolean more = false;
      float lowest = y;
      bounded(columns, document.bottom());
      for (int i = 0; i < columns.size(); i++) {
        more |= drawn(columns.get(i), cells.get(i));
        lowest = Math.min(lowest, columns.get(i).getYLine());
      }
      y = lowest - PADDING - 2;
      rule(rule);
      if (!more) {
        return;
      }
      turn();
      again();
    }
  }

  /** The heads on a further page are for the eye alone. */
  private void again() {
    artifact(
        () -> {
          float lowest = y;
          for (ColumnText column : bounded(columns(heads, List.of()), document.bottom())) {
            column.go();
            lowest = Math.min(lowest, column.getYLine());
          }
          y = lowest - PADDING - 2;
        });
    rule(INK);
  }

  private void rule(Color colour) {
    artifact(
        () -> {
          canvas.setColorStroke(colour);
          canvas.setLineWidth(0.5f);
          canvas.moveTo(document.left(), y);
          canvas.lineTo(document.right(), y);
          canvas.stroke();
        });
  }

  private void artifact(Runnable drawing) {
    canvas.beginMarkedContentSequence(ARTIFACT);
    drawing.run();
    canvas.endMarkedContentSequence();
  }

  void close() {
    document.close();
  }

  /** What every page says at its foot; how many there are is known at the end. */
  private static final class Foot extends PdfPageEventHelper {
    private final Phrase text;
    private final PdfFonts small;
    private @Nullable PdfTemplate pages;

    private Foot(Phrase text, PdfFonts small) {
      this.text = text;
      this.small = small;
    }

    @Override
    public void onOpenDocument(PdfWriter writer, Document page) {
      pages = writer.getDirectContent().createTemplate(60, 12);
    }

    @Override
    public void onEndPage(PdfWriter writer, Document page) {
      PdfContentByte canvas = writer.getDirectContent();
      float line = page.bottom() - 20;
      canvas.beginMarkedContentSequence(ARTIFACT);
      canvas.setColorStroke(PALE);
      canvas.setLineWidth(0.5f);
      canvas.moveTo(page.left(), page.bottom() - 8);
      canvas.lineTo(page.right(), page.bottom() - 8);
      canvas.stroke();
      ColumnText.showTextAligned(canvas, Element.ALIGN_LEFT, text, page.left(), line, 0);
      ColumnText.showTextAligned(
          canvas,
          Element.ALIGN_RIGHT,
          small.plain("Page %d".formatted(writer.getPageNumber())),
          page.right() - 34,
          line,
          0);
      if (pages != null) {
        canvas.addTemplate(pages, page.right() - 32, line - 2);
      }
      canvas.endMarkedContentSequence();
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
  }
}
