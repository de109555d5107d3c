package eleutheria.server.requests;

import static eleutheria.server.tables.Tables.ACCESS_REQUEST;
import static eleutheria.server.tables.Tables.OUTBOX;
import static eleutheria.server.tables.Tables.REQUEST_ANSWER;
import static java.util.Objects.requireNonNull;

import eleutheria.core.apps.Application;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Decision;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.Stage;
import eleutheria.core.requests.Wish;
import eleutheria.server.state.RequestForms;
import eleutheria.server.state.Routes;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Later;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Requests as rows. */
@Repository
public class RequestStore {
  private static final String WAITING = "waiting";
  private static final String ASKED_BACK = "asked_back";
  private static final int FIRST_NUMBER = 2001;

  private final DSLContext db;

  public RequestStore(DSLContext db) {
    this.db = db;
  }

  public Optional<AccessRequest> find(RequestId id) {
    return read(ACCESS_REQUEST.ID.eq(id.value()), 1).stream().findFirst();
  }

  public Optional<AccessRequest> numbered(int number) {
    return read(ACCESS_REQUEST.NUMBER.eq(number), 1).stream().findFirst();
  }

  /** All that wait, the one that lapses first in front. */
  public List<AccessRequest> open() {
    return read(ACCESS_REQUEST.STAGE.in(WAITING, ASKED_BACK), Integer.MAX_VALUE);
  }

  /** All that wait for one entitlement. */
  List<AccessRequest> open(EntitlementId entitlement) {
    return read(
        ACCESS_REQUEST
            .STAGE
            .in(WAITING, ASKED_BACK)
            .and(ACCESS_REQUEST.ENTITLEMENT_ID.eq(entitlement.value())),
        Integer.MAX_VALUE);
  }

  /** The routes by which something open goes, each once. */
  List<FactValue.Route> openRoutes() {
    return db.selectDistinct(ACCESS_REQUEST.ROUTE)
        .from(ACCESS_REQUEST)
        .where(ACCESS_REQUEST.STAGE.in(WAITING, ASKED_BACK))
        .fetch(row -> Routes.read(row.value1()));
  }

  /** How many requests tell how long it takes. */
  private static final int MOST_TAKEN = 200;

  /** All that were asked since a moment, and all that are open. */
  List<AccessRequest> since(Instant since) {
    return read(
        ACCESS_REQUEST.ASKED_AT.ge(since).or(ACCESS_REQUEST.STAGE.in(WAITING, ASKED_BACK)),
        Integer.MAX_VALUE);
  }

  /** What was asked for somebody, by themselves or by others, newest first. */
  public List<AccessRequest> forPerson(PersonId person, int most) {
    return read(ACCESS_REQUEST.PERSON_ID.eq(person.value()), most).reversed();
  }

  /** What somebody has asked for, for themselves or others, and what was asked for them. */
  List<AccessRequest> of(PersonId person, int most) {
    return read(
            ACCESS_REQUEST
                .PERSON_ID
                .eq(person.value())
                .or(ACCESS_REQUEST.ASKER_ID.eq(person.value())),
            most)
        .reversed();
  }

  /** The requests that these grants came from. */
  public Map<GrantId, AccessRequest> ofGrants(Collection<GrantId> grants) {
    Map<GrantId, AccessRequest> found = new java.util.HashMap<>();
    if (grants.isEmpty()) {
      return found;
    }
    for (AccessRequest request :
        read(
            ACCESS_REQUEST.GRANT_ID.in(grants.stream().map(GrantId::value).toList()),
            Integer.MAX_VALUE)) {
      if (request.stage() instanceof Stage.Given given) {
        found.put(given.grant(), request);
      }
    }
    return found;
  }

  /** How long the newest requests for an application took until their last decision. */
  List<Duration> took(Application app, Instant since) {
    return db.select(ACCESS_REQUEST.ASKED_AT, DSL.max(REQUEST_ANSWER.ANSWERED_AT))
        .from(ACCESS_REQUEST)
        .join(REQUEST_ANSWER)
        .on(REQUEST_ANSWER.REQUEST_ID.eq(ACCESS_REQUEST.ID))
        .where(
            ACCESS_REQUEST.ENTITLEMENT_ID.in(
                app.entitlements().stream().map(e -> e.id().value()).toList()),
            ACCESS_REQUEST.ASKED_AT.ge(since),
            ACCESS_REQUEST.STAGE.in("given", "refused"))
        .groupBy(ACCESS_REQUEST.ID, ACCESS_REQUEST.ASKED_AT)
        .orderBy(ACCESS_REQUEST.ASKED_AT.desc())
        .limit(MOST_TAKEN)
        .fetch(row -> Duration.between(row.value1(), row.value2()));
  }

