package eleutheria.core.queries;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Saving, changing and dropping queries. What a query asks is not in the ledger, its hash is. */
public final class QueryDecisions {
  public static final int LONGEST_NAME = 120;
  public static final int LONGEST_WHY = 500;

  /** How many queries one person can keep. */
  public static final int MOST = 100;

  private QueryDecisions() {}

  /**
   * Saves a new query.
   *
   * @param today the day in the organisation's zone
   * @param mine what the person has saved
   */
  public static Outcome<Query> save(
      Moment moment, LocalDate today, Query.Terms terms, Collection<Query> mine) {
    PersonId owner = moment.authority().person();
    if (owner == null) {
      return Outcome.refused(Problem.absent("person"));
    }
    List<Problem> problems = problems(terms, null, mine);
    if (mine.size() >= MOST) {
      problems.add(
          Problem.invalid(
              "query.many",
              "",
              "You have %d saved queries already; delete one you do not need.".formatted(MOST)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Query made =
        new Query(
            moment.ids().get(),
            owner,
            terms.name().strip(),
            terms.why().strip(),
            terms.spec(),
            terms.shared(),
            terms.every(),
            terms.every().after(today),
            1,
            moment.at());
    return Outcome.done(act(ActName.QUERY_SAVE, made), List.of(), made);
  }

  /**
   * Changes a query of one's own.
   *
   * @param version that one has seen
   */
  public static Outcome<Query> change(
      Moment moment,
      LocalDate today,
      Query query,
      int version,
      Query.Terms terms,
      Collection<Query> mine) {
    if (!query.owner().equals(moment.authority().person())) {
      return Outcome.refused(Problem.absent("query of yours"));
    }
    if (query.version() != version) {
      return Outcome.refused(
          Problem.stale("name", "You have changed it elsewhere meanwhile; look at it again."));
    }
    List<Problem> problems = problems(terms, query.id(), mine);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Query next =
        new Query(
            query.id(),
            query.owner(),
            terms.name().strip(),
            terms.why().strip(),
            terms.spec(),
            terms.shared(),
            terms.every(),
            terms.every() == query.every() ? query.next() : terms.every().after(today),
            version + 1,
            moment.at());
    return Outcome.done(act(ActName.QUERY_CHANGE, next), List.of(), next);
  }

  /** Drops a query of one's own. */
  public static Outcome<Query> drop(Moment moment, Query query) {
    return query.owner().equals(moment.authority().person())
        ? Outcome.done(act(ActName.QUERY_DROP, query), List.of(), query)
        : Outcome.refused(Problem.absent("query of yours"));
  }

  private static Act act(ActName name, Query query) {
    return Act.of(name, query.owner())
        .with(
            Map.of(
                "query",
                query.id().toString(),
                "spec",
                LedgerChain.hash(query.spec()),
                "shared",
                query.shared() ? "yes" : "no",
                "every",
                query.every().word()));
  }

  private static List<Problem> problems(
      Query.Terms terms, @Nullable UUID id, Collection<Query> mine) {
    List<Problem> problems = new ArrayList<>();
    String name = terms.name().strip();
    if (name.isEmpty()) {
      problems.add(Problem.invalid("query.no-name", "name", "Give it a name."));
    } else if (name.length() > LONGEST_NAME) {
      problems.add(
          Problem.invalid("too-long", "name", "At most %d characters.".formatted(LONGEST_NAME)));
    } else if (mine.stream().anyMatch(q -> !q.id().equals(id) && q.name().equals(name))) {
      problems.add(
          Problem.invalid("query.name-taken", "name", "You have saved another under this name."));
    }
    if (terms.why().strip().length() > LONGEST_WHY) {
      problems.add(
          Problem.invalid("too-long", "why", "At most %d characters.".formatted(LONGEST_WHY)));
    }
    return problems;
  }
}
