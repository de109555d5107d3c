package eleutheria.server.live;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.docket.Case;
import eleutheria.core.docket.Docket;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.mandates.Authority;
import eleutheria.core.portal.Complaint;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Stage;
import eleutheria.core.requests.Wish;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.requests.ThreadRead;
import eleutheria.server.signon.Door;
import eleutheria.server.signon.Doors;
import eleutheria.server.signon.SessionsDoor;
import eleutheria.server.state.World;
import eleutheria.server.suggestions.SuggestionStore;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Tells each browser what has moved for its person, and nothing of others: after every act the
 * person's front page, docket and requests are worked out and compared with what they were. What
 * comes in quick succession is told once.
 */
@Component
class Streams implements Door {
  private static final Logger log = LoggerFactory.getLogger(Streams.class);

  /** How many streams one person has; a browser shares one between its tabs. */
  static final int MOST = 5;

  private static final Duration LONGEST = Duration.ofMinutes(1);

  private final World world;
  private final RequestStore requests;
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final SessionsDoor sessions;
  private final Clock clock;
  private final AtomicLong numbers = new AtomicLong();
  private final Map<SseEmitter, Listener> listeners = new ConcurrentHashMap<>();
  private final Semaphore moved = new Semaphore(0);

  /** For whom something moved that is not an act: what they wrote was read. */
  private final Set<PersonId> read = ConcurrentHashMap.newKeySet();

  private final Thread teller;
  private volatile boolean closed;

  /** A browser, and what its person had when they were last told. */
  private static final class Listener {
    private final PersonId person;
    private final String session;
    private final long number;
    private Seen seen;

    Listener(PersonId person, String session, long number, Seen seen) {
      this.person = person;
      this.session = session;
      this.number = number;
      this.seen = seen;
    }
  }

  /** What is compared. */
  private record Seen(
      FrontPage front,
      Map<EntitlementId, Optional<Instant>> held,
      List<Case> docket,
      List<AccessRequest> requests,
      List<Suggestion> suggestions,
      List<Complaint> complaints,
      boolean desk) {}

  Streams(
      World world,
      RequestStore requests,
      SuggestionStore suggestions,
      ComplaintStore complaints,
      SessionsDoor sessions,
      Clock clock) {
    this.world = world;
    this.requests = requests;
    this.suggestions = suggestions;
    this.complaints = complaints;
    this.sessions = sessions;
    this.clock = clock;
    world.onMove(moved::release);
    teller = Thread.ofVirtual().name("teller").start(this::tell);
  }

  /**
   * Opens a stream for a person; it ends with the server, with the session, or when the person is
   * no longer active. The oldest gives way where one has too many.
   */
  SseEmitter open(PersonId person, String session) {
    SseEmitter emitter = new SseEmitter(0L);
    emitter.onCompletion(() -> listeners.remove(emitter));
    emitter.onError(e -> listeners.remove(emitter));
    Listener mine =
        new Listener(
            person, session, numbers.incrementAndGet(), seen(world.whole(), person, waiting()));
    listeners.put(emitter, mine);
    List<Map.Entry<SseEmitter, Listener>> theirs =
        listeners.entrySet().stream()
            .filter(e -> e.getValue().person.equals(person))
            .sorted(Comparator.comparingLong(e -> e.getValue().number))
            .toList();
    theirs.stream().limit(Math.max(0, theirs.size() - MOST)).forEach(e -> end(e.getKey(), "full"));
    send(emitter, "hello", world.position(), List.of());
    moved.release();
    return emitter;
  }

  /** What people wrote was read; they hear of it with whatever is told next. */
  @EventListener
  void read(ThreadRead of) {
    read.addAll(of.people());
    moved.release();
  }

  private void end(SseEmitter emitter) {
    end(emitter, "closed");
  }

  /**
   * @param why {@code closed} where the session is over, {@code full} where a newer one took its
   *     place: who hears that does not come back
   */
  private void end(SseEmitter emitter, String why) {
    listeners.remove(emitter);
    send(emitter, why, world.position(), List.of());
    try {
      emitter.complete();
    } catch (IllegalStateException e) {
      // Its browser went at the same moment. The others still have to be ended, so one that is gone
      // already does not stop whoever ends them.
      log.debug("A stream was gone before it was ended", e);
    }
  }

