package eleutheria.server.pictures;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;
import org.xml.sax.SAXException;

/**
 * An SVG, written anew from an allow-list of shapes, gradients and the attributes that draw them
 * (SVG 2, chapters 5 to 14). What could do something is refused; what an editor noted for itself is
 * left out.
 */
final class CleanSvg {
  private static final int MOST_ELEMENTS = 4_000;
  private static final int DEEPEST = 40;
  private static final String SVG = "http://www.w3.org/2000/svg";

  private static final Set<String> DRAWN =
      Set.of(
          "svg",
          "g",
          "path",
          "rect",
          "circle",
          "ellipse",
          "line",
          "polyline",
          "polygon",
          "defs",
          "linearGradient",
          "radialGradient",
          "stop",
          "clipPath",
          "mask");

  /** What could run, load or change something. */
  private static final Set<String> REFUSED =
      Set.of(
          "script",
          "foreignObject",
          "iframe",
          "object",
          "embed",
          "audio",
          "video",
          "a",
          "image",
          "use",
          "feImage",
          "animate",
          "animateMotion",
          "animateTransform",
          "set",
          "handler",
          "style",
          "link");

  private static final Set<String> LOOKS =
      Set.of(
          "fill",
          "fill-opacity",
          "fill-rule",
          "stroke",
          "stroke-width",
          "stroke-opacity",
          "stroke-linecap",
          "stroke-linejoin",
          "stroke-miterlimit",
          "stroke-dasharray",
          "stroke-dashoffset",
          "opacity",
          "clip-path",
          "clip-rule",
          "mask",
          "stop-color",
          "stop-opacity",
          "color");

  private static final Set<String> SHAPES =
      Set.of(
          "id",
          "d",
          "x",
          "y",
          "x1",
          "x2",
          "y1",
          "y2",
          "cx",
          "cy",
          "r",
          "rx",
          "ry",
          "fx",
          "fy",
          "width",
          "height",
          "points",
          "transform",
          "viewBox",
          "offset",
          "gradientUnits",
          "gradientTransform",
          "spreadMethod",
          "clipPathUnits",
          "maskUnits",
          "maskContentUnits",
          "preserveAspectRatio");

  private static final Pattern SAFE = Pattern.compile("[\\p{Alnum}\\s#%.,()+\\-_/]*");
  private static final Pattern LOCAL = Pattern.compile("url\\(\\s*#[\\w.\\-]+\\s*\\)");
  private static final Pattern NUMBER = Pattern.compile("\\s*(\\d+(?:\\.\\d+)?)(?:px)?\\s*");

  /** Where nothing may refer on: a mask within a mask within a mask is drawn for ever. */
  private static final Set<String> ENDS =
      Set.of("mask", "clipPath", "linearGradient", "radialGradient");

  /** Each of them is drawn apart and laid over, so that a few are enough for any logo. */
  private static final int MOST_REFERENCES = 64;

  /** Of all coordinates, lengths and colours together. */
  private static final int MOST_NUMBERS = 20_000;

  private static final double LARGEST_NUMBER = 1e6;

  /** How short a dash may be, as a part of the picture's width. */
  private static final double SHORTEST_DASH = 0.002;

  private static final Pattern NUMBERS =
      Pattern.compile("[+-]?(?:\\d+\\.?\\d*|\\.\\d+)(?:[eE][+-]?\\d+)?");

  private final StringBuilder out = new StringBuilder();
  private int elements;
  private int references;
  private int numbers;

  private CleanSvg() {}

  static CleanPicture of(byte[] file) {
    Element root = parsed(file).getDocumentElement();
    if (!"svg".equals(root.getLocalName()) || !SVG.equals(root.getNamespaceURI())) {
      throw CleanPicture.refused("picture.broken", "It is XML, but no SVG.");
    }
    CleanSvg clean = new CleanSvg();
    double[] size = size(root);
    clean.write(root, 0, size, false);
    byte[] bytes = clean.out.toString().getBytes(StandardCharsets.UTF_8);
    return new CleanPicture(true, bytes, (int) Math.ceil(size[0]), (int) Math.ceil(size[1]));
  }

