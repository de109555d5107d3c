package eleutheria.server.web;

import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.encoder.PatternLayoutEncoder;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.rolling.RollingFileAppender;
import ch.qos.logback.core.rolling.SizeAndTimeBasedRollingPolicy;
import ch.qos.logback.core.util.FileSize;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.facts.PersonId;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * What was refused, and who signed in or failed to: one JSON object on a line, with the field names
 * of the Elastic Common Schema 8, for whatever collects such logs. Nothing that was typed is in it.
 * It goes to a file of its own where {@code ELEUTHERIA_SECURITY_LOG} names one, else to the
 * server's log. Of one person or address at most {@value #MOST} lines a minute are written, and how
 * many were left out is said with the next.
 */
@Component
public class SecurityLog {
  static final int MOST = 20;
  private static final Logger log = LoggerFactory.getLogger("eleutheria.security");

  private final Clock clock;
  private final JsonMapper json;
  private final Cache<String, AtomicInteger> written =
      Caffeine.newBuilder().maximumSize(20_000).expireAfterWrite(Duration.ofMinutes(1)).build();
  private final Cache<String, AtomicInteger> leftOut =
      Caffeine.newBuilder().maximumSize(20_000).expireAfterWrite(Duration.ofHours(1)).build();

  SecurityLog(Clock clock, JsonMapper json, @Value("${eleutheria.security-log:}") String file) {
    this.clock = clock;
    this.json = json;
    if (!file.isEmpty()) {
      toFile(file);
    }
  }

  private static void toFile(String file) {
    LoggerContext context = (LoggerContext) LoggerFactory.getILoggerFactory();
    PatternLayoutEncoder lines = new PatternLayoutEncoder();
    lines.setContext(context);
    lines.setPattern("%msg%n");
    lines.start();
    RollingFileAppender<ILoggingEvent> appender = new RollingFileAppender<>();
    appender.setContext(context);
    appender.setFile(file);
    appender.setEncoder(lines);
    SizeAndTimeBasedRollingPolicy<ILoggingEvent> policy = new SizeAndTimeBasedRollingPolicy<>();
    policy.setContext(context);
    policy.setParent(appender);
    policy.setFileNamePattern(file + ".%d{yyyy-MM-dd}.%i");
    policy.setMaxFileSize(FileSize.valueOf("50MB"));
    policy.setMaxHistory(90);
    policy.start();
    appender.setRollingPolicy(policy);
    appender.start();
    ch.qos.logback.classic.Logger own = context.getLogger("eleutheria.security");
    own.setAdditive(false);
    own.detachAndStopAllAppenders();
    own.addAppender(appender);
  }

  /** Something was refused for want of power, or as coming from elsewhere. */
  public void refused(HttpServletRequest request, @Nullable PersonId person, String code) {
    write(request, person, "web", "denied", "failure", code);
  }

  /** Somebody signed in, or could not. */
  public void signIn(HttpServletRequest request, @Nullable PersonId person, String code) {
    boolean in = code.equals("signed-in");
    write(
        request,
        person,
        "authentication",
        in ? "start" : "denied",
        in ? "success" : "failure",
        code);
  }

  private void write(
      HttpServletRequest request,
      @Nullable PersonId person,
      String category,
      String type,
      String outcome,
      String code) {
    String who = person == null ? request.getRemoteAddr() : person.value().toString();
    if (written.get(who, w -> new AtomicInteger()).incrementAndGet() > MOST) {
      leftOut.get(who, w -> new AtomicInteger()).incrementAndGet();
      return;
    }
    Map<String, Object> line = new LinkedHashMap<>();
    line.put("@timestamp", clock.instant().toString());
    line.put("ecs.version", "8.17.0");
    line.put("event.kind", "event");
    line.put("event.category", category);
    line.put("event.type", type);
    line.put("event.outcome", outcome);
    line.put("event.action", code);
    line.put("source.ip", request.getRemoteAddr());
    line.put("http.request.method", request.getMethod());
    line.put("url.path", request.getRequestURI());
    if (person != null) {
      line.put("user.id", person.value().toString());
    }
    AtomicInteger left = leftOut.getIfPresent(who);
    if (left != null && left.get() > 0) {
      line.put("labels.left_out", left.getAndSet(0));
    }
    log.info(json.writeValueAsString(line));
  }
}
