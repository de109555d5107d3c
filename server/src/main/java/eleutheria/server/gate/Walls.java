package eleutheria.server.gate;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.web.Needs;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.ErrorReportValve;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whatever goes wrong before, behind or beside the controllers is told like all else. */
@Configuration
class Walls {
  /** Headers of an answer that is neither page nor file. */
  static final Map<String, String> PLAIN =
      Map.of(
          "Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'",
          "X-Content-Type-Options", "nosniff",
          "X-Frame-Options", "DENY",
          "Referrer-Policy", "same-origin",
          "Cache-Control", "no-store");

  /** What the container refuses before any filter of ours sees it. */
  public static final class Report extends ErrorReportValve {
    @Override
    protected void report(Request request, Response response, @Nullable Throwable thrown) {
      int status = response.getStatus();
      if (status < 400 || response.getContentWritten() > 0 || !response.setErrorReported()) {
        return;
      }
      ProblemView view = ProblemWriter.of(status);
      String text =
          "{\"type\":\"%s\",\"title\":\"%s\",\"status\":%d,\"detail\":\"%s\",\"problems\":[],\"retryAfterSeconds\":null}"
              .formatted(view.type(), view.title(), status, view.detail());
      try {
        PLAIN.forEach(response::setHeader);
        response.setContentType("application/problem+json");
        response.getOutputStream().write(text.getBytes(StandardCharsets.UTF_8));
        response.finishResponse();
      } catch (IOException | IllegalStateException e) {
        container.getLogger().debug("nobody hears the answer", e);
      }
    }
  }

  @Bean
  WebServerFactoryCustomizer<TomcatServletWebServerFactory> ownReports() {
    return factory ->
        factory.addContextCustomizers(
            context -> {
              if (context.getParent() instanceof StandardHost host) {
                host.setErrorReportValveClass(Report.class.getName());
              }
            });
  }

  /** What the container hands over by an error dispatch; asked for directly it is not there. */
  @RestController
  static class Errors implements ErrorController {
    @RequestMapping("/error")
    @Needs(nothing = true)
    ResponseEntity<ProblemView> error(HttpServletRequest request) {
      Object status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
      return Problems.answer(ProblemWriter.of(status instanceof Integer code ? code : 404));
    }
  }
}
