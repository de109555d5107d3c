package eleutheria.core.access.engine;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * Until when: the first moment at which somebody does not hold something by anything that is on
 * record now; of one ground, the first at which that grant does not cover them.
 *
 * <p>Most holdings do not end by themselves, and some way to them shows that: one on which nothing
 * is set to end. That is looked for first, in some microseconds. Only where there is none the
 * moments to come are walked ({@link Spans}), so that what follows on without a gap is seen.
 */
final class Until {
  private final Snapshot snapshot;
  private final Store store;
  private final Times times;
  private final int person;
  private @Nullable RoaringBitmap endless;
  private @Nullable Boolean quiet;

  Until(Snapshot snapshot, int person) {
    this.snapshot = snapshot;
    this.store = snapshot.store;
    this.times = snapshot.times();
    this.person = person;
  }

  /**
   * Of a holding; of being entitled, where something else keeps it from being held. Null if it does
   * not end, or there is nothing.
   */
  @Nullable Instant of(int entitlement) {
    return end(entitlement, snapshot.holds(person, entitlement));
  }

  /** Of being entitled, whatever becomes of the person or the application; null likewise. */
  @Nullable Instant entitled(int entitlement) {
    return end(entitlement, false);
  }

  private @Nullable Instant end(int entitlement, boolean held) {
    if ((!held && !snapshot.entitled(person, entitlement)) || endless(entitlement, held)) {
      return null;
    }
    long end = new Spans(snapshot, entitlement).end(person, -1, held);
    return end >= Rows.FOREVER ? null : Store.instant(end);
  }

  /** Of one ground, by the row of its grant; {@link Rows#FOREVER} if it does not end. */
  long ofGrant(int row) {
    if (endlessGrant(row)) {
      return Rows.FOREVER;
    }
    int subject = store.rows(Table.GRANTS).value(row);
    if (Store.kindOf(subject) == Store.PERSON
        && lasts(Table.PEOPLE, person)
        && lasts(Table.ROLES, store.given(row))
        && !followed(row)) {
      return times.until(Table.GRANTS, row);
    }
    return new Spans(snapshot, store.given(row)).end(person, row, false);
  }

  /** Whether the same grant says something else from its end on. */
  private boolean followed(int first) {
    Rows grants = store.rows(Table.GRANTS);
    long end = times.until(Table.GRANTS, first);
    for (int row = grants.newest(grants.key(first)); row >= 0; row = grants.earlier(row)) {
      if (times.from(Table.GRANTS, row) == end && times.until(Table.GRANTS, row) > end) {
        return true;
      }
    }
    return false;
  }

  private boolean endless(int entitlement, boolean held) {
    int app = snapshot.state.roleApps().get(entitlement) - 1;
    if (!lasts(Table.ROLES, entitlement)
        || (held && !(lasts(Table.STATUS, person) && lasts(Table.STATES, app)))) {
      return false;
    }
    int[] own = Snapshot.or(snapshot.state.own().get(person));
    for (int i = 0; i < own.length; i += 2) {
      if (own[i] == entitlement && endlessGrant(own[i + 1])) {
        return true;
      }
    }
    for (int row : Snapshot.or(snapshot.state.groupGrants().get(entitlement))) {
      if (endlessGrant(row)) {
        return true;
      }
    }
    for (int row : Snapshot.or(snapshot.state.byFilter().get(entitlement))) {
      if (endlessGrant(row)) {
        return true;
      }
    }
    return false;
  }

  /** Whether a grant covers the person for ever, by some way on which nothing is set to end. */
  private boolean endlessGrant(int row) {
    if (times.until(Table.GRANTS, row) < Rows.FOREVER
        || !lasts(Table.PEOPLE, person)
        || !lasts(Table.ROLES, store.given(row))) {
      return false;
    }
    int subject = store.rows(Table.GRANTS).value(row);
    int of = Store.subjectOf(subject);
    return switch (Store.kindOf(subject)) {
      case Store.PERSON -> of == person;
      case Store.GROUP -> endlessGroups().contains(of);
      default -> Snapshot.or(snapshot.state.fitting().get(of)).contains(person) && quiet();
    };
  }

  /** The groups that the person is in for ever. */
  private RoaringBitmap endlessGroups() {
    RoaringBitmap known = endless;
    if (known != null) {
      return known;
    }
    RoaringBitmap found = new RoaringBitmap();
    IntList open = new IntList(8);
    for (int group : Snapshot.or(snapshot.state.groupsOf().get(person))) {
      if (snapshot.state.forms().get(group) == 0
          && stays(group)
          && lasting(Table.MEMBERS, group, person)
          && found.checkedAdd(group)) {
        open.add(group);
      }
    }
    for (int filter : Snapshot.or(snapshot.state.fits().get(person))) {
      for (int group : Snapshot.or(snapshot.state.filterGroups().get(filter))) {
        if (quiet() && stays(group) && found.checkedAdd(group)) {
          open.add(group);
        }
      }
    }
    for (int next = 0; next < open.size(); next++) {
      int group = open.get(next);
      for (int parent : Snapshot.or(snapshot.state.parents().get(group))) {
        if (stays(parent) && lasting(Table.EDGES, parent, group) && found.checkedAdd(parent)) {
          open.add(parent);
        }
      }
    }
    endless = found;
    return found;
  }

  /** Whether a group stays as it is. */
  private boolean stays(int group) {
    return lasts(Table.GROUPS, group) && unchanging(Table.FORMS, group);
  }

  /** Whether something is true now and has no end. */
  private boolean lasts(Table table, int key) {
    Rows rows = store.rows(table);
    for (int row = rows.newest(key); row >= 0; row = rows.earlier(row)) {
      if (times.on(table, row, snapshot.at)) {
        return times.until(table, row) >= Rows.FOREVER;
      }
    }
    return false;
  }

  private boolean lasting(Table table, int key, int value) {
    boolean[] found = {false};
    store
        .rows(table)
        .alike(
            key,
            value,
            0,
            row ->
                found[0] |=
                    times.on(table, row, snapshot.at) && times.until(table, row) >= Rows.FOREVER);
    return found[0];
  }

  /** Whether nothing of a key begins or ends after now. */
  private boolean unchanging(Table table, int key) {
    Rows rows = store.rows(table);
    for (int row = rows.newest(key); row >= 0; row = rows.earlier(row)) {
      if (turns(table, row)) {
        return false;
      }
    }
    return true;
  }

  private boolean turns(Table table, int row) {
    long from = times.from(table, row);
    long until = times.until(table, row);
    return from < until
        && ((from > snapshot.at && from < Rows.FOREVER)
            || (until > snapshot.at && until < Rows.FOREVER));
  }

  /** Whether nothing that a filter could read of the person is set to change. */
  private boolean quiet() {
    Boolean known = quiet;
    if (known == null) {
      known = unchanging(Table.ATTRIBUTES, person);
      for (int row = 0; known && row < store.rows(Table.DEFINED).size(); row++) {
        known = !turns(Table.DEFINED, row);
      }
      quiet = known;
    }
    return known;
  }
}
