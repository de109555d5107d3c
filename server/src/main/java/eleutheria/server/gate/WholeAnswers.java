package eleutheria.server.gate;

import eleutheria.server.web.Gzip;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpServletResponseWrapper;
import java.io.IOException;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.session.web.http.SessionRepositoryFilter;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.ContentCachingResponseWrapper;

/**
 * An answer of the API leaves in one piece, compressed (RFC 1952) where that saves something.
 *
 * <p>The converters flush after each value, which would send the head before the length of the body
 * is known, the body after it and an end after that: three packets where one does. And the
 * container compresses in pieces of 512 bytes with a new compressor for each answer, which takes a
 * millisecond for what takes a tenth of it in one go. What is sent bit by bit on purpose passes
 * untouched.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 5)
class WholeAnswers extends OncePerRequestFilter {
  private static final Set<String> BIT_BY_BIT =
      Set.of("/api/stream", "/api/ledger/export", "/api/reports-made");
  private static final int WORTH_IT = 1 << 10;

  /**
   * Keeps flushes and lengths from the filter of the sessions as well: it takes them for the end of
   * the answer, writes the session, and at the true end looks it up and writes it once more.
   */
  @Component
  @Order(SessionRepositoryFilter.DEFAULT_ORDER + 1)
  static class Unflushed extends OncePerRequestFilter {
    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
      return bitByBit(request);
    }

    @Override
    protected void doFilterInternal(
        HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
      chain.doFilter(
          request,
          new HttpServletResponseWrapper(response) {
            @Override
            public ServletOutputStream getOutputStream() throws IOException {
              return new Stream(super.getOutputStream());
            }

            @Override
            public void flushBuffer() {
              // It is whole only at its end.
            }

            // How long it is, is said when it is whole.

            @Override
            public void setContentLength(int length) {}

            @Override
            public void setContentLengthLong(long length) {}

            @Override
            public void setHeader(String name, String value) {
              if (!name.equalsIgnoreCase(HttpHeaders.CONTENT_LENGTH)) {
                super.setHeader(name, value);
              }
            }

            @Override
            public void addHeader(String name, String value) {
              if (!name.equalsIgnoreCase(HttpHeaders.CONTENT_LENGTH)) {
                super.addHeader(name, value);
              }
            }
          });
    }
  }

  private static final class Stream extends ServletOutputStream {
    private final ServletOutputStream out;

    Stream(ServletOutputStream out) {
      this.out = out;
    }

    @Override
    public void write(int b) throws IOException {
      out.write(b);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
      out.write(bytes, from, length);
    }

    @Override
    public void flush() {
      // It is whole only at its end.
    }

    @Override
    public boolean isReady() {
      return out.isReady();
    }

    @Override
    public void setWriteListener(WriteListener listener) {
      out.setWriteListener(listener);
    }
  }

  private static boolean bitByBit(HttpServletRequest request) {
    return !request.getRequestURI().startsWith("/api/")
        || BIT_BY_BIT.contains(request.getRequestURI());
  }

  @Override
  protected boolean shouldNotFilter(HttpServletRequest request) {
    return bitByBit(request);
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    ContentCachingResponseWrapper whole =
        new ContentCachingResponseWrapper(response) {
          @Override
          public int getBufferSize() {
            // There is room for all of it; the filter of the sessions asks.
            return Integer.MAX_VALUE;
          }
        };
    chain.doFilter(request, whole);
    byte[] body = whole.getContentAsByteArray();
    if (body.length < WORTH_IT
        || response.containsHeader("Content-Encoding")
        || !isText(response.getContentType())) {
      whole.copyBodyToResponse();
      return;
    }
    response.addHeader("Vary", "Accept-Encoding");
    if (!Gzip.accepted(request)) {
      whole.copyBodyToResponse();
      return;
    }
    byte[] small = Gzip.compressed(body);
    response.setHeader("Content-Encoding", "gzip");
    response.setContentLength(small.length);
    response.getOutputStream().write(small);
  }

  private static boolean isText(@Nullable String type) {
    return type != null && (type.contains("json") || type.startsWith("text/"));
  }
}