  /** The next free number; only under the ledger-head lock. */
  int nextNumber() {
    Integer last =
        db.select(DSL.max(ACCESS_REQUEST.NUMBER)).from(ACCESS_REQUEST).fetchSingle().value1();
    return last == null ? FIRST_NUMBER : last + 1;
  }

  private List<AccessRequest> read(Condition condition, int most) {
    Result<? extends Record> rows =
        db.selectFrom(ACCESS_REQUEST)
            .where(condition)
            .orderBy(ACCESS_REQUEST.ASKED_AT.desc(), ACCESS_REQUEST.NUMBER.desc())
            .limit(most)
            .fetch();
    if (rows.isEmpty()) {
      return List.of();
    }
    Map<UUID, List<Decision>> answers =
        db.selectFrom(REQUEST_ANSWER)
            .where(REQUEST_ANSWER.REQUEST_ID.in(rows.getValues(ACCESS_REQUEST.ID)))
            .orderBy(REQUEST_ANSWER.REQUEST_ID, REQUEST_ANSWER.SEQ)
            .fetchGroups(REQUEST_ANSWER.REQUEST_ID, RequestStore::answer);
    List<AccessRequest> found = new ArrayList<>();
    for (Record row : rows) {
      found.add(request(row, answers.getOrDefault(row.get(ACCESS_REQUEST.ID), List.of())));
    }
    return found.reversed();
  }

  private static Decision answer(Record r) {
    return new Decision(
        new PersonId(r.get(REQUEST_ANSWER.DECIDER_ID)),
        Deciders.Capacity.valueOf(r.get(REQUEST_ANSWER.DECIDES_AS).toUpperCase(Locale.ROOT)),
        r.get(REQUEST_ANSWER.STEPPED_IN),
        r.get(REQUEST_ANSWER.BEHALF_ID) == null
            ? null
            : new PersonId(r.get(REQUEST_ANSWER.BEHALF_ID)),
        r.get(REQUEST_ANSWER.YES),
        r.get(REQUEST_ANSWER.ANSWERED_AT),
        r.get(REQUEST_ANSWER.UNTIL_DAY),
        r.get(REQUEST_ANSWER.NOTE),
        open(
            r.get(REQUEST_ANSWER.STEP),
            r.get(REQUEST_ANSWER.WAS_FROM),
            r.get(REQUEST_ANSWER.WAS_LAPSES_AT),
            r.get(REQUEST_ANSWER.WAS_ASKED_BY),
            r.get(REQUEST_ANSWER.WAS_BACK_AT),
            r.get(REQUEST_ANSWER.WAS_GOES_ON_AT),
            passed(r.get(REQUEST_ANSWER.WAS_PASSED_TO), r.get(REQUEST_ANSWER.WAS_PASSED_BY))));
  }

  /** A step that waits; for an answer, where somebody has asked back. */
  private static Stage.Open open(
      int step,
      Instant from,
      Instant lapses,
      @Nullable UUID by,
      @Nullable Instant since,
      @Nullable Instant goesOn,
      Stage.@Nullable PassedOn passed) {
    return goesOn == null
        ? new Stage.Waiting(step, from, lapses, passed)
        : new Stage.AskedBack(
            step,
            from,
            new PersonId(requireNonNull(by)),
            requireNonNull(since),
            Duration.between(goesOn, lapses),
            goesOn,
            passed);
  }

  private static Stage.@Nullable PassedOn passed(@Nullable UUID to, @Nullable UUID by) {
    return to == null
        ? null
        : new Stage.PassedOn(new PersonId(to), new PersonId(requireNonNull(by)));
  }

