package eleutheria.core.drafts;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * The inverse of what an act changed, as a new draft: for each fact what puts it back, or why
 * nothing does. Whoever changed the same since is not overwritten.
 *
 * <p>A grant that ended comes back as a new one, whose reason says what it restores; an end that
 * was moved moves back while the fact is still in force; a value comes back if it was not changed
 * since. What is mirrored from a source comes from there alone.
 */
public final class Revert {
  /** What becomes of one change. */
  public enum Fate {
    APPLIES,
    /** Someone has put it back already, or it ended by itself. */
    ALREADY_SO,
    /** Someone else has changed the same since. */
    CLASHES,
    /** It follows from a source, and changes there. */
    MIRRORED
  }

  /**
   * @param key what the act changed
   * @param edit the seq of the draft edit that puts it back; 0 where none does
   */
  public record Line(FactKey key, Fate fate, int edit) {}

  private final Facts facts;
  private final Instant at;
  private final Supplier<UUID> ids;
  private final PersonId author;
  private final String reason;
  private final Set<FactKey> opened = new HashSet<>();
  private final List<Line> told = new ArrayList<>();
  private @Nullable Map<FactValue, List<Spell>> standing;
  private final List<DraftEdit> edits = new ArrayList<>();

  private Revert(Facts facts, Instant at, Supplier<UUID> ids, PersonId author, String reason) {
    this.facts = facts;
    this.at = at;
    this.ids = ids;
    this.author = author;
    this.reason = reason;
  }

  /**
   * @param changes the edits of the act, as they stand in the ledger
   * @param at the instant that stands for the publishing
   * @param reason of grants that come back
   */
  public static Revert of(
      Facts facts,
      List<Edit> changes,
      Instant at,
      Supplier<UUID> ids,
      PersonId author,
      String reason) {
    Revert back = new Revert(facts, at, ids, author, reason);
    changes.stream()
        .filter(change -> change.base() == null)
        .forEach(change -> back.opened.add(change.key()));
    // A thing and what is said of it come and go together.
    Map<Object, List<Edit>> together = new LinkedHashMap<>();
    for (Edit change : changes) {
      if (!(change.key() instanceof FactKey.GrantReason)) {
        together.computeIfAbsent(bundle(change.key()), k -> new ArrayList<>()).add(change);
      }
    }
    // What came last goes first, so that nothing is left hanging in what goes.
    List<List<Edit>> all = new ArrayList<>(together.values());
    Collections.reverse(all);
    all.forEach(back::invert);
    return back;
  }

