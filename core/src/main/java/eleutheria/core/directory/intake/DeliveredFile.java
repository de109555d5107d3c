package eleutheria.core.directory.intake;

import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * A file of rows, read as RFC 4180: UTF-8, a heading line, comma (or, as spreadsheets in many
 * countries write it, semicolon or tab) between values. Whatever else arrives is refused with what
 * it is and what to do.
 *
 * @param columns the headings, trimmed, each once
 * @param rows the lines below the heading that hold anything
 */
public record DeliveredFile(List<String> columns, List<Row> rows) {
  /** The largest file, in bytes. */
  public static final int MOST_BYTES = 20 * 1024 * 1024;

  /** The most rows below the heading. */
  public static final int MOST_ROWS = 200_000;

  public static final int MOST_COLUMNS = 80;

  /** The longest cell, in characters. */
  public static final int LONGEST_CELL = 1_000;

  /**
   * @param line the line in the file on which the row begins; the heading is line 1
   * @param cells as many as there are columns, trimmed
   * @param wrong what is wrong with the row as such; empty if nothing
   */
  public record Row(long line, List<String> cells, List<String> wrong) {}

  /** A file that was read, or a sentence that says why not. */
  public sealed interface Reading {
    record Good(DeliveredFile file) implements Reading {}

    record Bad(String sentence) implements Reading {}
  }

  public static Reading read(byte[] bytes) {
    if (bytes.length > MOST_BYTES) {
      return new Reading.Bad(
          "The file has %d MB; at most %d MB are read. Split it into files of “these rows”."
              .formatted(bytes.length / 1024 / 1024, MOST_BYTES / 1024 / 1024));
    }
    String foreign = foreign(bytes);
    if (foreign != null) {
      return new Reading.Bad(
          "This is " + foreign + ", not a CSV file. Save the table as CSV in UTF-8.");
    }
    String text;
    try {
      text = decode(bytes);
    } catch (CharacterCodingException e) {
      return new Reading.Bad(
          "Line %d is not UTF-8. Save the file as “CSV UTF-8”; names would be damaged otherwise."
              .formatted(lineOfFirstBadByte(bytes)));
    }
    if (text.isBlank()) {
      return new Reading.Bad("The file is empty.");
    }
    return parse(text);
  }

  private static @org.jspecify.annotations.Nullable String foreign(byte[] bytes) {
    if (begins(bytes, 'P', 'K', 3, 4)) {
      return "a zip archive or a spreadsheet";
    }
    if (begins(bytes, 0xd0, 0xcf, 0x11, 0xe0)) {
      return "an old spreadsheet";
    }
    if (begins(bytes, 0xff, 0xfe) || begins(bytes, 0xfe, 0xff)) {
      return "text in UTF-16";
    }
    if (begins(bytes, '%', 'P', 'D', 'F')) {
      return "a PDF document";
    }
    if (begins(bytes, 0x1f, 0x8b)) {
      return "a compressed file";
    }
    for (int i = 0; i < Math.min(bytes.length, 4096); i++) {
      if (bytes[i] == 0) {
        return "a file of bytes";
      }
    }
    return null;
  }

  private static boolean begins(byte[] bytes, int... signs) {
    if (bytes.length < signs.length) {
      return false;
    }
    for (int i = 0; i < signs.length; i++) {
      if ((bytes[i] & 0xff) != signs[i]) {
        return false;
      }
    }
    return true;
  }

  private static String decode(byte[] bytes) throws CharacterCodingException {
    boolean mark = begins(bytes, 0xef, 0xbb, 0xbf);
    ByteBuffer content = ByteBuffer.wrap(bytes, mark ? 3 : 0, bytes.length - (mark ? 3 : 0));
    return StandardCharsets.UTF_8
        .newDecoder()
        .onMalformedInput(CodingErrorAction.REPORT)
        .onUnmappableCharacter(CodingErrorAction.REPORT)
        .decode(content)
        .toString();
  }

  private static int lineOfFirstBadByte(byte[] bytes) {
    ByteBuffer in = ByteBuffer.wrap(bytes);
    CharBuffer out = CharBuffer.allocate(bytes.length + 1);
    StandardCharsets.UTF_8
        .newDecoder()
        .onMalformedInput(CodingErrorAction.REPORT)
        .decode(in, out, true);
    int line = 1;
    for (int i = 0; i < in.position(); i++) {
      if (bytes[i] == '\n') {
        line++;
      }
    }
    return line;
  }