  private static AccessRequest request(Record r, List<Decision> answers) {
    Instant at = r.get(ACCESS_REQUEST.STAGE_AT);
    Stage stage =
        switch (r.get(ACCESS_REQUEST.STAGE)) {
          case WAITING, ASKED_BACK ->
              open(
                  r.get(ACCESS_REQUEST.STEP),
                  at,
                  r.get(ACCESS_REQUEST.LAPSES_AT),
                  r.get(ACCESS_REQUEST.STAGE_BY),
                  r.get(ACCESS_REQUEST.BACK_AT),
                  r.get(ACCESS_REQUEST.GOES_ON_AT),
                  passed(r.get(ACCESS_REQUEST.PASSED_TO), r.get(ACCESS_REQUEST.PASSED_BY)));
          case "given" -> new Stage.Given(new GrantId(r.get(ACCESS_REQUEST.GRANT_ID)), at);
          case "refused" -> new Stage.Refused(new PersonId(r.get(ACCESS_REQUEST.STAGE_BY)), at);
          case "withdrawn" -> new Stage.Withdrawn(at);
          case "lapsed" -> new Stage.Lapsed(at);
          default -> new Stage.Overtaken(at);
        };
    return new AccessRequest(
        new RequestId(r.get(ACCESS_REQUEST.ID)),
        r.get(ACCESS_REQUEST.NUMBER),
        new Wish(
            new PersonId(r.get(ACCESS_REQUEST.ASKER_ID)),
            new PersonId(r.get(ACCESS_REQUEST.PERSON_ID)),
            new EntitlementId(r.get(ACCESS_REQUEST.ENTITLEMENT_ID))),
        Routes.read(r.get(ACCESS_REQUEST.ROUTE)),
        r.get(ACCESS_REQUEST.UNTIL_DAY),
        r.get(ACCESS_REQUEST.REASON),
        RequestForms.readAnswers(r.get(ACCESS_REQUEST.FORM)),
        r.get(ACCESS_REQUEST.ASKED_AT),
        answers,
        stage,
        r.get(ACCESS_REQUEST.MESSAGES));
  }

  /** Writes a request as it stands now, and when it will lapse or be reminded of. */
  public static void save(DSLContext tx, AccessRequest request, Acts.Written entry) {
    long position = entry.position();
    UUID id = request.id().value();
    Stage stage = request.stage();
    Stage.Open open = stage instanceof Stage.Open o ? o : null;
    Stage.AskedBack asked = stage instanceof Stage.AskedBack a ? a : null;
    UUID grant = stage instanceof Stage.Given g ? g.grant().value() : null;
    UUID by =
        switch (stage) {
          case Stage.Refused r -> r.by().value();
          case Stage.AskedBack a -> a.by().value();
          default -> null;
        };
    Integer step = open == null ? null : open.step();
    Instant lapses = open == null ? null : open.lapses();
    Instant since = asked == null ? null : asked.since();
    Instant goesOn = asked == null ? null : asked.goesOn();
    Stage.PassedOn passed = open == null ? null : open.passed();
    UUID passedTo = passed == null ? null : passed.to().value();
    UUID passedBy = passed == null ? null : passed.by().value();
    tx.insertInto(ACCESS_REQUEST)
        .set(ACCESS_REQUEST.ID, id)
        .set(ACCESS_REQUEST.NUMBER, request.number())
        .set(ACCESS_REQUEST.ASKER_ID, request.asker().value())
        .set(ACCESS_REQUEST.PERSON_ID, request.person().value())
        .set(ACCESS_REQUEST.ENTITLEMENT_ID, request.entitlement().value())
        .set(ACCESS_REQUEST.ROUTE, Routes.text(request.route()))
        .set(ACCESS_REQUEST.UNTIL_DAY, request.until())
        .set(ACCESS_REQUEST.REASON, request.reason())
        .set(ACCESS_REQUEST.FORM, RequestForms.answers(request.form()))
        .set(ACCESS_REQUEST.ASKED_AT, request.asked())
        .set(ACCESS_REQUEST.STAGE, word(stage))
        .set(ACCESS_REQUEST.STEP, step)
        .set(ACCESS_REQUEST.STAGE_AT, at(stage))
        .set(ACCESS_REQUEST.LAPSES_AT, lapses)
        .set(ACCESS_REQUEST.STAGE_BY, by)
        .set(ACCESS_REQUEST.BACK_AT, since)
        .set(ACCESS_REQUEST.GOES_ON_AT, goesOn)
        .set(ACCESS_REQUEST.PASSED_TO, passedTo)
        .set(ACCESS_REQUEST.PASSED_BY, passedBy)
        .set(ACCESS_REQUEST.GRANT_ID, grant)
        .set(ACCESS_REQUEST.MESSAGES, request.messages())
        .onDuplicateKeyUpdate()
        .set(ACCESS_REQUEST.STAGE, word(stage))
        .set(ACCESS_REQUEST.STEP, step)
        .set(ACCESS_REQUEST.STAGE_AT, at(stage))
        .set(ACCESS_REQUEST.LAPSES_AT, lapses)
        .set(ACCESS_REQUEST.STAGE_BY, by)
        .set(ACCESS_REQUEST.BACK_AT, since)
        .set(ACCESS_REQUEST.GOES_ON_AT, goesOn)
        .set(ACCESS_REQUEST.PASSED_TO, passedTo)
        .set(ACCESS_REQUEST.PASSED_BY, passedBy)
        .set(ACCESS_REQUEST.GRANT_ID, grant)
        .set(ACCESS_REQUEST.MESSAGES, request.messages())
        .execute();
    tx.deleteFrom(REQUEST_ANSWER)
        .where(REQUEST_ANSWER.REQUEST_ID.eq(id), REQUEST_ANSWER.SEQ.ge(request.answers().size()))
        .execute();
    for (int seq = 0; seq < request.answers().size(); seq++) {
      Decision answer = request.answers().get(seq);
      Stage.Open before = answer.before();
      Stage.AskedBack question = before instanceof Stage.AskedBack a ? a : null;
      Stage.PassedOn was = before.passed();
      tx.insertInto(REQUEST_ANSWER)
          .set(REQUEST_ANSWER.REQUEST_ID, id)
          .set(REQUEST_ANSWER.SEQ, seq)
          .set(REQUEST_ANSWER.STEP, answer.step())
          .set(REQUEST_ANSWER.DECIDER_ID, answer.by().value())
          .set(REQUEST_ANSWER.DECIDES_AS, answer.capacity().name().toLowerCase(Locale.ROOT))
          .set(REQUEST_ANSWER.STEPPED_IN, answer.steppedIn())
          .set(REQUEST_ANSWER.BEHALF_ID, answer.behalf() == null ? null : answer.behalf().value())
          .set(REQUEST_ANSWER.YES, answer.yes())
          .set(REQUEST_ANSWER.ANSWERED_AT, answer.at())
          .set(REQUEST_ANSWER.UNTIL_DAY, answer.until())
          .set(REQUEST_ANSWER.NOTE, answer.note())
          .set(REQUEST_ANSWER.WAS_FROM, before.from())
          .set(REQUEST_ANSWER.WAS_LAPSES_AT, before.lapses())
          .set(REQUEST_ANSWER.WAS_ASKED_BY, question == null ? null : question.by().value())
          .set(REQUEST_ANSWER.WAS_BACK_AT, question == null ? null : question.since())
          .set(REQUEST_ANSWER.WAS_GOES_ON_AT, question == null ? null : question.goesOn())
          .set(REQUEST_ANSWER.WAS_PASSED_TO, was == null ? null : was.to().value())
          .set(REQUEST_ANSWER.WAS_PASSED_BY, was == null ? null : was.by().value())
          .onDuplicateKeyIgnore()
          .execute();
    }
    // A request is saved with every message; what is due then is due once.
    if (goesOn != null) {
      Later.dueOnce(
          tx, position, List.of(new Later.Due(goesOn, Later.REQUEST_GO_ON, id.toString())));
    } else if (lapses != null) {
      Later.dueOnce(
          tx, position, List.of(new Later.Due(lapses, Later.REQUEST_LAPSE, id.toString())));
      Later.dueOnce(
          tx,
          position,
          RequestDecisions.reminders(request, entry.at()).stream()
              .map(at -> new Later.Due(at, Later.REQUEST_REMIND, id.toString()))
              .toList());
    }
  }