  private static Object bundle(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> k.subject();
      case FactKey.GroupName k -> k.subject();
      case FactKey.GroupForm k -> k.subject();
      case FactKey.Application k -> k.subject();
      case FactKey.AppState k -> k.subject();
      case FactKey.WayIn k -> k.subject();
      case FactKey.Seats k -> k.subject();
      case FactKey.Collection k -> k.subject();
      case FactKey.Audience k -> k.subject();
      case FactKey.Tile k -> k.subject();
      case FactKey.Shown k -> k.subject();
      case FactKey.Front k -> k.subject();
      case FactKey.Approved k -> k.subject();
      case FactKey.Naming k -> key;
      case FactKey.Status k -> key;
      case FactKey.Attribute k -> key;
      case FactKey.Link k -> key;
      case FactKey.Membership k -> key;
      case FactKey.Ownership k -> key;
      case FactKey.Defined k -> key;
      case FactKey.Source k -> key;
      case FactKey.Entitlement k -> key;
      case FactKey.Placed k -> key;
      case FactKey.Brand k -> key;
      case FactKey.FrontRank k -> key;
      case FactKey.FrontNotice k -> key;
      case FactKey.FrontWave k -> key;
      case FactKey.Fronted k -> key;
      case FactKey.OfMandates k -> key;
      case FactKey.OfRequests k -> key;
      case FactKey.OfAccess k -> key;
      case FactKey.SelfService k -> key;
    };
  }

  public List<Line> told() {
    return told;
  }

  public List<DraftEdit> edits() {
    return edits;
  }

  private void invert(List<Edit> changes) {
    List<Edit> inverse = new ArrayList<>();
    List<Line> own = new ArrayList<>();
    int seq = edits.size() + 1;
    List<ObjectId> objects = new ArrayList<>();
    for (Edit change : changes.reversed()) {
      Fate fate = mirrored(change.key()) ? Fate.MIRRORED : invert(change, inverse);
      own.add(new Line(change.key(), fate, fate == Fate.APPLIES ? seq : 0));
      change.key().objects().stream().filter(o -> !objects.contains(o)).forEach(objects::add);
    }
    told.addAll(own);
    if (!inverse.isEmpty()) {
      edits.add(
          new DraftEdit(
              seq,
              author,
              at,
              new Act(ActName.DRAFT_REVERT, objects, "", Map.of()),
              List.copyOf(inverse)));
    }
  }

  private boolean mirrored(FactKey key) {
    return switch (key) {
      case FactKey.Membership(GroupId group, ObjectId member) ->
          facts.valueAt(new FactKey.GroupForm(group), at) instanceof FactValue.Form.Mirrored;
      case FactKey.Attribute k ->
          facts.valueAt(new FactKey.Defined(k.name()), at) instanceof FactValue.Definition d
              && d.source() != null;
      case FactKey.Link k -> true;
      case FactKey.Source k -> true;
      case FactKey.Existence k -> false;
      case FactKey.Naming k -> false;
      case FactKey.Status k -> false;
      case FactKey.GroupName k -> false;
      case FactKey.GroupForm k -> false;
      case FactKey.Ownership k -> false;
      case FactKey.Defined k -> false;
      case FactKey.OfMandates k -> false;
      case FactKey.OfRequests k -> false;
      case FactKey.OfApps k -> false;
      case FactKey.OfAccess k -> false;
      case FactKey.OfPortal k -> false;
      case FactKey.OfSelfService k -> false;
    };
  }

  private Fate invert(Edit change, List<Edit> inverse) {
    FactKey key = change.key();
    Spell base = change.base();
    Spell wanted = change.wanted();
    if (base != null
        && wanted != null
        && base.value().equals(wanted.value())
        && base.from().equals(wanted.from())) {
      return moveEndBack(key, base, wanted, inverse);
    }
    if (wanted != null) {
      Spell standing = standing(key, wanted);
      if (standing == null) {
        return over(key) || (base != null && saysNow(key, base)) ? Fate.ALREADY_SO : Fate.CLASHES;
      }
      if (!standing.until().equals(wanted.until())) {
        return Fate.CLASHES;
      }
      Spell before = base == null ? null : fromNow(base);
      inverse.add(
          new Edit(
              key,
              standing,
              before != null
                  ? before
                  : standing.from().isBefore(at) ? standing.endingAt(at) : null));
      return Fate.APPLIES;
    }
    Spell dropped = base == null ? null : fromNow(base);
    if (dropped == null) {
      return Fate.ALREADY_SO;
    }
    return open(key, dropped, at, inverse);
  }

  private Fate moveEndBack(FactKey key, Spell base, Spell wanted, List<Edit> inverse) {
    Spell standing = standing(key, wanted);
    if (standing != null && standing.until().isAfter(at)) {
      if (!standing.until().equals(wanted.until()) || !base.until().isAfter(at)) {
        return standing.until().equals(base.until()) ? Fate.ALREADY_SO : Fate.CLASHES;
      }
      inverse.add(new Edit(key, standing, standing.endingAt(base.until())));
      reasonToo(key, standing, standing.endingAt(base.until()), inverse);
      return Fate.APPLIES;
    }
    // It is over: what was to last longer comes back as something new.
    Spell again = fromNow(base);
    return again == null ? Fate.ALREADY_SO : open(key, again, wanted.until(), inverse);
  }

  private Fate open(FactKey key, Spell again, Instant ended, List<Edit> inverse) {
    if (!facts.from(key, at).isEmpty()) {
      return saysNow(key, again) ? Fate.ALREADY_SO : Fate.CLASHES;
    }
    if (key instanceof FactKey.Grant && again.value() instanceof FactValue.Given given) {
      if (given(given, ended, again)) {
        return Fate.ALREADY_SO;
      }
      GrantId fresh = new GrantId(ids.get());
      inverse.add(new Edit(new FactKey.Grant(fresh), null, again));
      inverse.add(
          new Edit(
              new FactKey.GrantReason(fresh),
              null,
              new Spell(new FactValue.Text(reason), again.from(), again.until())));
      return Fate.APPLIES;
    }
    inverse.add(new Edit(key, null, again));
    return Fate.APPLIES;
  }

  /** Whether somebody has given the same anew since it was ended, for as long. */
  private boolean given(FactValue.Given given, Instant ended, Spell again) {
    return standingGrants().getOrDefault(given, List.of()).stream()
        .anyMatch(
            s ->
                !s.from().isBefore(ended)
                    && !s.from().isAfter(again.from())
                    && !s.until().isBefore(again.until()));
  }

  /** What is given from now on by other grants than those of the act; looked up once. */
  private Map<FactValue, List<Spell>> standingGrants() {
    Map<FactValue, List<Spell>> known = standing;
    if (known == null) {
      Map<FactValue, List<Spell>> found = new HashMap<>();
      facts.keys(FactKey.Grant.class).stream()
          .filter(key -> !opened.contains(key))
          .flatMap(key -> facts.from(key, at).stream())
          .forEach(s -> found.computeIfAbsent(s.value(), v -> new ArrayList<>()).add(s));
      known = found;
      standing = known;
    }
    return known;
  }

  /** The reason of a grant stands as long as the grant. */
  private void reasonToo(FactKey key, Spell standing, Spell wanted, List<Edit> inverse) {
    if (key instanceof FactKey.Grant grant) {
      FactKey.GrantReason why = new FactKey.GrantReason(grant.subject());
      facts.spells(why).stream()
          .filter(s -> s.from().equals(standing.from()) && s.until().equals(standing.until()))
          .findFirst()
          .ifPresent(s -> inverse.add(new Edit(why, s, s.endingAt(wanted.until()))));
    }
  }

  /** The spell that an act opened, if it is there still, whatever its end by now. */
  private @Nullable Spell standing(FactKey key, Spell opened) {
    return facts.spells(key).stream()
        .filter(s -> s.from().equals(opened.from()) && s.value().equals(opened.value()))
        .filter(s -> s.until().isAfter(at))
        .findFirst()
        .orElse(null);
  }

  private boolean over(FactKey key) {
    return facts.from(key, at).isEmpty();
  }

  private boolean saysNow(FactKey key, Spell spell) {
    return facts.from(key, at).stream().anyMatch(s -> s.value().equals(spell.value()));
  }

  private @Nullable Spell fromNow(Spell spell) {
    if (!spell.until().isAfter(at)) {
      return null;
    }
    return spell.from().isBefore(at) ? new Spell(spell.value(), at, spell.until()) : spell;
  }
}
