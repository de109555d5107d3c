package eleutheria.server.holdings;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.queries.Query;
import eleutheria.server.clock.DueKind;
import eleutheria.server.settings.Organisation;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Sends saved queries on their days, to whoever saved them. */
@Component
class QueryDue implements DueKind {
  static final String KIND = "query";

  /** When in the day it is sent, in the organisation's zone. */
  private static final int HOUR = 6;

  private final QueryStore store;
  private final Organisation organisation;

  QueryDue(QueryStore store, Organisation organisation) {
    this.store = store;
    this.organisation = organisation;
  }

  /** The moment at which a query is due next; null for never. */
  static @Nullable Instant at(Query query, ZoneId zone) {
    LocalDate next = query.next();
    return next == null ? null : next.atTime(HOUR, 0).atZone(zone).toInstant();
  }

  /** Puts the next sending on the clock's list; what was there before finds that it is not due. */
  static void put(DSLContext tx, long position, ZoneId zone, Query query) {
    Instant at = at(query, zone);
    if (at != null) {
      Later.due(tx, position, List.of(new Later.Due(at, KIND, query.id().toString())));
    }
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    List<Errand> errands = new ArrayList<>();
    List<String> sent = new ArrayList<>();
    for (Query query : standing(due, subjects)) {
      boolean there =
          moment
              .directory()
              .person(query.owner())
              .filter(p -> p.status() == PersonStatus.ACTIVE)
              .isPresent();
      if (there) {
        errands.add(new Errand.TellOfQuery(query.owner(), query.id()));
        sent.add(query.id().toString());
      }
    }
    return sent.isEmpty()
        ? Optional.empty()
        : Optional.of(
            Outcome.done(
                    Act.of(ActName.QUERY_SEND).with(Map.of("queries", String.join(" ", sent))),
                    List.of(),
                    String.join(" ", sent))
                .with(errands));
  }

  /** Those that are still due then, and were not changed since. */
  private List<Query> standing(Instant due, List<String> subjects) {
    return subjects.stream()
        .flatMap(id -> store.find(UUID.fromString(id)).stream())
        .filter(q -> due.equals(at(q, organisation.zone())))
        .toList();
  }

  @Override
  public void beside(DSLContext tx, String result, Acts.Written entry) {
    for (String id : result.split(" ")) {
      store
          .find(UUID.fromString(id))
          .ifPresent(
              query -> {
                LocalDate today = entry.at().atZone(organisation.zone()).toLocalDate();
                Query next =
                    new Query(
                        query.id(),
                        query.owner(),
                        query.name(),
                        query.why(),
                        query.spec(),
                        query.shared(),
                        query.every(),
                        query.every().after(today),
                        query.version(),
                        query.changedAt());
                QueryStore.save(tx, next);
                put(tx, entry.position(), organisation.zone(), next);
              });
    }
  }
}
