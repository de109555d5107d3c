package eleutheria.server.web;

import eleutheria.server.settings.Secrets;
import eleutheria.server.settings.ServerSettings;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseCookie;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfTokenRequestHandler;
import org.springframework.security.web.csrf.DefaultCsrfToken;
import org.springframework.stereotype.Component;

/**
 * The token that shows that a request comes from our own page. It is keyed to the session, so that
 * one planted by a neighbouring host is worth nothing, and it is taken from the header alone.
 */
@Component
public class SessionTokens implements CsrfTokenRepository, CsrfTokenRequestHandler {
  static final String HEADER = "X-XSRF-TOKEN";
  private static final int NONCE = 16;

  private final Secrets secrets;
  private final boolean secure;
  private final SecureRandom random = new SecureRandom();

  SessionTokens(Secrets secrets, ServerSettings settings) {
    this.secrets = secrets;
    this.secure = settings.secure();
  }

  private String cookie() {
    return secure ? "__Host-XSRF-TOKEN" : "XSRF-TOKEN";
  }

  /** Gives the browser a token for the session that it has just been given. */
  public void renew(HttpServletRequest request, HttpServletResponse response) {
    saveToken(generateToken(request), request, response);
  }

  @Override
  public CsrfToken generateToken(HttpServletRequest request) {
    byte[] nonce = new byte[NONCE];
    random.nextBytes(nonce);
    String text = Base64.getUrlEncoder().withoutPadding().encodeToString(nonce);
    return token(text + "." + sealed(text, request));
  }

  private static CsrfToken token(String value) {
    return new DefaultCsrfToken(HEADER, "_csrf", value);
  }

  private String sealed(String nonce, HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    String of = session == null ? "" : session.getId();
    return Base64.getUrlEncoder()
        .withoutPadding()
        .encodeToString(secrets.mac("csrf", nonce + " " + of));
  }

  @Override
  public void saveToken(
      @Nullable CsrfToken token, HttpServletRequest request, HttpServletResponse response) {
    ResponseCookie kept =
        ResponseCookie.from(cookie(), token == null ? "" : token.getToken())
            .path("/")
            .secure(secure)
            .sameSite("Strict")
            .maxAge(token == null ? 0 : -1)
            .build();
    response.addHeader("Set-Cookie", kept.toString());
  }

  @Override
  public @Nullable CsrfToken loadToken(HttpServletRequest request) {
    if (request.getCookies() == null) {
      return null;
    }
    for (Cookie cookie : request.getCookies()) {
      if (cookie.getName().equals(cookie())) {
        String[] parts = cookie.getValue().split("\\.", 2);
        if (parts.length == 2 && same(parts[1], sealed(parts[0], request))) {
          return token(cookie.getValue());
        }
      }
    }
    return null;
  }

  private static boolean same(String one, String other) {
    return MessageDigest.isEqual(
        one.getBytes(StandardCharsets.UTF_8), other.getBytes(StandardCharsets.UTF_8));
  }

  // ---- with each request

  @Override
  public void handle(
      HttpServletRequest request, HttpServletResponse response, Supplier<CsrfToken> token) {
    // Files of the web need none, and looking one up would cost a look at the session.
    if (request.getRequestURI().startsWith("/api/")) {
      token.get().getToken();
    }
  }

  @Override
  public @Nullable String resolveCsrfTokenValue(HttpServletRequest request, CsrfToken token) {
    return request.getHeader(token.getHeaderName());
  }
}
