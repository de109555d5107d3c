package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Answers with a problem where no controller is reached (RFC 9457). */
@Component
class ProblemWriter {
  private final JsonMapper json;

  ProblemWriter(JsonMapper json) {
    this.json = json;
  }

  void write(HttpServletResponse response, ProblemView view) throws IOException {
    response.setStatus(view.status());
    Walls.PLAIN.forEach(response::setHeader);
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    response.getOutputStream().write(json.writeValueAsBytes(view));
  }

  /** What is told where nothing more is known than a status. */
  static ProblemView of(int status) {
    return switch (status) {
      case 404 -> ProblemView.of(404, "absent", "Not found", "There is nothing at this address.");
      case 403 -> ProblemView.of(403, "refused", "Refused", "You may not open this.");
      case 503 ->
          ProblemView.of(503, "busy", "No answer", "The server cannot answer; try again soon.");
      default ->
          status >= 500
              ? ProblemView.of(
                  status,
                  "unexpected",
                  "Something went wrong",
                  "Something unexpected went wrong. If you were changing something, check first whether it was done; the server’s log has the details.")
              : ProblemView.of(
                  status,
                  "malformed",
                  "Not understood",
                  "The request does not have the expected form.");
    };
  }
}
