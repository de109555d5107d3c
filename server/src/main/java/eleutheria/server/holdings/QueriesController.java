package eleutheria.server.holdings;

import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.queries.Every;
import eleutheria.core.queries.Query;
import eleutheria.core.queries.QueryDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Queries about holdings: those that are ready, one's own, those that others share; answers. */
@RestController
class QueriesController {
  private static final int MOST_SHARED = 200;
  private static final int MOST_BARS = 12;

  private final World world;
  private final Acts acts;
  private final Holdings holdings;
  private final Answers answers;
  private final QueryStore store;
  private final Specs specs;
  private final Organisation organisation;
  private final Clock clock;

  QueriesController(
      World world,
      Acts acts,
      Holdings holdings,
      Answers answers,
      QueryStore store,
      Specs specs,
      Organisation organisation,
      Clock clock) {
    this.world = world;
    this.acts = acts;
    this.holdings = holdings;
    this.answers = answers;
    this.store = store;
    this.specs = specs;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param owner null for those that come with the product
   * @param every never, week, month or quarter
   * @param mine whether the reader can change it
   */
  record QueryView(
      String id,
      String name,
      String why,
      SpecForm spec,
      @Nullable PersonLine owner,
      boolean shared,
      String every,
      @Nullable LocalDate next,
      int version,
      boolean mine) {}

  record QueriesView(List<QueryView> ready, List<QueryView> mine, List<QueryView> shared) {}

  record AnswerColumn(String name, String label) {}

  record TermsForm(
      @NotNull @Size(max = 1000) String name,
      @NotNull @Size(max = 2000) String why,
      @NotNull @Valid SpecForm spec,
      @NotNull Boolean shared,
      @NotNull @Pattern(regexp = "never|week|month|quarter") String every,
      @Nullable Integer version) {}

  record AskedQuery(
      @NotNull @Valid SpecForm spec, @Nullable Integer offset, @Nullable Integer limit) {}

  /**
   * @param values in the order of the columns
   */
  record AnswerRow(String person, String entitlement, List<String> values) {}

  record Bar(String name, int value) {}

  /**
   * @param bars people by unit, the most first; only with the first rows
   * @param asked the query with its days worked out
   * @param at the moment that it is of
   */
  record AnswerView(
      long total,
      List<AnswerColumn> columns,
      List<AnswerRow> rows,
      List<Bar> bars,
      AskedForm asked,
      Instant at,
      long position) {}

  @GetMapping("/api/queries")
  @Needs(signedIn = true, desk = true)
  QueriesView queries(Viewer viewer) {
    holdings.require(viewer);
    return new QueriesView(
        ReadyQueries.ALL.stream().map(QueriesController::ready).toList(),
        store.of(viewer.person()).stream().map(q -> view(viewer, q)).toList(),
        store.sharedBesides(viewer.person(), MOST_SHARED).stream()
            .map(q -> view(viewer, q))
            .toList());
  }

  /** Everything that can be answered with. */
  @GetMapping("/api/queries/columns")
  @Needs(signedIn = true, desk = true)
  List<AnswerColumn> columns() {
    return Arrays.stream(ReportColumn.values())
        .map(c -> new AnswerColumn(c.word(), c.label()))
        .toList();
  }

  @GetMapping("/api/queries/{id}")
  @Needs(signedIn = true, desk = true)
  QueryView query(Viewer viewer, @PathVariable String id) {
    holdings.require(viewer);
    for (ReadyQueries.Ready each : ReadyQueries.ALL) {
      if (each.id().equals(id)) {
        return ready(each);
      }
    }
    return view(viewer, found(viewer.person(), id));
  }

  private Query found(PersonId reader, String id) {
    UUID key;
    try {
      key = UUID.fromString(id);
    } catch (IllegalArgumentException e) {
      throw Refusal.of(Problem.absent("query"));
    }
    return store
        .find(key)
        .filter(q -> q.mayBeSeenBy(reader))
        .orElseThrow(() -> Refusal.of(Problem.absent("query")));
  }

  private static QueryView ready(ReadyQueries.Ready q) {
    return new QueryView(
        q.id(), q.name(), q.why(), q.spec(), null, true, Every.NEVER.word(), null, 0, false);
  }

  private QueryView view(Viewer viewer, Query q) {
    return new QueryView(
        q.id().toString(),
        q.name(),
        q.why(),
        specs.read(q.spec()),
        world.now().person(q.owner()).map(PersonLine::named).orElse(null),
        q.shared(),
        q.every().word(),
        q.next(),
        q.version(),
        q.owner().equals(viewer.person()));
  }

  /** Answers a query; nothing is kept of it. */
  @PostMapping("/api/queries/answer")
  @Needs(signedIn = true, desk = true)
  AnswerView answer(Viewer viewer, @Valid @RequestBody AskedQuery form) {
    Authority reader = viewer.authority();
    Answers.Prepared answer = answers.ready(reader, world.whole(), form.spec());
    int offset = form.offset() == null ? 0 : Pages.from(form.offset());
    int limit = form.limit() == null ? 100 : Pages.size(form.limit());
    List<AnswerRow> rows = new ArrayList<>();
    try {
      answers.each(
          answer,
          offset,
          limit,
          line ->
              rows.add(
                  new AnswerRow(
                      line.person().value().toString(),
                      line.entitlement().id().value().toString(),
                      line.values())));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return new AnswerView(
        answer.total(),
        answer.columns().stream().map(c -> new AnswerColumn(c.word(), c.label())).toList(),
        rows,
        offset > 0
            ? List.of()
            : answers.byUnit(answer).entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .limit(MOST_BARS)
                .map(e -> new Bar(e.getKey(), e.getValue()))
                .toList(),
        answer.asked(),
        answer.at(),
        world.position());
  }

  // ---- saving

  @PostMapping("/api/queries")
  @Needs(signedIn = true, desk = true)
  Receipt save(Viewer viewer, @Valid @RequestBody TermsForm form, IdempotencyKey repeatKey) {
    // What cannot be answered is not worth saving.
    answers.ready(viewer.authority(), world.whole(), form.spec());
    return act(
        viewer,
        repeatKey.value(),
        moment -> QueryDecisions.save(moment, today(), terms(form), store.of(viewer.person())));
  }

  @PutMapping("/api/queries/{id}")
  @Needs(signedIn = true, desk = true)
  Receipt change(Viewer viewer, @PathVariable String id, @Valid @RequestBody TermsForm form) {
    answers.ready(viewer.authority(), world.whole(), form.spec());
    return act(
        viewer,
        null,
        moment ->
            QueryDecisions.change(
                moment,
                today(),
                found(viewer.person(), id),
                form.version() == null ? 0 : form.version(),
                terms(form),
                store.of(viewer.person())));
  }

  @PostMapping("/api/queries/{id}/drop")
  @Needs(signedIn = true, desk = true)
  Receipt drop(Viewer viewer, @PathVariable String id) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            String.class,
            moment -> told(QueryDecisions.drop(moment, found(viewer.person(), id)), null),
            (tx, result, entry) -> QueryStore.drop(tx, UUID.fromString(result))));
  }

  private LocalDate today() {
    return clock.instant().atZone(organisation.zone()).toLocalDate();
  }

  private Query.Terms terms(TermsForm form) {
    return new Query.Terms(
        form.name(), form.why(), specs.write(form.spec()), form.shared(), Every.of(form.every()));
  }

  private Receipt act(
      Viewer viewer,
      @Nullable String repeatKey,
      java.util.function.Function<eleutheria.core.directory.Moment, Outcome<Query>> decision) {
    AtomicReference<Query> next = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            String.class,
            moment -> told(decision.apply(moment), next),
            (tx, result, entry) -> {
              Query query = requireNonNull(next.get());
              QueryStore.save(tx, query);
              QueryDue.put(tx, entry.position(), organisation.zone(), query);
            }));
  }

  private static Outcome<String> told(
      Outcome<Query> outcome, @Nullable AtomicReference<Query> next) {
    return switch (outcome) {
      case Outcome.Refused<Query> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<Query> done -> {
        if (next != null) {
          next.set(done.result());
        }
        yield Outcome.done(done.act(), done.edits(), done.result().id().toString());
      }
    };
  }
}