  private static Document parsed(byte[] file) {
    try {
      DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
      factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
      factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
      factory.setAttribute(XMLConstants.ACCESS_EXTERNAL_DTD, "");
      factory.setAttribute(XMLConstants.ACCESS_EXTERNAL_SCHEMA, "");
      factory.setXIncludeAware(false);
      factory.setExpandEntityReferences(false);
      factory.setNamespaceAware(true);
      var builder = factory.newDocumentBuilder();
      builder.setErrorHandler(null);
      return builder.parse(new ByteArrayInputStream(file));
    } catch (SAXException | IOException e) {
      throw CleanPicture.refused(
          "picture.broken",
          "It cannot be read as an SVG; one with a document type is not taken either.");
    } catch (ParserConfigurationException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Its own units: of the view box, or of width and height. */
  private static double[] size(Element root) {
    String[] box = root.getAttribute("viewBox").strip().split("[\\s,]+");
    if (box.length == 4) {
      try {
        double width = Double.parseDouble(box[2]);
        double height = Double.parseDouble(box[3]);
        if (width > 0 && height > 0 && width <= 100_000 && height <= 100_000) {
          return new double[] {width, height};
        }
      } catch (NumberFormatException e) {
        throw CleanPicture.refused("picture.broken", "Its view box is none.");
      }
    }
    Matcher width = NUMBER.matcher(root.getAttribute("width"));
    Matcher height = NUMBER.matcher(root.getAttribute("height"));
    if (width.matches() && height.matches()) {
      double[] size = {Double.parseDouble(width.group(1)), Double.parseDouble(height.group(1))};
      if (size[0] > 0 && size[1] > 0 && size[0] <= 100_000 && size[1] <= 100_000) {
        return size;
      }
    }
    throw CleanPicture.refused(
        "picture.size", "It says neither a view box nor a width and height in pixels.");
  }

  /**
   * @param end whether it lies in something that may refer to nothing
   */
  private void write(Element element, int depth, double[] size, boolean end) {
    if (++elements > MOST_ELEMENTS || depth > DEEPEST) {
      throw CleanPicture.refused(
          "picture.large", "It has more than %d shapes.".formatted(MOST_ELEMENTS));
    }
    String name = element.getLocalName();
    out.append('<').append(name);
    Map<String, String> attributes = attributes(element);
    boolean ends = end || ENDS.contains(name);
    attributes.forEach((attribute, value) -> bounded(attribute, value, ends, size));
    if (depth == 0) {
      attributes.putIfAbsent("viewBox", "0 0 %s %s".formatted(plain(size[0]), plain(size[1])));
      attributes.remove("width");
      attributes.remove("height");
      attributes.remove("x");
      attributes.remove("y");
      out.append(" xmlns=\"").append(SVG).append('"');
    }
    attributes.forEach(
        (attribute, value) ->
            out.append(' ').append(attribute).append("=\"").append(escaped(value)).append('"'));
    out.append('>');
    for (Node child = element.getFirstChild(); child != null; child = child.getNextSibling()) {
      if (child instanceof Element inner) {
        String local = inner.getLocalName();
        if (REFUSED.contains(local)) {
          throw CleanPicture.refused(
              "picture.deed", "It contains “%s”, which a picture does not need.".formatted(local));
        }
        if (SVG.equals(inner.getNamespaceURI()) && DRAWN.contains(local)) {
          write(inner, depth + 1, size, ends);
        }
      }
    }
    out.append("</").append(name).append('>');
  }

  /** Keeps a picture from costing more to draw than it looks. */
  private void bounded(String attribute, String value, boolean ends, double[] size) {
    if (attribute.equals("id")) {
      return;
    }
    boolean refers = LOCAL.matcher(value).find();
    if (refers && (ends || ++references > MOST_REFERENCES)) {
      throw CleanPicture.refused(
          "picture.deed",
          ends
              ? "A mask, clip or gradient in it refers to another; draw it without."
              : "It has more than %d masks, clips and gradients in use."
                  .formatted(MOST_REFERENCES));
    }
    Matcher found = NUMBERS.matcher(LOCAL.matcher(value).replaceAll(""));
    while (found.find()) {
      double number = Double.parseDouble(found.group());
      boolean colour = found.start() > 0 && value.charAt(0) == '#';
      if (++numbers > MOST_NUMBERS) {
        throw CleanPicture.refused(
            "picture.large", "It has more than %d numbers.".formatted(MOST_NUMBERS));
      }
      if (!colour && !(Math.abs(number) <= LARGEST_NUMBER)) {
        throw CleanPicture.refused("picture.large", "Its “%s” is too large.".formatted(attribute));
      }
      if (attribute.equals("stroke-dasharray")
          && number < Math.max(size[0], size[1]) * SHORTEST_DASH) {
        throw CleanPicture.refused("picture.large", "Its dashes are too short to be seen.");
      }
    }
  }

  private static String plain(double number) {
    return number == Math.rint(number) ? String.valueOf((long) number) : String.valueOf(number);
  }

  private static Map<String, String> attributes(Element element) {
    Map<String, String> found = new TreeMap<>();
    NamedNodeMap all = element.getAttributes();
    for (int i = 0; i < all.getLength(); i++) {
      Attr attribute = (Attr) all.item(i);
      String name = attribute.getNodeName();
      String lower = name.toLowerCase(Locale.ROOT);
      if (lower.startsWith("on") || lower.endsWith("href")) {
        throw CleanPicture.refused(
            "picture.deed", "It contains “%s”, which a picture does not need.".formatted(name));
      }
      if (SHAPES.contains(name) || LOOKS.contains(name)) {
        put(found, name, attribute.getValue());
      } else if (name.equals("style")) {
        for (String declaration : attribute.getValue().split(";")) {
          int colon = declaration.indexOf(':');
          if (colon > 0 && LOOKS.contains(declaration.substring(0, colon).strip())) {
            put(
                found,
                declaration.substring(0, colon).strip(),
                declaration.substring(colon + 1).strip());
          }
        }
      }
    }
    return found;
  }

  private static void put(Map<String, String> found, String name, String value) {
    String rest = LOCAL.matcher(value).replaceAll("");
    if (rest.toLowerCase(Locale.ROOT).contains("url") || !SAFE.matcher(rest).matches()) {
      throw CleanPicture.refused(
          "picture.deed", "Its “%s” leads out of the picture.".formatted(name));
    }
    found.put(name, value);
  }

  private static String escaped(String value) {
    return value
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace("\"", "&quot;")
        .replaceAll("\\s+", " ");
  }
}
