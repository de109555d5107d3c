package eleutheria.server.live;

import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The one stream of a browser (server-sent events), shared between its tabs. */
@RestController
class LiveController {
  private final Streams streams;

  LiveController(Streams streams) {
    this.streams = streams;
  }

  @Hidden
  @GetMapping(path = "/api/stream", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  @Needs(signedIn = true)
  SseEmitter stream(Viewer viewer, HttpServletRequest request, HttpServletResponse response) {
    response.setHeader("X-Accel-Buffering", "no");
    return streams.open(viewer.person(), request.getSession().getId());
  }
}
