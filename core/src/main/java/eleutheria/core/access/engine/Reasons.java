package eleutheria.core.access.engine;

import eleutheria.core.access.Grant;
import eleutheria.core.access.Ground;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.AbstractSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Why someone is entitled: every ground, with all that leads there.
 *
 * <p>It walks up from the groups that the person is in directly, and enters a group only if the
 * grant's subject is above it; walking down from the subject visits everyone's groups and took up
 * to thirteen times as long.
 */
public final class Reasons {
  private static final Map<String, List<String>> NONE = Map.of();

  private final Snapshot snapshot;
  private final Store store;
  private final int person;
  private final Until until;

  private Reasons(Snapshot snapshot, int person) {
    this.snapshot = snapshot;
    this.store = snapshot.store;
    this.person = person;
    this.until = new Until(snapshot, person);
  }

  private Instant until(int grantRow) {
    long end = until.ofGrant(grantRow);
    return end >= Rows.FOREVER ? Moments.FOREVER : Store.instant(end);
  }

  /** Every ground on which a person is entitled, those of their own first, then oldest first. */
  public static List<Ground> of(Snapshot snapshot, int person, int entitlement) {
    if (snapshot.state.roleApps().get(entitlement) == 0 || !snapshot.exists(person)) {
      return List.of();
    }
    return new Reasons(snapshot, person).of(entitlement);
  }

  private List<Ground> of(int entitlement) {
    Snapshot.State state = snapshot.state;
    List<Ground> own = new ArrayList<>(2);
    int[] pairs = Snapshot.or(state.own().get(person));
    for (int i = 0; i < pairs.length; i += 2) {
      if (pairs[i] == entitlement) {
        Grant grant = store.grantOf(pairs[i + 1]);
        own.add(new Ground(grant, List.of(), Set.of(), 0, NONE, until(pairs[i + 1])));
      }
    }
    List<Ground> others = new ArrayList<>(4);
    int[] rows = Snapshot.or(state.groupGrants().get(entitlement));
    if (rows.length > 0) {
      throughGroups(rows, others);
    }
    for (int row : Snapshot.or(state.byFilter().get(entitlement))) {
      int filter = Store.subjectOf(store.subject(row));
      if (Snapshot.or(state.fitting().get(filter)).contains(person)) {
        Grant grant = store.grantOf(row);
        others.add(new Ground(grant, List.of(), Set.of(), 0, matched(filter), until(row)));
      }
    }
    Comparator<Ground> oldest =
        Comparator.comparing((Ground g) -> g.grant().from()).thenComparing(g -> g.grant().id());
    if (own.size() > 1) {
      own.sort(oldest);
    }
    if (others.size() > 1) {
      others.sort(oldest);
    }
    own.addAll(others);
    return own;
  }

  /** One pass over the person's own groups tells which of the granted groups is above which. */
  private void throughGroups(int[] rows, List<Ground> found) {
    Snapshot.State state = snapshot.state;
    int[] subjects = new int[rows.length];
    for (int i = 0; i < rows.length; i++) {
      subjects[i] = Store.subjectOf(store.subject(rows[i]));
    }
    IntList[] starts = new IntList[rows.length];
    for (int group : Snapshot.or(state.groupsOf().get(person))) {
      int[] above = Snapshot.or(state.above().get(group));
      for (int i = 0; i < subjects.length; i++) {
        if (IntList.has(above, subjects[i]) && state.forms().get(group) == 0) {
          starts[i] = starts[i] == null ? new IntList(2) : starts[i];
          starts[i].add(group);
        }
      }
    }
    for (int filter : Snapshot.or(state.fits().get(person))) {
      for (int group : Snapshot.or(state.filterGroups().get(filter))) {
        for (int i = 0; i < subjects.length; i++) {
          if (leads(group, subjects[i])) {
            starts[i] = starts[i] == null ? new IntList(2) : starts[i];
            starts[i].add(group);
          }
        }
      }
    }
    for (int i = 0; i < rows.length; i++) {
      if (starts[i] != null) {
        found.add(through(rows[i], subjects[i], starts[i]));
      }
    }
  }