  private static Reading parse(String text) {
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setDelimiter(delimiter(text))
            .setTrim(true)
            .setIgnoreEmptyLines(true)
            .get();
    List<Row> rows = new ArrayList<>();
    List<String> columns = new ArrayList<>();
    try (CSVParser parser = CSVParser.parse(new StringReader(text), format)) {
      long begins = 1;
      for (CSVRecord record : parser) {
        if (columns.isEmpty()) {
          record.forEach(cell -> columns.add(cell.strip()));
          String wrong = headingProblem(columns);
          if (!wrong.isEmpty()) {
            return new Reading.Bad(wrong);
          }
        } else {
          if (rows.size() == MOST_ROWS) {
            return new Reading.Bad(
                "The file has more than %,d rows. Split it into files of “these rows”."
                    .formatted(MOST_ROWS));
          }
          rows.add(row(begins, record, columns.size()));
        }
        begins = parser.getCurrentLineNumber() + 1;
      }
    } catch (UncheckedIOException | IOException e) {
      return new Reading.Bad(
          "After line %d a quote is opened and not closed, or is inside a value."
              .formatted(rows.isEmpty() ? 1 : rows.getLast().line()));
    }
    return rows.isEmpty()
        ? new Reading.Bad("There is a heading line, but no rows below it.")
        : new Reading.Good(new DeliveredFile(List.copyOf(columns), rows));
  }

  private static char delimiter(String text) {
    int end = text.indexOf('\n');
    String heading = end < 0 ? text : text.substring(0, end);
    for (char sign : new char[] {',', ';', '\t'}) {
      if (heading.indexOf(sign) >= 0) {
        return sign;
      }
    }
    return ',';
  }

  private static String headingProblem(List<String> columns) {
    if (columns.size() > MOST_COLUMNS) {
      return "The file has " + columns.size() + " columns; at most " + MOST_COLUMNS + " are read.";
    }
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < columns.size(); i++) {
      String column = columns.get(i);
      if (column.isEmpty()) {
        return "Column " + (i + 1) + " has no heading.";
      }
      if (column.length() > LONGEST_CELL || formula(column)) {
        return "The heading of column " + (i + 1) + " is no heading.";
      }
      if (!seen.add(column)) {
        return "Two columns are headed “" + column + "”.";
      }
    }
    return "";
  }

  private static Row row(long line, CSVRecord record, int width) {
    List<String> cells = new ArrayList<>(width);
    List<String> wrong = new ArrayList<>();
    for (int i = 0; i < width; i++) {
      String cell = i < record.size() ? record.get(i).strip() : "";
      if (cell.length() > LONGEST_CELL) {
        wrong.add(
            "Cell %d has %d characters; at most %d are allowed."
                .formatted(i + 1, cell.length(), LONGEST_CELL));
        cell = "";
      } else if (formula(cell)) {
        wrong.add("Cell %d holds a formula: “%s”.".formatted(i + 1, shortened(cell)));
      } else if (control(cell)) {
        wrong.add("Cell %d holds control characters.".formatted(i + 1));
        cell = "";
      }
      cells.add(cell);
    }
    if (record.size() != width) {
      wrong.add("The row has %d values under %d headings.".formatted(record.size(), width));
    }
    return new Row(line, List.copyOf(cells), List.copyOf(wrong));
  }

  /** What a spreadsheet would run on opening; a telephone number such as "+47 21" is none. */
  static boolean formula(String cell) {
    if (cell.isEmpty()) {
      return false;
    }
    char first = cell.charAt(0);
    return first == '='
        || first == '@'
        || ((first == '+' || first == '-') && !cell.matches("[+-][0-9 ()./-]+"));
  }

  private static boolean control(String cell) {
    return cell.codePoints().anyMatch(c -> Character.isISOControl(c) || c == 0xfffe || c == 0xffff);
  }

  static String shortened(String cell) {
    return cell.length() <= 40 ? cell : cell.substring(0, 39) + "…";
  }
}
