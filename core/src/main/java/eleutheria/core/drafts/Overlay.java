package eleutheria.core.drafts;

import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Clash;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;

/**
 * A draft laid over the facts as they stand: what becomes of each of its edits, and all of them
 * together as edits of facts, one for each key. Linear in the draft's edits; nothing is changed.
 *
 * <p>An edit whose base has changed meanwhile, or whose objects are gone, clashes and takes no
 * part. One that is so already, because somebody else did it, takes no part either and says so. A
 * time that was to begin on a day which has passed begins at once.
 */
public final class Overlay {
  /** What becomes of an edit. */
  public enum Fate {
    APPLIES,
    /** Someone else has done it. */
    ALREADY_SO,
    CLASHES
  }

  /** Why an edit clashes. */
  public enum Reason {
    /** What it starts from is no longer so. */
    CHANGED_MEANWHILE,
    /** The time it is about is over. */
    OVER,
    /** Something it names is there no more, or has departed or been blocked. */
    GONE,
    /** The group is in the other one by now. */
    CYCLE,
    /** Something else is called so by now. */
    NAME_TAKEN
  }

  /**
   * @param key where it clashes first
   * @param gone what is there no more, if that is the reason
   */
  public record Result(
      int seq, Fate fate, @Nullable Reason reason, @Nullable FactKey key, @Nullable ObjectId gone) {
    public boolean clashes() {
      return fate == Fate.CLASHES;
    }
  }

  private final Instant at;
  private final Facts before;
  private final Facts after;
  private final List<Result> told = new ArrayList<>();
  private final List<DraftEdit> applied = new ArrayList<>();
  private final Set<FactKey> touched = new LinkedHashSet<>();
  private final List<Edit> edits;
  private final List<Move> moves;

  private Overlay(Facts facts, List<DraftEdit> draft, Instant at) {
    this.at = at;
    this.before = facts;
    this.after = facts.with(List.of());
    draft.forEach(edit -> told.add(lay(edit.at(at))));
    Edits net = new Edits(facts, at);
    for (FactKey key : touched) {
      net.timeline(key, after.from(key, at).stream().map(this::fromNow).toList());
    }
    this.edits = net.list();
    this.moves =
        switch (facts.apply(edits, at)) {
          case Applied.Moves applied -> applied.moves();
          case Applied.Clashes clashes ->
              throw new IllegalStateException("what was laid over does not apply: " + clashes);
        };
  }

  /**
   * @param at the instant of publishing
   */
  public static Overlay of(Facts facts, List<DraftEdit> draft, Instant at) {
    return new Overlay(facts, draft, at);
  }

  /** The facts without the draft. */
  public Facts before() {
    return before;
  }

  /** The facts with it; good only while those without it do not move. */
  public Facts after() {
    return after;
  }

  /** What becomes of each edit, in their order. */
  public List<Result> told() {
    return told;
  }

  /** The edits that apply, as of the publishing. */
  public List<DraftEdit> applied() {
    return applied;
  }

  /** All edits that apply, together: at most a few for each key, none that undo one another. */
  public List<Edit> edits() {
    return edits;
  }

  public List<Move> moves() {
    return moves;
  }

  private Spell fromNow(Spell spell) {
    return spell.from().isBefore(at) ? new Spell(spell.value(), at, spell.until()) : spell;
  }

  // ---- laying one edit over

  private static final class Clashing extends Exception {
    private final transient Result told;

    Clashing(DraftEdit edit, Reason reason, FactKey key, @Nullable ObjectId gone) {
      super(reason.name(), null, false, false);
      this.told = new Result(edit.seq(), Fate.CLASHES, reason, key, gone);
    }
  }

  private Result lay(DraftEdit edit) {
    List<Edit> left = new ArrayList<>();
    try {
      for (Edit each : edit.edits()) {
        Edit fitting = fitting(edit, each);
        if (fitting != null) {
          left.add(fitting);
          check(edit, fitting);
        }
      }
    } catch (Clashing clash) {
      return clash.told;
    }
    if (left.isEmpty()) {
      return new Result(edit.seq(), Fate.ALREADY_SO, null, null, null);
    }
    return switch (after.apply(left, at)) {
      case Applied.Moves laid -> {
        after.take(laid.moves());
        left.forEach(each -> touched.add(each.key()));
        applied.add(edit);
        yield new Result(edit.seq(), Fate.APPLIES, null, null, null);
      }
      case Applied.Clashes clashes -> {
        Clash first = clashes.clashes().getFirst();
        yield new Result(
            edit.seq(),
            Fate.CLASHES,
            first.reason() == Clash.Reason.BEFORE_THE_ACT ? Reason.OVER : Reason.CHANGED_MEANWHILE,
            first.edit().key(),
            null);
      }
    };
  }

  /** The edit as it has to be now; null where it is so already. */
  private @Nullable Edit fitting(DraftEdit edit, Edit each) throws Clashing {
    FactKey key = each.key();
    Spell base = each.base();
    Spell wanted = each.wanted();
    if (base != null && !after.spells(key).contains(base)) {
      if (soAlready(key, base, wanted)) {
        return null;
      }
      throw new Clashing(edit, Reason.CHANGED_MEANWHILE, key, null);
    }
    if (base != null && !base.until().isAfter(at)) {
      // It has ended by itself.
      if (wanted == null || !wanted.until().isAfter(base.until())) {
        return null;
      }
      throw new Clashing(edit, Reason.OVER, key, null);
    }
    if (base != null && wanted == null && base.from().isBefore(at)) {
      // It was to be dropped before it began, and has begun.
      return new Edit(key, base, base.endingAt(at));
    }
    if (wanted == null) {
      return each;
    }
    if (base != null && base.value().equals(wanted.value()) && base.from().equals(wanted.from())) {
      Spell kept = wanted.until().isBefore(at) ? base.endingAt(at) : wanted;
      return kept.equals(base) ? null : new Edit(key, base, kept);
    }
    if (wanted.from().isBefore(at)) {
      if (!wanted.until().isAfter(at)) {
        throw new Clashing(edit, Reason.OVER, key, null);
      }
      wanted = new Spell(wanted.value(), at, wanted.until());
    }
    if (base == null && says(key, wanted)) {
      return null;
    }
    return new Edit(key, base, wanted);
  }

