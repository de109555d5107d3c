package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.state.World;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/**
 * Every answer of the API says at which ledger position this node stands ({@value #POSITION}), and
 * a query may say which position its answer must not be older than ({@value #NOT_OLDER}): somebody
 * whose act another node took then reads what they wrote. The node follows first; if it cannot
 * reach that position, the answer is 503 and when to ask again.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 10)
class NotOlderThan extends OncePerRequestFilter {
  static final String POSITION = "Ledger-Position";
  static final String NOT_OLDER = "Not-Older-Than";

  private final World world;
  private final JsonMapper json;

  NotOlderThan(World world, JsonMapper json) {
    this.world = world;
    this.json = json;
  }

  @Override
  protected boolean shouldNotFilter(HttpServletRequest request) {
    return !request.getRequestURI().startsWith("/api/");
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String wanted = request.getHeader(NOT_OLDER);
    if (wanted != null) {
      Long position = position(wanted);
      if (position == null) {
        refuse(
            response,
            ProblemView.of(
                400,
                "malformed",
                "Not understood",
                NOT_OLDER + " is a ledger position, a whole number from 0 on."));
        return;
      }
      if (position > world.position()) {
        world.follow();
      }
      if (position > world.position()) {
        response.setHeader("Retry-After", "1");
        refuse(
            response,
            new ProblemView(
                ProblemView.TYPE + "behind",
                "Not yet",
                503,
                "This server has not received that yet; ask again in a second.",
                java.util.List.of(),
                1L));
        return;
      }
    }
    response.setHeader(POSITION, String.valueOf(world.position()));
    chain.doFilter(request, response);
  }

  private static @Nullable Long position(String text) {
    if (!text.matches("[0-9]{1,18}")) {
      return null;
    }
    return Long.parseLong(text);
  }

  private void refuse(HttpServletResponse response, ProblemView view) throws IOException {
    response.setStatus(view.status());
    response.setHeader(POSITION, String.valueOf(world.position()));
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    response.getOutputStream().write(json.writeValueAsBytes(view));
  }
}
