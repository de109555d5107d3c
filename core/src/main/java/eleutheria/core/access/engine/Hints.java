package eleutheria.core.access.engine;

import eleutheria.core.access.Grant;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * What could be less or simpler, each with its numbers: an entitlement that nobody uses, a holder
 * unlike their peers, people of one kind who all hold a thing by grants of their own, two groups
 * that are the same, a grant that adds nothing to anyone.
 *
 * <p>Cost: every holding is looked at once, and every grant to a group or a filter; intersections
 * only for entitlements that many have by grants of their own.
 */
public final class Hints {
  /**
   * From when on something is worth a hint.
   *
   * @param days for how many days it was left alone, 1 to 730
   * @param peers how many others of the same unit and title there are at least, 2 to 1000
   * @param share at most so many percent of the peers hold it, 0 to 50
   * @param nearlyAll at least so many percent of those who hold it by a rule's grounds hold it by
   *     grants of their own, 50 to 100
   */
  public record Thresholds(int days, int peers, int share, int nearlyAll) {
    public static final Thresholds USUAL = new Thresholds(90, 5, 10, 90);
  }

  /** One hint. */
  public sealed interface Hint {
    /** Tells it apart from all others, and stays the same while it stands. */
    String key();

    /** The number that it stands on; it comes back after being set aside when that grows. */
    int number();

    /** Nobody of those who hold it has used it. */
    record Unused(EntitlementId entitlement, int holders) implements Hint {
      @Override
      public String key() {
        return "unused " + entitlement.value();
      }

      @Override
      public int number() {
        return holders;
      }
    }

    /**
     * A holder unlike their peers.
     *
     * @param peers others of the same unit and title
     * @param alike how many of them hold it as well
     */
    record Unlike(PersonId person, EntitlementId entitlement, int peers, int alike)
        implements Hint {
      @Override
      public String key() {
        return "unlike " + person.value() + " " + entitlement.value();
      }

      @Override
      public int number() {
        return peers - alike;
      }
    }

    /**
     * Everybody whom a filter fits holds it, nearly all by grants of their own: with a grant to the
     * filter instead of theirs nobody gains and nobody loses.
     *
     * @param filter (RFC 7644, section 3.4.2.2)
     * @param people how many fit it
     * @param grants of their own that would not be needed any more
     */
    record Rule(EntitlementId entitlement, String filter, int people, List<GrantId> grants)
        implements Hint {
      @Override
      public String key() {
        return "rule " + entitlement.value() + " " + filter;
      }

      @Override
      public int number() {
        return grants.size();
      }
    }

    /** Two groups with the same members. */
    record Same(GroupId one, GroupId other, int members) implements Hint {
      @Override
      public String key() {
        return "same " + one.value() + " " + other.value();
      }

      @Override
      public int number() {
        return members;
      }
    }

    /**
     * Without this grant everybody would hold what they hold.
     *
     * @param people whom it covers
     */
    record Idle(GrantId grant, EntitlementId entitlement, int people) implements Hint {
      @Override
      public String key() {
        return "idle " + grant.value();
      }

      @Override
      public int number() {
        return people;
      }
    }
  }

  private final Cut cut;
  private final Snapshot snapshot;
  private final List<Entitlement> entitlements;
  private final Thresholds thresholds;

  private Hints(Cut cut, AppsView apps, Thresholds thresholds) {
    this.cut = cut;
    this.snapshot = cut.snapshot;
    this.thresholds = thresholds;
    this.entitlements = cut.entitlements(apps);
  }

  /**
   * Everything worth a hint among some holdings; what is about groups and grants only where nothing
   * is cut, since it speaks of everybody.
   */
  public static List<Hint> of(Cut cut, AppsView apps, Thresholds thresholds) {
    Hints hints = new Hints(cut, apps, thresholds);
    List<Hint> found = new ArrayList<>();
    hints.unused(found);
    if (cut.seen.everything()) {
      hints.rules(found);
      hints.idle(found);
      hints.same(found);
    }
    hints.unlike(found);
    return found;
  }

