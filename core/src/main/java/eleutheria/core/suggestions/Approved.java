package eleutheria.core.suggestions;

import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.ListingId;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The approved list at one moment, in the order of names.
 *
 * @param entries what is on it
 */
public record Approved(List<Entry> entries) {

  /**
   * @param since when it came onto the list
   */
  public record Entry(ListingId id, FactValue.Listing listing, Instant since) {}

  public static Approved at(Facts facts, Instant at) {
    List<Entry> found = new ArrayList<>();
    for (FactKey.Approved key : facts.keys(FactKey.Approved.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Listing listing) {
        found.add(new Entry(key.subject(), listing, facts.spells(key).getFirst().from()));
      }
    }
    found.sort(
        Comparator.comparing((Entry entry) -> Folding.bare(entry.listing().name()))
            .thenComparing(Entry::id));
    return new Approved(List.copyOf(found));
  }

  public Optional<Entry> entry(ListingId id) {
    return entries.stream().filter(entry -> entry.id().equals(id)).findFirst();
  }

  /** The entry that lets an address in. */
  public Optional<Entry> covering(String address) {
    return entries.stream().filter(e -> covers(e.listing().address(), address)).findFirst();
  }

  /**
   * Whether an address lies at or below another: the same scheme, host and port (RFC 3986, section
   * 6.2), and a path that begins with the same whole segments. What could be read in two ways lies
   * nowhere.
   */
  public static boolean covers(String above, String address) {
    Parts outer = Parts.of(above);
    Parts inner = Parts.of(address);
    return outer != null
        && inner != null
        && outer.origin().equals(inner.origin())
        && (inner.path().equals(outer.path())
            || inner.path().startsWith(outer.path().equals("/") ? "/" : outer.path() + "/"));
  }

  /** What makes two addresses the same app: their host and path, without what is asked of it. */
  public static String likeness(String address) {
    Parts parts = Parts.of(address);
    return parts == null ? address : parts.origin() + parts.path();
  }

  /** An address as it is compared; the path without its last slash. */
  private record Parts(String origin, String path) {
    static @Nullable Parts of(String address) {
      try {
        URI uri = new URI(address.strip()).normalize();
        String scheme = uri.getScheme() == null ? "" : uri.getScheme().toLowerCase(Locale.ROOT);
        String host = uri.getHost();
        String path = uri.getRawPath() == null ? "" : uri.getRawPath();
        // Encoded dots, slashes and backslashes are read in one way here and in another there.
        String lower = path.toLowerCase(Locale.ROOT);
        if (host == null
            || uri.getUserInfo() != null
            || path.contains("/../")
            || lower.contains("%2e")
            || lower.contains("%2f")
            || lower.contains("%5c")) {
          return null;
        }
        int standard = scheme.equals("https") ? 443 : 80;
        int port = uri.getPort() < 0 ? standard : uri.getPort();
        while (path.endsWith("/")) {
          path = path.substring(0, path.length() - 1);
        }
        return new Parts(
            scheme + "://" + host.toLowerCase(Locale.ROOT) + ":" + port,
            path.isEmpty() ? "/" : path);
      } catch (URISyntaxException e) {
        return null;
      }
    }
  }
}
