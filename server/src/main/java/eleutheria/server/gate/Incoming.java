package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.SecurityLog;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Turns away what no page of ours sends, before anything looks at it: writes from other sites,
 * addresses that are not UTF-8, and bodies that are too long.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 6)
class Incoming extends OncePerRequestFilter {
  private static final Set<String> SAFE = Set.of("GET", "HEAD", "OPTIONS", "TRACE");

  /** The longest body of a form or of JSON, in bytes. */
  static final int LONGEST = 2 << 20;

  /** The longest that somebody may send who is not signed in. */
  static final int LONGEST_OF_NOBODY = 16 << 10;

  private final String origin;
  private final ProblemWriter problems;
  private final SecurityLog security;

  Incoming(ServerSettings settings, ProblemWriter problems, SecurityLog security) {
    URI base = settings.baseAddress();
    this.origin = base.getScheme() + "://" + base.getAuthority();
    this.problems = problems;
    this.security = security;
  }

  /** More came than fits. */
  static final class TooLong extends IOException {
    private final int longest;

    TooLong(int longest) {
      super("more than " + longest + " bytes");
      this.longest = longest;
    }

    ProblemView view() {
      return tooLong(longest);
    }
  }

  static ProblemView tooLong(int longest) {
    return ProblemView.of(
        413,
        "too-large",
        "Not read",
        "This is too large: at most %d KB can be sent here.".formatted(longest >> 10));
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (!wellFormed(request.getRequestURI()) || !wellFormed(request.getQueryString())) {
      problems.write(
          response,
          ProblemView.of(400, "malformed", "Not understood", "The address is not valid UTF-8."));
      return;
    }
    if (!SAFE.contains(request.getMethod()) && foreign(request)) {
      security.refused(request, null, "foreign-origin");
      problems.write(
          response,
          ProblemView.of(
              403,
              "foreign-origin",
              "Refused",
              "This was sent by a page of another site; nothing was done."));
      return;
    }
    int longest = longest(request);
    if (request.getContentLengthLong() > longest) {
      problems.write(response, tooLong(longest));
      return;
    }
    chain.doFilter(longest == Integer.MAX_VALUE ? request : bounded(request, longest), response);
  }

  /**
   * A browser says where a request comes from ({@code Origin}: RFC 6454; {@code Sec-Fetch-Site}:
   * Fetch Metadata). Programs say nothing; they have no cookies that somebody else could use.
   */
  private boolean foreign(HttpServletRequest request) {
    String site = request.getHeader("Sec-Fetch-Site");
    if (site != null && !site.equals("same-origin") && !site.equals("none")) {
      return true;
    }
    String from = request.getHeader("Origin");
    return from != null && !from.equals(origin) && !from.equals(own(request));
  }

  /** The origin by which this server was called. */
  private static String own(HttpServletRequest request) {
    return request.getScheme() + "://" + request.getHeader("Host");
  }

  private static int longest(HttpServletRequest request) {
    String path = request.getRequestURI();
    if (path.equals("/api/sign-in") || path.startsWith("/api/links/")) {
      return LONGEST_OF_NOBODY;
    }
    String type = request.getContentType();
    // Files have bounds of their own, which are told with the form.
    boolean file =
        type != null
            && (type.startsWith("multipart/") || type.startsWith("application/octet-stream"));
    return file ? Integer.MAX_VALUE : LONGEST;
  }

  /** Whether percent-encoded bytes are UTF-8 without NUL (RFC 3986, section 2.5; RFC 3629). */
  static boolean wellFormed(@Nullable String text) {
    if (text == null || text.indexOf('%') < 0) {
      return text == null || text.chars().allMatch(c -> c >= 0x20 && c < 0x7f);
    }
    byte[] bytes = new byte[text.length()];
    int length = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c < 0x20 || c >= 0x7f) {
        return false;
      }
      if (c != '%') {
        bytes[length++] = (byte) c;
        continue;
      }
      int high = i + 2 < text.length() ? Character.digit(text.charAt(i + 1), 16) : -1;
      int low = i + 2 < text.length() ? Character.digit(text.charAt(i + 2), 16) : -1;
      if (high < 0 || low < 0 || (high == 0 && low == 0)) {
        return false;
      }
      bytes[length++] = (byte) (high << 4 | low);
      i += 2;
    }
    try {
      StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes, 0, length));
      return true;
    } catch (CharacterCodingException e) {
      return false;
    }
  }

  /** Ends the reading of a body that is longer than it said, or said nothing. */
  private static ReadThrough bounded(HttpServletRequest request, int longest) {
    int[] read = {0};
    return new ReadThrough(
        request,
        (bytes, offset, length) -> {
          read[0] += length;
          if (read[0] > longest) {
            throw new TooLong(longest);
          }
        });
  }
}