  /**
   * Forgets the mails that a decision which is taken back would have sent; one that was tried
   * already and waits for its next try is an earlier act's.
   */
  static void unsend(DSLContext tx, RequestId id) {
    tx.deleteFrom(OUTBOX)
        .where(
            OUTBOX.SUBJECT_ID.eq(id.value()),
            OUTBOX.DONE_AT.isNull(),
            OUTBOX.ATTEMPTS.eq(0),
            OUTBOX.NEXT_AT.gt(DSL.currentLocalDateTime(DSL.inline(6)).cast(OUTBOX.NEXT_AT)))
        .execute();
  }

  public static String word(Stage stage) {
    return switch (stage) {
      case Stage.Waiting s -> WAITING;
      case Stage.AskedBack s -> ASKED_BACK;
      case Stage.Given s -> "given";
      case Stage.Refused s -> "refused";
      case Stage.Withdrawn s -> "withdrawn";
      case Stage.Lapsed s -> "lapsed";
      case Stage.Overtaken s -> "overtaken";
    };
  }

  static Instant at(Stage stage) {
    return switch (stage) {
      case Stage.Open s -> s.from();
      case Stage.Given s -> s.from();
      case Stage.Refused s -> s.at();
      case Stage.Withdrawn s -> s.at();
      case Stage.Lapsed s -> s.at();
      case Stage.Overtaken s -> s.at();
    };
  }

  static @Nullable Instant lapses(Stage stage) {
    return stage instanceof Stage.Open open ? open.lapses() : null;
  }
}
