package eleutheria.server.requests;

import static eleutheria.server.tables.Tables.ACCESS_REQUEST;
import static eleutheria.server.tables.Tables.REQUEST_ANSWER;

import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.PersonId;
import eleutheria.server.signon.SessionViews;
import eleutheria.server.state.World;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Whether somebody finds, or will find, something on the docket that is or was theirs to decide.
 */
@Component
class HasToDecide implements SessionViews.Deciding {
  private final World world;
  private final DSLContext db;

  HasToDecide(World world, DSLContext db) {
    this.world = world;
    this.db = db;
  }

  @Override
  public boolean decides(PersonId person) {
    DirectoryView now = world.now();
    return !now.reports(person).isEmpty()
        || !world.look((facts, whole) -> Deputies.by(facts, person, whole.at())).isEmpty()
        || db.fetchExists(ACCESS_REQUEST, ACCESS_REQUEST.PASSED_TO.eq(person.value()))
        || db.fetchExists(REQUEST_ANSWER, REQUEST_ANSWER.DECIDER_ID.eq(person.value()));
  }
}
