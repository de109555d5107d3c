package eleutheria.core.access.engine;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * Which holdings somebody may see, as sets: of an application that they own, or that {@code
 * access.read} reaches for all units, everybody's; else those of people in the units it reaches, of
 * everyone in their team below, and their own.
 *
 * <p>Cost: one union for each application that is asked about.
 */
public final class Seen {
  private final Snapshot live;
  private final Snapshot snapshot;
  private final @Nullable Authority authority;
  private final RoaringBitmap always;
  private final Power power;
  // By number of the application: the people whose holdings of it are seen; null stands for all.
  private final Map<Integer, @Nullable RoaringBitmap> known = new HashMap<>();

  private Seen(
      Snapshot live,
      Snapshot snapshot,
      @Nullable Authority authority,
      RoaringBitmap always,
      Power power) {
    this.live = live;
    this.snapshot = snapshot;
    this.power = power;
    this.authority = authority;
    this.always = always;
  }

  /**
   * Whether somebody may see anybody's holdings but their own.
   *
   * @param leads whether anybody reports to them
   */
  public static boolean any(Authority authority, boolean leads) {
    return leads || authority.has(Power.ACCESS_READ) || authority.ownsAny(ObjectKind.APPLICATION);
  }

  /** All holdings, for whoever asks on behalf of the product itself. */
  public static Seen everything(Snapshot snapshot) {
    return new Seen(snapshot, snapshot, null, Snapshot.NOBODY, Power.ACCESS_READ);
  }

  /**
   * @param live the state of now, in whose units the reach counts
   * @param snapshot the state that is shown, which may be a past one
   * @param authority what the reader may do now
   * @param team everyone below them now
   */
  public static Seen by(Snapshot live, Snapshot snapshot, Authority authority, Set<PersonId> team) {
    if (authority.hasEverywhere(Power.ACCESS_READ)) {
      return everything(snapshot);
    }
    RoaringBitmap always = new RoaringBitmap();
    for (PersonId person : team) {
      add(always, snapshot.number(person));
    }
    PersonId self = authority.person();
    if (self != null) {
      add(always, snapshot.number(self));
    }
    return new Seen(live, snapshot, authority, always, Power.ACCESS_READ);
  }

  /**
   * Whose use of what may be seen: as far as {@code use.read} reaches, and one's own. Neither an
   * application's owner nor a manager sees when somebody used what.
   */
  public static Seen use(Snapshot live, Snapshot snapshot, Authority authority) {
    if (authority.hasEverywhere(Power.USE_READ)) {
      return everything(snapshot);
    }
    RoaringBitmap always = new RoaringBitmap();
    PersonId self = authority.person();
    if (self != null) {
      add(always, snapshot.number(self));
    }
    return new Seen(live, snapshot, authority, always, Power.USE_READ);
  }

  private static void add(RoaringBitmap into, int person) {
    if (person >= 0) {
      into.add(person);
    }
  }

  /** Whether nothing is cut at all. */
  public boolean everything() {
    return authority == null;
  }

  /** The people whose holding of an entitlement is seen; null for everybody; never changed. */
  @Nullable RoaringBitmap of(int entitlement) {
    Authority reader = authority;
    if (reader == null) {
      return null;
    }
    int app = snapshot.state.roleApps().get(entitlement) - 1;
    if (app < 0) {
      return Snapshot.NOBODY;
    }
    synchronized (known) {
      if (!known.containsKey(app)) {
        known.put(app, people(reader, snapshot.store.application(app)));
      }
      return known.get(app);
    }
  }

  private @Nullable RoaringBitmap people(Authority reader, ApplicationId app) {
    if (power == Power.ACCESS_READ && reader.owns(app)) {
      return null;
    }
    RoaringBitmap seen = always.clone();
    for (Reach reach : reader.reaches(power)) {
      SortedSet<String> apps = reach.applications();
      if (apps != null && !apps.contains(app.value().toString())) {
        continue;
      }
      SortedSet<String> units = reach.units();
      if (units == null) {
        return null;
      }
      in(live, units, seen);
    }
    return seen;
  }

  private static void in(Snapshot live, SortedSet<String> units, RoaringBitmap into) {
    int unit = live.store.attribute(Attributes.UNIT);
    for (String each : units) {
      int code = unit < 0 ? -1 : live.store.words(unit).find(each);
      if (code >= 0) {
        into.or(live.having(unit, code));
      }
    }
  }

  /** The people whose own data somebody may see, beside name and unit; null for everybody. */
  public static @Nullable RoaringBitmap people(Snapshot live, Authority authority) {
    SortedSet<String> units = authority.units(Power.PEOPLE_READ);
    if (units == null) {
      return null;
    }
    RoaringBitmap found = new RoaringBitmap();
    in(live, units, found);
    PersonId self = authority.person();
    if (self != null) {
      add(found, live.number(self));
    }
    return found;
  }

  /** Whether this person's holding of an entitlement is seen. */
  public boolean sees(int person, int entitlement) {
    RoaringBitmap people = of(entitlement);
    return people == null || people.contains(person);
  }
}
