package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataAccessException;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sessions are read from the database before any controller is reached; where it is away even then,
 * the answer is the same problem as later on.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class DatabaseAway extends OncePerRequestFilter {
  private final Problems problems;
  private final JsonMapper json;

  DatabaseAway(Problems problems, JsonMapper json) {
    this.problems = problems;
    this.json = json;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    try {
      chain.doFilter(request, response);
    } catch (DataAccessException | TransactionException e) {
      if (response.isCommitted()) {
        throw e;
      }
      ResponseEntity<ProblemView> answer = problems.database(e);
      response.reset();
      response.setStatus(answer.getStatusCode().value());
      response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
      response.getOutputStream().write(json.writeValueAsBytes(answer.getBody()));
    }
  }
}
