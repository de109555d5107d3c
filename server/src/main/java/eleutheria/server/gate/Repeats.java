package eleutheria.server.gate;

import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.writing.Acts;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What comes with an {@code Idempotency-Key} is hashed while it is read, so that the key stands for
 * this method, address and body, and for nothing else.
 */
@Component
class Repeats extends OncePerRequestFilter implements Acts.Asking {
  private static final String DIGEST = Repeats.class.getName() + ".digest";
  private static final Pattern FORM = Pattern.compile("[\\x20-\\x7e]{1,80}");

  /** Whether a key can be kept: 1 to 80 printable ASCII characters. */
  static boolean wellFormed(String key) {
    return FORM.matcher(key).matches();
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (request.getHeader(IdempotencyKey.HEADER) == null) {
      chain.doFilter(request, response);
      return;
    }
    MessageDigest digest = sha256();
    digest.update(
        (request.getMethod() + " " + request.getRequestURI() + "\n")
            .getBytes(StandardCharsets.UTF_8));
    request.setAttribute(DIGEST, digest);
    chain.doFilter(new ReadThrough(request, digest::update), response);
  }

  @Override
  public @Nullable String fingerprint() {
    if (RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes asked
        && asked.getRequest().getAttribute(DIGEST) instanceof MessageDigest digest) {
      try {
        return HexFormat.of().formatHex(((MessageDigest) digest.clone()).digest());
      } catch (CloneNotSupportedException e) {
        throw new IllegalStateException(e);
      }
    }
    return null;
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