  /** The part of the groups above that leads to a subject. */
  private Ground through(int row, int subject, IntList direct) {
    Snapshot.State state = snapshot.state;
    IntList reached = new IntList();
    // Where each reached group was first come from, by its place; −1 for the person's own.
    IntList by = new IntList();
    List<Ground.Edge> edges = new ArrayList<>(4);
    PersonId id = store.person(person);
    for (int i = 0; i < direct.size(); i++) {
      int group = direct.get(i);
      reached.add(group);
      by.add(-1);
      edges.add(new Ground.Edge(id, store.group(group), state.forms().get(group) != 0));
    }
    int own = reached.size();
    int end = -1;
    boolean tree = own == 1;
    for (int next = 0; next < reached.size(); next++) {
      int group = reached.get(next);
      if (group == subject && end < 0) {
        end = next;
      }
      int found = 0;
      for (int parent : Snapshot.or(state.parents().get(group))) {
        if (!leads(parent, subject)) {
          continue;
        }
        found++;
        edges.add(new Ground.Edge(store.group(group), store.group(parent), false));
        if (!within(reached, parent)) {
          reached.add(parent);
          by.add(next);
        }
      }
      tree &= found <= 1;
    }
    List<GroupId> chain = new ArrayList<>(4);
    for (int at = end; at >= 0; at = by.get(at)) {
      chain.add(store.group(reached.get(at)));
    }
    Collections.reverse(chain);
    int ways = tree ? 1 : ways(reached, own, subject);
    Grant grant = store.grantOf(row);
    int first = end;
    while (by.get(first) >= 0) {
      first = by.get(first);
    }
    int form = state.forms().get(reached.get(first));
    return new Ground(
        grant,
        chain,
        new Distinct<>(edges),
        ways - 1,
        form == 0 ? NONE : matched(form - 1),
        until(row));
  }

  /** A set of things that are known to differ; a handful, mostly only walked. */
  private static final class Distinct<T> extends AbstractSet<T> {
    private final List<T> all;

    Distinct(List<T> all) {
      this.all = all;
    }

    @Override
    public Iterator<T> iterator() {
      return all.iterator();
    }

    @Override
    public int size() {
      return all.size();
    }
  }

  private boolean leads(int group, int subject) {
    return IntList.has(Snapshot.or(snapshot.state.above().get(group)), subject);
  }

  private static boolean within(IntList list, int item) {
    for (int i = 0; i < list.size(); i++) {
      if (list.get(i) == item) {
        return true;
      }
    }
    return false;
  }

  /** How many ways without a circle lead to the subject, up to a limit. */
  private int ways(IntList reached, int own, int subject) {
    int count = 0;
    boolean[] on = new boolean[reached.size()];
    for (int i = 0; i < own && count < Ground.MOST_WAYS; i++) {
      count = ways(reached, i, subject, on, count);
    }
    return count;
  }

  private int ways(IntList reached, int from, int subject, boolean[] on, int count) {
    int group = reached.get(from);
    if (group == subject) {
      return count + 1;
    }
    if (on[from]) {
      return count;
    }
    on[from] = true;
    int found = count;
    for (int parent : Snapshot.or(snapshot.state.parents().get(group))) {
      if (found >= Ground.MOST_WAYS) {
        break;
      }
      if (leads(parent, subject)) {
        for (int i = 0; i < reached.size(); i++) {
          if (reached.get(i) == parent) {
            found = ways(reached, i, subject, on, found);
            break;
          }
        }
      }
    }
    on[from] = false;
    return found;
  }

  /** The person's values that a filter looks at. */
  private Map<String, List<String>> matched(int filter) {
    Map<String, List<String>> values = new TreeMap<>();
    FilterProgram program = snapshot.state.programs().get(filter);
    if (program != null) {
      program.filter.matches(
          name -> {
            List<String> own = values(name);
            if (!own.isEmpty()) {
              values.put(name, own);
            }
            return own;
          });
    }
    return values;
  }

  private List<String> values(String name) {
    int attribute = store.attribute(name);
    if (attribute < 0) {
      return List.of();
    }
    Words words = store.words(attribute);
    return Arrays.stream(words.decode(snapshot.column(attribute).get(person)))
        .mapToObj(words::text)
        .sorted()
        .toList();
  }
}
