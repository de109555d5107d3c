package eleutheria.core.mandates;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What someone may do now: the powers of all mandates held, each with its reach, and what ownership
 * implies. Refused is whatever is not allowed here.
 */
public final class Authority {
  /** Nobody's: allows nothing. */
  public static final Authority NONE = new Authority(null, List.of(), Set.of());

  /** The product's own while it is being set up: all powers, everywhere. */
  public static final Authority SETUP =
      new Authority(
          null, List.of(new Allowed("setup", EnumSet.allOf(Power.class), Reach.ALL)), Set.of());

  private final @Nullable PersonId person;
  private final List<Allowed> allowed;
  private final Set<ObjectId> owned;

  /** Powers of one mandate. */
  public record Allowed(String mandate, Set<Power> powers, Reach reach) {}

  public Authority(@Nullable PersonId person, List<Allowed> allowed, Set<ObjectId> owned) {
    this.person = person;
    this.allowed = List.copyOf(allowed);
    this.owned = Set.copyOf(owned);
  }

  public @Nullable PersonId person() {
    return person;
  }

  /** Whether the power is held at all, with whatever reach. */
  public boolean has(Power power) {
    return allowed.stream().anyMatch(a -> a.powers().contains(power));
  }

  /** Whether the power is held without any limit of reach. */
  public boolean hasEverywhere(Power power) {
    return allowed.stream().anyMatch(a -> a.powers().contains(power) && a.reach().isAll());
  }

  /** Whether the power is held for someone of this unit (null: of none). */
  public boolean reaches(Power power, @Nullable String unit) {
    for (Allowed a : allowed) {
      SortedSet<String> units = a.reach().units();
      if (a.powers().contains(power) && (units == null || (unit != null && units.contains(unit)))) {
        return true;
      }
    }
    return false;
  }

  /** The reach of every mandate that brings a power. */
  public List<Reach> reaches(Power power) {
    return allowed.stream().filter(a -> a.powers().contains(power)).map(Allowed::reach).toList();
  }

  /** The units that a power reaches; null for all. */
  public @Nullable SortedSet<String> units(Power power) {
    SortedSet<String> all = new TreeSet<>();
    for (Allowed a : allowed) {
      if (a.powers().contains(power)) {
        SortedSet<String> units = a.reach().units();
        if (units == null) {
          return null;
        }
        all.addAll(units);
      }
    }
    return all;
  }

  /** Whether the power is held for this application, for whatever unit. */
  public boolean reaches(Power power, ApplicationId application) {
    return allowed.stream()
        .anyMatch(a -> a.powers().contains(power) && fits(a.reach().applications(), application));
  }

  /** Whether the power is held for this application and someone of this unit (null: of none). */
  public boolean reaches(Power power, ApplicationId application, @Nullable String unit) {
    return allowed.stream()
        .anyMatch(
            a ->
                a.powers().contains(power)
                    && fits(a.reach().applications(), application)
                    && (a.reach().units() == null
                        || (unit != null && a.reach().units().contains(unit))));
  }

  /** Whether the power is held for this collection. */
  public boolean reaches(Power power, CollectionId collection) {
    return allowed.stream()
        .anyMatch(a -> a.powers().contains(power) && fits(a.reach().collections(), collection));
  }

  /** Whether the power is held for all that a reach covers, by one mandate. */
  public boolean covers(Power power, Reach reach) {
    return allowed.stream().anyMatch(a -> a.powers().contains(power) && a.reach().covers(reach));
  }

  /** Whether every power of another is held for all that it covers. */
  public boolean covers(Allowed other) {
    return other.powers().stream().allMatch(power -> covers(power, other.reach()));
  }

  /** Whether all powers are held, everywhere. */
  public boolean isWhole() {
    return EnumSet.allOf(Power.class).stream().allMatch(this::hasEverywhere);
  }

  /** Whether somebody may do with a thing whatever its owners may, as one of them or by powers. */
  public boolean answersFor(ObjectId thing) {
    return owns(thing)
        || switch (thing) {
          case ApplicationId app ->
              reaches(Power.APPS_EDIT, app, null) && reaches(Power.ACCESS_READ, app, null);
          case CollectionId collection -> reaches(Power.PORTAL_ARRANGE, collection);
          case GroupId group -> hasEverywhere(Power.GROUPS_EDIT);
          default -> hasEverywhere(Power.APPS_EDIT);
        };
  }

  private static boolean fits(@Nullable SortedSet<String> list, ObjectId thing) {
    return list == null || list.contains(thing.value().toString());
  }

  public boolean owns(ObjectId thing) {
    return owned.contains(thing);
  }

  /** Whether anything of this kind is owned. */
  public boolean ownsAny(ObjectKind kind) {
    return owned.stream().anyMatch(thing -> thing.kind() == kind);
  }

  public List<String> mandates() {
    List<String> names = new ArrayList<>();
    allowed.forEach(a -> names.add(a.mandate()));
    return names;
  }

  public Set<Power> powers() {
    Set<Power> powers = EnumSet.noneOf(Power.class);
    allowed.forEach(a -> powers.addAll(a.powers()));
    return powers;
  }
}
