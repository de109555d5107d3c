package eleutheria.core.access.engine;

import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.roaringbitmap.RoaringBitmap;

/** Who would lose what, if something ended now; without ending it. */
public final class Losses {
  /** The most ways of taking something away that are offered. */
  public static final int MOST = 20;

  private Losses() {}

  /**
   * Who would no longer be entitled if a grant ended now: those whom it covers and no other grant
   * does. Who is covered more than once is kept beside who is entitled at all, so this is one
   * subtraction of sets, however many grants there are.
   *
   * @return an empty set where the grant is not in force
   */
  public static RoaringBitmap ofGrant(Snapshot snapshot, GrantId id) {
    int row = row(snapshot, id);
    return row < 0 ? new RoaringBitmap() : ofGrant(snapshot, row);
  }

  static RoaringBitmap ofGrant(Snapshot snapshot, int row) {
    Store store = snapshot.store;
    Snapshot.State state = snapshot.state;
    int entitlement = store.given(row);
    if (state.roleApps().get(entitlement) == 0) {
      return new RoaringBitmap();
    }
    int of = Store.subjectOf(store.subject(row));
    RoaringBitmap often = Snapshot.or(state.often().get(entitlement));
    return switch (Store.kindOf(store.subject(row))) {
      case Store.PERSON ->
          snapshot.exists(of) && !often.contains(of)
              ? RoaringBitmap.bitmapOf(of)
              : new RoaringBitmap();
      case Store.GROUP -> RoaringBitmap.andNot(Snapshot.or(state.members().get(of)), often);
      default -> RoaringBitmap.andNot(Snapshot.or(state.fitting().get(of)), often);
    };
  }

  private static int row(Snapshot snapshot, GrantId id) {
    int number = snapshot.store.grants.find(id.value());
    return number < 0 ? -1 : snapshot.store.grantRow(number, snapshot.at);
  }

  /** What would flip if a person or group were no longer listed in a group. */
  public static Flips ofMembership(Snapshot snapshot, GroupId group, ObjectId member) {
    int above = snapshot.number(group);
    Delta delta = new Delta();
    switch (member) {
      case eleutheria.core.facts.PersonId id ->
          cut(snapshot, delta, Table.MEMBERS, above, snapshot.number(id));
      case GroupId id -> cut(snapshot, delta, Table.EDGES, above, snapshot.number(id));
      default -> throw new IllegalArgumentException("cannot be a member: " + member);
    }
    return Engine.without(snapshot, delta).flips();
  }

  private static void cut(Snapshot snapshot, Delta delta, Table table, int group, int member) {
    int row = snapshot.store.rows(table).onAt(group, member, 0, snapshot.at);
    if (row >= 0) {
      delta.add(table, row, true, false);
    }
  }

  /** What would flip if a group were no more. */
  public static Flips ofGroup(Snapshot snapshot, GroupId group) {
    Delta delta = new Delta();
    int number = snapshot.number(group);
    int row = snapshot.store.rows(Table.GROUPS).onAt(number, 0, 0, snapshot.at);
    if (row >= 0) {
      delta.add(Table.GROUPS, row, true, false);
    }
    return Engine.without(snapshot, delta).flips();
  }

  // ---- what would take this away?

  /** One way of ending a ground. */
  public enum Cut {
    /** The grant itself. */
    GRANT,
    /** Every place of the person's own that leads to the grant. */
    NEAREST_THE_PERSON,
    /** Every group directly in the grant's subject through which the person comes. */
    NEAREST_THE_GRANT,
    /** What the person is, which a filter reads: nothing that can be ended here. */
    ATTRIBUTES
  }

  /** A place in a group, of a person or of a group. */
  public record Place(GroupId group, ObjectId member) {}

  /**
   * A way to end one ground, and what else it would do.
   *
   * @param grant the ground
   * @param places what is cut; empty for the grant itself and for attributes
   * @param enough whether this alone takes the entitlement from the person
   * @param others how many other people, departed ones aside, would lose this entitlement
   * @param besides how many other holdings would be lost in all, of anybody
   */
  public record Option(
      GrantId grant, Cut cut, List<Place> places, boolean enough, int others, long besides) {}

  /**
   * @param cutOff whether there are more than {@link #MOST}
   */
  public record Options(List<Option> options, boolean cutOff) {}

