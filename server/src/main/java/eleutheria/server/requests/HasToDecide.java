package eleutheria.server.requests;

import static eleutheria.server.tables.Tables.ACCESS_REQUEST;
import static eleutheria.server.tables.Tables.REQUEST_ANSWER;

import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.PersonId;
import eleutheria.core.requests.Deciders;
import eleutheria.server.signon.SessionViews;
import eleutheria.server.state.World;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Whether somebody finds, or will find, something on the docket that is or was theirs to decide.
 */
@Component
class HasToDecide implements SessionViews.Deciding {
  private final World world;
  private final RequestStore store;
  private final DSLContext db;

  HasToDecide(World world, RequestStore store, DSLContext db) {
    this.world = world;
    this.store = store;
    this.db = db;
  }

  @Override
  public boolean decides(PersonId person) {
    DirectoryView now = world.now();
    return !now.reports(person).isEmpty()
        || !world.look((facts, whole) -> Deputies.by(facts, person, whole.at())).isEmpty()
        || named(now, person)
        || db.fetchExists(ACCESS_REQUEST, ACCESS_REQUEST.PASSED_TO.eq(person.value()))
        || db.fetchExists(REQUEST_ANSWER, REQUEST_ANSWER.DECIDER_ID.eq(person.value()));
  }

  /** By a route that is set, or by one that something open still goes by. */
  private boolean named(DirectoryView now, PersonId person) {
    return Stream.concat(
            world.whole().access().apps().routes().stream(), store.openRoutes().stream())
        .anyMatch(route -> Deciders.names(now, route, person));
  }
}