  private boolean soAlready(FactKey key, Spell base, @Nullable Spell wanted) {
    if (wanted == null || wanted.until().equals(at)) {
      return after.from(key, at).stream().noneMatch(s -> s.value().equals(base.value()));
    }
    return says(key, wanted);
  }

  /** Whether a key says something from a moment on, or from now on if that has passed. */
  private boolean says(FactKey key, Spell wanted) {
    return after.from(key, at).stream()
        .anyMatch(
            s ->
                s.value().equals(wanted.value())
                    && s.until().equals(wanted.until())
                    && !s.from().isAfter(wanted.from()));
  }

  // ---- whether what it names is there

  private void check(DraftEdit edit, Edit each) throws Clashing {
    Spell wanted = each.wanted();
    FactKey key = each.key();
    if (wanted == null || !wanted.until().isAfter(at)) {
      return;
    }
    List<ObjectId> named = new ArrayList<>();
    if (!(key instanceof FactKey.Beginning)) {
      named.addAll(key.objects());
    }
    named.addAll(named(wanted.value()));
    for (ObjectId thing : named) {
      if (gone(edit, thing)) {
        throw new Clashing(edit, Reason.GONE, key, thing);
      }
    }
    if (key instanceof FactKey.Membership(GroupId group, GroupId nested)
        && (nested.equals(group) || leadsTo(nested, group))) {
      throw new Clashing(edit, Reason.CYCLE, key, null);
    }
    if (key instanceof FactKey.GroupName(GroupId group)
        && wanted.value() instanceof FactValue.Text name) {
      GroupId taken = named(group, Folding.fold(name.text()));
      if (taken != null) {
        throw new Clashing(edit, Reason.NAME_TAKEN, key, taken);
      }
    }
  }

  /** Another group of this name, or null. */
  private @Nullable GroupId named(GroupId group, String folded) {
    AtomicReference<@Nullable GroupId> found = new AtomicReference<>();
    after.forEach(
        FactKey.GroupName.class,
        (other, spells) -> {
          for (Spell spell : spells) {
            if (spell.at(at)
                && spell.value() instanceof FactValue.Text text
                && !other.subject().equals(group)
                && Folding.fold(text.text()).equals(folded)) {
              found.set(other.subject());
            }
          }
        });
    return found.get();
  }

  private static List<ObjectId> named(FactValue value) {
    List<ObjectId> found = new ArrayList<>();
    switch (value) {
      case FactValue.Given given -> {
        subject(found, given.subject());
        found.add(given.entitlement());
      }
      case FactValue.TileFace face -> {
        found.add(face.application());
        found.addAll(face.needs());
      }
      case FactValue.Audience audience -> audience.subjects().forEach(s -> subject(found, s));
      case FactValue.Role role -> found.add(role.application());
      case FactValue.Separation rule -> {
        found.addAll(rule.one());
        found.addAll(rule.other());
      }
      default -> {}
    }
    return found;
  }

  private static void subject(List<ObjectId> found, FactValue.Subject subject) {
    switch (subject) {
      case FactValue.Subject.OfPerson s -> found.add(s.person());
      case FactValue.Subject.OfGroup s -> found.add(s.group());
      case FactValue.Subject.ByFilter s -> {}
    }
  }

  /** Whether a thing is there no more; what the edit itself brings is there. */
  private boolean gone(DraftEdit edit, ObjectId thing) {
    FactKey existence =
        switch (thing) {
          case PersonId person -> new FactKey.Existence(person);
          case GroupId group -> new FactKey.Existence(group);
          case ApplicationId app -> new FactKey.Application(app);
          case EntitlementId entitlement -> new FactKey.Entitlement(entitlement);
          case TileId tile -> new FactKey.Tile(tile);
          case CollectionId collection -> new FactKey.Collection(collection);
          case FrontPageId page ->
              page.equals(FrontPageId.EVERYONE) ? null : new FactKey.Front(page);
          case RuleId rule -> new FactKey.SeparationRule(rule);
          case ListingId listing -> new FactKey.Approved(listing);
          default -> null;
        };
    if (existence == null) {
      return false;
    }
    boolean brought =
        edit.edits().stream().anyMatch(e -> e.key().equals(existence) && e.wanted() != null);
    if (!brought && after.from(existence, at).isEmpty()) {
      return true;
    }
    return thing instanceof PersonId person
        && after.valueAt(new FactKey.Status(person), at) instanceof FactValue.Standing standing
        && standing.status() == PersonStatus.DEPARTED;
  }

  /** Whether a group contains another, now or later. */
  private boolean leadsTo(GroupId from, GroupId wanted) {
    Set<GroupId> seen = new HashSet<>();
    Deque<GroupId> open = new ArrayDeque<>(List.of(from));
    while (!open.isEmpty()) {
      GroupId group = open.pop();
      for (FactKey.Membership key : after.nestedIn(group)) {
        if (key.member() instanceof GroupId nested && !after.from(key, at).isEmpty()) {
          if (nested.equals(wanted)) {
            return true;
          }
          if (seen.add(nested)) {
            open.push(nested);
          }
        }
      }
    }
    return false;
  }
}