  @Override
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    Doors.afterwards(
        () ->
            listeners.forEach(
                (emitter, listener) -> {
                  if (listener.person.equals(person) && !listener.session.equals(keep)) {
                    end(emitter);
                  }
                }));
  }

  @Override
  public void left(String session) {
    listeners.forEach(
        (emitter, listener) -> {
          if (listener.session.equals(session)) {
            end(emitter);
          }
        });
  }

  /** What waits for anybody. */
  private record Open(
      List<AccessRequest> requests, List<Suggestion> suggestions, List<Complaint> complaints) {}

  private Open waiting() {
    return new Open(requests.open(), suggestions.waiting(), complaints.waiting());
  }

  private Seen seen(PortalView whole, PersonId person, Open open) {
    Authority authority = whole.directory().authority(person);
    return new Seen(
        whole.visible(person, (p, e) -> Deciders.resolves(whole.access(), Wish.own(p, e))),
        held(whole.access(), person),
        Docket.of(
            whole.access(),
            new Docket.Waits(
                open.requests(), List.of(), null, open.suggestions(), open.complaints()),
            authority,
            clock.instant(),
            true),
        open.requests().stream().filter(r -> r.wish().isOf(person)).toList(),
        open.suggestions().stream().filter(p -> p.by().equals(person)).toList(),
        open.complaints().stream().filter(r -> r.by().equals(person)).toList(),
        !authority.powers().isEmpty() || !whole.directory().owned(person).isEmpty());
  }

  private void tell() {
    Duration wait = LONGEST;
    while (!closed) {
      try {
        if (moved.tryAcquire(wait.toMillis() + 1, TimeUnit.MILLISECONDS)) {
          moved.drainPermits();
        }
      } catch (InterruptedException e) {
        return;
      }
      wait = LONGEST;
      try {
        wait = tellAll();
      } catch (RuntimeException e) {
        log.warn("Browsers could not be told; they are at the next act", e);
      }
    }
  }

  /** What a person holds, and when it ends by itself. */
  private static Map<EntitlementId, Optional<Instant>> held(AccessView access, PersonId person) {
    Map<EntitlementId, Optional<Instant>> held = new HashMap<>();
    for (Entitlement e : access.holdings(person)) {
      held.put(e.id(), Optional.ofNullable(access.ends(person, e.id())));
    }
    return held;
  }

  /**
   * Tells every browser what has moved for it.
   *
   * @return how long it is until something moves without an act: a step whose time comes
   */
  private Duration tellAll() {
    Set<PersonId> shown = new HashSet<>(read);
    read.removeAll(shown);
    if (listeners.isEmpty()) {
      return LONGEST;
    }
    PortalView whole = world.whole();
    long position = world.position();
    Open open = waiting();
    listeners.forEach(
        (emitter, listener) -> {
          boolean active =
              whole
                  .directory()
                  .person(listener.person)
                  .filter(p -> p.status() == PersonStatus.ACTIVE)
                  .isPresent();
          if (!active) {
            end(emitter);
            return;
          }
          Seen now = seen(whole, listener.person, open);
          Set<String> topics = topics(listener.seen, now);
          if (shown.contains(listener.person)) {
            topics.addAll(List.of("requests", "docket"));
          }
          listener.seen = now;
          if (!topics.isEmpty()) {
            send(emitter, "moved", position, List.copyOf(topics));
          }
        });
    Instant now = clock.instant();
    return open.requests().stream()
        .map(request -> ((Stage.Open) request.stage()).from())
        .filter(from -> from.isAfter(now))
        .min(Comparator.naturalOrder())
        .map(from -> Duration.between(now, from))
        .filter(wait -> wait.compareTo(LONGEST) < 0)
        .orElse(LONGEST);
  }

  private static Set<String> topics(Seen before, Seen now) {
    Set<String> topics = new LinkedHashSet<>();
    if (!before.front().equals(now.front()) || !before.held().equals(now.held())) {
      topics.add("front");
    }
    if (!before.docket().equals(now.docket())) {
      topics.add("docket");
    }
    if (!before.requests().equals(now.requests())
        || !before.suggestions().equals(now.suggestions())
        || !before.complaints().equals(now.complaints())) {
      topics.add("requests");
    }
    if (now.desk()) {
      topics.add("desk");
    }
    return topics;
  }

  /**
   * What a browser hears.
   *
   * @param position the ledger position that is told of
   * @param topics what to ask for anew: front, docket, requests, desk
   */
  record Heard(long position, List<String> topics) {}

  private void send(SseEmitter emitter, String event, long position, List<String> topics) {
    try {
      emitter.send(SseEmitter.event().name(event).data(new Heard(position, topics)));
    } catch (IOException | IllegalStateException e) {
      // The browser is gone; it asks for everything when it comes back.
      listeners.remove(emitter);
    }
  }

  /** Keeps proxies from closing what is quiet, and finds out who is gone or signed out. */
  @Scheduled(fixedDelay = 20_000)
  void beat() {
    Set<String> standing =
        sessions.standing(listeners.values().stream().map(l -> l.session).distinct().toList());
    listeners.forEach(
        (emitter, listener) -> {
          if (!standing.contains(listener.session)) {
            end(emitter);
          }
        });
    listeners
        .keySet()
        .forEach(
            emitter -> {
              try {
                emitter.send(SseEmitter.event().comment("still here"));
              } catch (IOException | IllegalStateException e) {
                listeners.remove(emitter);
              }
            });
  }

  /** Open streams would hold up stopping. */
  @EventListener(ContextClosedEvent.class)
  void close() {
    closed = true;
    teller.interrupt();
    listeners.keySet().forEach(SseEmitter::complete);
  }
}