  private void unused(List<Hint> into) {
    for (Entitlement each : entitlements) {
      int e = snapshot.number(each.id());
      RoaringBitmap unused = cut.unused(e);
      if (unused != null && !unused.isEmpty() && unused.getCardinality() == cut.count(e)) {
        into.add(new Hint.Unused(each.id(), unused.getCardinality()));
      }
    }
  }

  /** Active people by unit and title, where there are enough of them. */
  private List<RoaringBitmap> kinds() {
    List<RoaringBitmap> kinds = new ArrayList<>();
    Collection<RoaringBitmap> titles = sets(Attributes.TITLE).values();
    for (RoaringBitmap unit : sets(Attributes.UNIT).values()) {
      RoaringBitmap there = RoaringBitmap.and(unit, snapshot.state.active());
      for (RoaringBitmap title : titles) {
        RoaringBitmap both = RoaringBitmap.and(there, title);
        if (both.getCardinality() > thresholds.peers()) {
          kinds.add(both);
        }
      }
    }
    return kinds;
  }

  private Map<String, RoaringBitmap> sets(String attribute) {
    Map<String, RoaringBitmap> found = new TreeMap<>();
    int number = snapshot.store.attribute(attribute);
    for (int code = 0; number >= 0 && code < snapshot.store.words(number).size(); code++) {
      RoaringBitmap set = snapshot.having(number, code);
      if (!set.isEmpty()) {
        found.put(snapshot.store.words(number).text(code), set);
      }
    }
    return found;
  }

  private void unlike(List<Hint> into) {
    List<Hint.Unlike> found = new ArrayList<>();
    List<RoaringBitmap> kinds = kinds();
    // Which kinds somebody is of; most people are of one.
    Map<Integer, IntList> kindsOf = new HashMap<>();
    for (int k = 0; k < kinds.size(); k++) {
      int kind = k;
      kinds.get(k).forEach((int p) -> kindsOf.computeIfAbsent(p, x -> new IntList(1)).add(kind));
    }
    int[] holders = new int[kinds.size()];
    for (Entitlement each : entitlements) {
      int e = snapshot.number(each.id());
      RoaringBitmap people = cut.people(e);
      Arrays.fill(holders, 0);
      people.forEach((int p) -> each(kindsOf.get(p), kind -> holders[kind]++));
      // Whoever may not see somebody is not told by a count what they hold.
      RoaringBitmap reached = cut.seen.of(e);
      for (int k = 0; k < holders.length; k++) {
        if (holders[k] == 0) {
          continue;
        }
        RoaringBitmap kind = kinds.get(k);
        int peers =
            (reached == null ? kind.getCardinality() : RoaringBitmap.andCardinality(kind, reached))
                - 1;
        int alike = holders[k] - 1;
        if (peers >= thresholds.peers() && alike * 100 <= thresholds.share() * peers) {
          RoaringBitmap.and(kind, people)
              .forEach(
                  (int p) ->
                      found.add(new Hint.Unlike(snapshot.person(p), each.id(), peers, alike)));
        }
      }
    }
    Map<EntitlementId, Integer> sensitivities = new HashMap<>();
    entitlements.forEach(e -> sensitivities.put(e.id(), -e.role().sensitivity().ordinal()));
    found.sort(
        Comparator.comparing((Hint.Unlike u) -> sensitivities.get(u.entitlement()))
            .thenComparing(u -> (double) u.alike() / u.peers())
            .thenComparing(u -> -u.peers()));
    into.addAll(found);
  }

  private static void each(@Nullable IntList list, IntConsumer taker) {
    for (int i = 0; list != null && i < list.size(); i++) {
      taker.accept(list.get(i));
    }
  }

  /** Kinds of people who all hold a thing, nearly all of them by grants of their own. */
  private void rules(List<Hint> into) {
    Map<String, RoaringBitmap> units = sets(Attributes.UNIT);
    Map<String, RoaringBitmap> titles = sets(Attributes.TITLE);
    for (Entitlement each : entitlements) {
      int e = snapshot.number(each.id());
      RoaringBitmap owning = Snapshot.or(snapshot.state.owning().get(e));
      if (owning.getCardinality() < thresholds.peers()) {
        continue;
      }
      RoaringBitmap done = new RoaringBitmap();
      units.forEach(
          (unit, people) -> {
            if (RoaringBitmap.andCardinality(people, owning) >= thresholds.peers()
                && !rule(into, each, e, quoted(Attributes.UNIT, unit), people, owning, done)) {
              titles.forEach(
                  (title, those) ->
                      rule(
                          into,
                          each,
                          e,
                          quoted(Attributes.UNIT, unit) + " and " + quoted(Attributes.TITLE, title),
                          RoaringBitmap.and(people, those),
                          owning,
                          done));
            }
          });
    }
  }

