package eleutheria.server.signon;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.session.autoconfigure.SessionTimeout;
import org.springframework.jdbc.core.JdbcOperations;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.session.SessionRepository;
import org.springframework.session.config.annotation.web.http.EnableSpringHttpSession;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.jdbc.MySqlJdbcIndexedSessionRepositoryCustomizer;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionCallback;
import org.springframework.transaction.support.TransactionOperations;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sessions stand in the database and are looked up there for every query, so that one ended on
 * another node is ended here at once. Looking one up is one statement without a transaction around
 * it, and when it was last used is written at most once a minute: otherwise each query would cost a
 * write and a commit, though it changes nothing.
 */
@Component
@EnableSpringHttpSession
class KeptSessions implements FindByIndexNameSessionRepository<KeptSessions.Kept> {
  private static final Pattern ID = Pattern.compile("[0-9a-f-]{36}");
  private static final Duration USED_WITHIN = Duration.ofMinutes(1);

  private final FindByIndexNameSessionRepository<? extends Session> stored;
  private final JdbcIndexedSessionRepository jdbc;
  private final Reading transactions;

  KeptSessions(
      JdbcOperations operations, PlatformTransactionManager manager, SessionTimeout timeout) {
    TransactionTemplate template = new TransactionTemplate(manager);
    template.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    transactions = new Reading(template);
    jdbc = new JdbcIndexedSessionRepository(operations, transactions);
    // Two answers at once may both be the first to set an attribute.
    new MySqlJdbcIndexedSessionRepositoryCustomizer().customize(jdbc);
    Duration kept = timeout.getTimeout();
    if (kept != null) {
      jdbc.setDefaultMaxInactiveInterval(kept);
    }
    stored = jdbc;
  }

  @Scheduled(cron = "0 */5 * * * *")
  void forgetExpired() {
    jdbc.cleanUpExpiredSessions();
  }

  @Override
  public Kept createSession() {
    return new Kept(stored.createSession());
  }

  @Override
  public void save(Kept session) {
    save(stored, session);
  }

  /** Whoever made the session is who saves it. */
  @SuppressWarnings("unchecked")
  private static <S extends Session> void save(SessionRepository<S> repository, Kept session) {
    repository.save((S) session.stored);
  }

  @Override
  public @Nullable Kept findById(String id) {
    if (!ID.matcher(id).matches()) {
      // Planted: none that was given out looks like that.
      return null;
    }
    Session found = transactions.without(() -> stored.findById(id));
    return found == null ? null : new Kept(found);
  }

  @Override
  public void deleteById(String id) {
    stored.deleteById(id);
  }

  @Override
  public Map<String, Kept> findByIndexNameAndIndexValue(String index, String value) {
    Map<String, Kept> found = new HashMap<>();
    stored
        .findByIndexNameAndIndexValue(index, value)
        .forEach((id, session) -> found.put(id, new Kept(session)));
    return found;
  }

  /** Leaves out the transaction where a thread only looks something up. */
  private static final class Reading implements TransactionOperations {
    private final TransactionOperations writing;
    private final ThreadLocal<Boolean> reading = ThreadLocal.withInitial(() -> false);

    Reading(TransactionOperations writing) {
      this.writing = writing;
    }

    <T extends @Nullable Object> T without(Supplier<T> lookup) {
      reading.set(true);
      try {
        return lookup.get();
      } finally {
        reading.remove();
      }
    }

    @Override
    public <T extends @Nullable Object> T execute(TransactionCallback<T> action) {
      return (reading.get() ? TransactionOperations.withoutTransaction() : writing).execute(action);
    }
  }

  /** A session that takes note of its use once a minute. */
  static final class Kept implements Session {
    private final Session stored;

    private Kept(Session stored) {
      this.stored = stored;
    }

    @Override
    public void setLastAccessedTime(Instant time) {
      if (Duration.between(stored.getLastAccessedTime(), time).abs().compareTo(USED_WITHIN) >= 0) {
        stored.setLastAccessedTime(time);
      }
    }

    @Override
    public String getId() {
      return stored.getId();
    }

    @Override
    public String changeSessionId() {
      return stored.changeSessionId();
    }

    @Override
    public <T> @Nullable T getAttribute(String name) {
      return stored.getAttribute(name);
    }

    @Override
    public Set<String> getAttributeNames() {
      return stored.getAttributeNames();
    }

    @Override
    public void setAttribute(String name, @Nullable Object value) {
      if (value == null) {
        stored.removeAttribute(name);
      } else {
        stored.setAttribute(name, value);
      }
    }

    @Override
    public void removeAttribute(String name) {
      stored.removeAttribute(name);
    }

    @Override
    public Instant getCreationTime() {
      return stored.getCreationTime();
    }

    @Override
    public Instant getLastAccessedTime() {
      return stored.getLastAccessedTime();
    }

    @Override
    public void setMaxInactiveInterval(Duration interval) {
      stored.setMaxInactiveInterval(interval);
    }

    @Override
    public Duration getMaxInactiveInterval() {
      return stored.getMaxInactiveInterval();
    }

    @Override
    public boolean isExpired() {
      return stored.isExpired();
    }
  }
}