  /** For each ground on which a person is entitled, what would end it. */
  public static Options taking(Snapshot snapshot, int person, int entitlement) {
    List<Option> found = new ArrayList<>();
    Store store = snapshot.store;
    Snapshot.State state = snapshot.state;
    IntList rows = new IntList();
    int[] own = Snapshot.or(state.own().get(person));
    for (int i = 0; i < own.length; i += 2) {
      if (own[i] == entitlement) {
        rows.add(own[i + 1]);
      }
    }
    for (int row : Snapshot.or(state.groupGrants().get(entitlement))) {
      if (snapshot.reaches(person, Store.subjectOf(store.subject(row)))) {
        rows.add(row);
      }
    }
    for (int row : Snapshot.or(state.byFilter().get(entitlement))) {
      if (Snapshot.or(state.fitting().get(Store.subjectOf(store.subject(row)))).contains(person)) {
        rows.add(row);
      }
    }
    int[] direct = snapshot.directGroups(person);
    for (int i = 0; i < rows.size(); i++) {
      int row = rows.get(i);
      int of = Store.subjectOf(store.subject(row));
      int kind = Store.kindOf(store.subject(row));
      Delta grant = new Delta();
      grant.add(Table.GRANTS, row, true, false);
      found.add(option(snapshot, person, entitlement, row, Cut.GRANT, List.of(), grant));
      if (kind == Store.FILTER) {
        found.add(new Option(store.grant(row), Cut.ATTRIBUTES, List.of(), false, 0, 0));
      } else if (kind == Store.GROUP) {
        ways(snapshot, person, entitlement, row, of, direct, found);
      }
    }
    boolean cutOff = found.size() > MOST;
    return new Options(cutOff ? List.copyOf(found.subList(0, MOST)) : found, cutOff);
  }

  private static void ways(
      Snapshot snapshot,
      int person,
      int entitlement,
      int row,
      int subject,
      int[] direct,
      List<Option> found) {
    Store store = snapshot.store;
    Snapshot.State state = snapshot.state;
    Delta near = new Delta();
    List<Place> places = new ArrayList<>();
    boolean byFilter = false;
    for (int group : direct) {
      if (IntList.has(Snapshot.or(state.above().get(group)), subject)) {
        if (state.forms().get(group) == 0) {
          cut(snapshot, near, Table.MEMBERS, group, person);
          places.add(new Place(store.group(group), store.person(person)));
        } else {
          byFilter = true;
        }
      }
    }
    if (!places.isEmpty() && !byFilter) {
      found.add(option(snapshot, person, entitlement, row, Cut.NEAREST_THE_PERSON, places, near));
    }
    if (byFilter) {
      found.add(new Option(store.grant(row), Cut.ATTRIBUTES, List.of(), false, 0, 0));
    }
    Delta far = new Delta();
    Set<Place> last = new LinkedHashSet<>();
    boolean filtered = false;
    if (state.forms().get(subject) != 0) {
      filtered = Snapshot.or(snapshot.direct(subject)).contains(person);
    } else if (Snapshot.or(state.listed().get(subject)).contains(person)) {
      cut(snapshot, far, Table.MEMBERS, subject, person);
      last.add(new Place(store.group(subject), store.person(person)));
    }
    Set<Integer> on = new HashSet<>();
    for (int group : direct) {
      Arrays.stream(Snapshot.or(state.above().get(group))).forEach(on::add);
    }
    for (int child : Snapshot.or(state.children().get(subject))) {
      if (on.contains(child) && state.groups().contains(child)) {
        cut(snapshot, far, Table.EDGES, subject, child);
        last.add(new Place(store.group(subject), store.group(child)));
      }
    }
    if (!last.isEmpty() && !filtered && !last.equals(new LinkedHashSet<>(places))) {
      found.add(
          option(
              snapshot, person, entitlement, row, Cut.NEAREST_THE_GRANT, List.copyOf(last), far));
    }
  }

  private static Option option(
      Snapshot snapshot,
      int person,
      int entitlement,
      int row,
      Cut cut,
      List<Place> places,
      Delta delta) {
    Change.Result result = Engine.without(snapshot, delta);
    boolean enough = !result.snapshot().entitled(person, entitlement);
    int others = 0;
    long besides = 0;
    for (Flips.Flip flip : result.flips().all()) {
      int lost = snapshot.present(flip.entitledLoss());
      if (flip.entitlement() == entitlement) {
        others =
            lost
                - (flip.entitledLoss().contains(person)
                    ? snapshot.present(RoaringBitmap.bitmapOf(person))
                    : 0);
      } else {
        besides += lost;
      }
    }
    return new Option(snapshot.store.grant(row), cut, places, enough, others, besides + others);
  }
}