  private boolean rule(
      List<Hint> into,
      Entitlement entitlement,
      int e,
      String filter,
      RoaringBitmap roughly,
      RoaringBitmap owning,
      RoaringBitmap done) {
    if (roughly.getCardinality() < thresholds.peers()
        || RoaringBitmap.andCardinality(roughly, owning) < thresholds.peers()) {
      return false;
    }
    // A filter folds its texts, and fits nobody where an attribute is not defined any more.
    RoaringBitmap people = snapshot.fitting(filter);
    // Whoever is expected or paused fits the filter as well, and would hold it by and by.
    RoaringBitmap there = snapshot.presentOf(people);
    int size = there.getCardinality();
    if (size < thresholds.peers()
        || RoaringBitmap.andCardinality(there, snapshot.entitledSet(e)) < size
        || RoaringBitmap.andCardinality(there, owning) * 100 < thresholds.nearlyAll() * size
        || RoaringBitmap.intersects(there, done)) {
      return false;
    }
    List<GrantId> grants = new ArrayList<>();
    for (int person : RoaringBitmap.and(there, owning)) {
      int[] own = Snapshot.or(snapshot.state.own().get(person));
      for (int i = 0; i < own.length; i += 2) {
        if (own[i] == e) {
          Grant grant = snapshot.store.grantOf(own[i + 1]);
          if (!grant.until().equals(Moments.FOREVER)) {
            // It would end by itself, and the rule would not.
            return false;
          }
          grants.add(grant.id());
        }
      }
    }
    done.or(there);
    into.add(new Hint.Rule(entitlement.id(), filter, size, grants));
    return true;
  }

  private static String quoted(String attribute, String value) {
    return attribute + " eq \"" + value.replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
  }

  private void same(List<Hint> into) {
    Map<RoaringBitmap, Integer> first = new HashMap<>();
    for (int group : snapshot.state.groups()) {
      RoaringBitmap members = Snapshot.or(snapshot.state.members().get(group));
      if (members.getCardinality() < 2) {
        continue;
      }
      @Nullable Integer other = first.putIfAbsent(members, group);
      if (other != null && !nested(other, group)) {
        into.add(
            new Hint.Same(snapshot.group(other), snapshot.group(group), members.getCardinality()));
      }
    }
  }

  /** Whether one stands in the other, so that the two are meant to be the same. */
  private boolean nested(int one, int other) {
    for (int above : Snapshot.or(snapshot.state.above().get(one))) {
      if (above == other) {
        return true;
      }
    }
    for (int above : Snapshot.or(snapshot.state.above().get(other))) {
      if (above == one) {
        return true;
      }
    }
    return false;
  }

  private void idle(List<Hint> into) {
    for (Entitlement each : entitlements) {
      int e = snapshot.number(each.id());
      for (int grant : Snapshot.or(snapshot.state.groupGrants().get(e))) {
        idle(
            into,
            each,
            grant,
            Snapshot.or(
                snapshot.state.members().get(Store.subjectOf(snapshot.store.subject(grant)))));
      }
      for (int grant : Snapshot.or(snapshot.state.byFilter().get(e))) {
        idle(
            into,
            each,
            grant,
            Snapshot.or(
                snapshot.state.fitting().get(Store.subjectOf(snapshot.store.subject(grant)))));
      }
    }
  }

  private void idle(List<Hint> into, Entitlement entitlement, int row, RoaringBitmap people) {
    GrantId id = snapshot.store.grantOf(row).id();
    if (Losses.ofGrant(snapshot, id).isEmpty()) {
      into.add(new Hint.Idle(id, entitlement.id(), people.getCardinality()));
    }
  }
}
