package eleutheria.core.drafts;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.ConflictJudge;
import eleutheria.core.access.Effects;
import eleutheria.core.access.Grant;
import eleutheria.core.access.Ground;
import eleutheria.core.access.People;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Sight;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What a draft would do, exactly and for everyone: at publishing, and at each later moment, of the
 * draft or standing, at which the states with and without it begin to differ anew.
 *
 * <p>Each moment tells what begins to differ there, not what differs still: whoever gains something
 * at publishing and loses it again in October because the draft says until when is told at both.
 *
 * <p>Cost: two states are walked side by side over the boundaries to come (see {@link
 * eleutheria.core.access.engine.Engine#suppose}); where nothing flips and no audience moves,
 * nothing is compared.
 */
public final class Consequences {
  public static final Consequences NONE = new Consequences(List.of(), Effects.NONE);

  /** States in which an application is no more. */
  private static final Set<ApplicationState> OVER =
      Set.of(ApplicationState.RETIRED, ApplicationState.BLOCKED);

  /** So many people of a row are told until when what they keep is theirs. */
  private static final int TOLD = 500;

  private final List<At> moments;
  private final Effects effects;
  // Worked out at the first query; whoever works it out, it is the same.
  private volatile @Nullable Marks marks;

  private Consequences(List<At> moments, Effects effects) {
    this.moments = moments;
    this.effects = effects;
  }

  /** In order of time; the first may be the publishing. */
  public List<At> moments() {
    return moments;
  }

  /** The same as far as access goes, for who judges it. */
  public Effects effects() {
    return effects;
  }

  /**
   * What is left of somebody's grounds.
   *
   * @param until when the last of them ends by itself; null if it does not
   */
  public record Rest(List<Grant> grants, @Nullable Instant until) {}

  /**
   * Who has no ground for anything of an application any more, or it is over: their account and
   * their sessions there have nothing to stand on. A pause ends no account.
   *
   * @param by what of it they lose
   */
  public record Last(Set<PersonId> people, List<EntitlementId> by) {}

  /**
   * What begins at one moment. Of one entitlement, nobody is in two of the first five sets.
   *
   * @param gain who holds it with the draft and would not without
   * @param loss who would hold it without the draft and does not with it
   * @param keep who loses a ground and holds it still
   * @param rest on what those who keep it stand, of as many as are told
   * @param ends who was given it by the draft earlier, and it ends here
   * @param back who lost it by the draft earlier, and holds it again
   * @param idle who of those who lose something has a ground for it all the same, without effect:
   *     they or the application are paused, or it is retired
   * @param last who loses the last of what they held of an application
   * @param more who sees a tile or collection that they would not without the draft, beside what
   *     they gain
   * @param less who does not see it any more, beside what they lose
   * @param moved who meets a collection's tiles, or it among the others, in another order, or
   *     another front page
   * @param conflicts breaches of separation rules that begin
   * @param stopping those among them that nobody may bring about, since the pair is new to the
   *     person
   * @param settled breaches that end
   * @param touches what each edit can touch
   */
  public record At(
      Instant at,
      Map<EntitlementId, Set<PersonId>> gain,
      Map<EntitlementId, Set<PersonId>> loss,
      Map<EntitlementId, Set<PersonId>> keep,
      Map<EntitlementId, Map<PersonId, Rest>> rest,
      Map<EntitlementId, Set<PersonId>> ends,
      Map<EntitlementId, Set<PersonId>> back,
      Map<EntitlementId, Set<PersonId>> idle,
      Map<ApplicationId, Last> last,
      Map<ObjectId, Set<PersonId>> more,
      Map<ObjectId, Set<PersonId>> less,
      Map<ObjectId, Set<PersonId>> moved,
      Set<Conflict> conflicts,
      Set<Conflict> stopping,
      Set<Conflict> settled,
      Touches touches) {
    /** Because of which edits a row is: those that touch the thing and one of the people. */
    public List<Integer> because(ObjectId thing, Set<PersonId> people) {
      Last ended = thing instanceof ApplicationId app ? last.get(app) : null;
      return ended == null
          ? touches.on(thing, people)
          : ended.by().stream()
              .flatMap(e -> touches.on(e, people).stream())
              .distinct()
              .sorted()
              .toList();
    }

    private At because(Touches known) {
      return new At(
          at, gain, loss, keep, rest, ends, back, idle, last, more, less, moved, conflicts,
          stopping, settled, known);
    }

    public boolean isEmpty() {
      return gain.isEmpty()
          && loss.isEmpty()
          && keep.isEmpty()
          && ends.isEmpty()
          && back.isEmpty()
          && more.isEmpty()
          && less.isEmpty()
          && moved.isEmpty()
          && conflicts.isEmpty()
          && settled.isEmpty();
    }

    /** Everyone who gains access to something. */
    public Set<PersonId> gainers() {
      return People.any(gain.values());
    }

    public Set<PersonId> losers() {
      return People.any(loss.values());
    }

    /** Everyone who only sees more. */
    public Set<PersonId> seers() {
      return People.minus(People.any(more.values()), gainers());
    }

    /** Everyone who only sees less. */
    public Set<PersonId> unseers() {
      return People.minus(People.any(less.values()), losers());
    }
  }

  /**
   * @param now the state that the draft is laid over
   */
  public static Consequences of(PortalView now, Overlay overlay, Instant at) {
    if (overlay.edits().isEmpty()) {
      return NONE;
    }
    AccessView.Supposition supposed =
        new AccessView.Supposition(
            overlay.before(), overlay.after(), overlay.edits(), overlay.moves(), at);
    Watch watch = new Watch(supposed, overlay.applied());
    if (at.isBefore(now.directory().until())) {
      // Nothing has begun or ended since the state was made.
      watch.planWithout = now.plan();
    }
    now.access().suppose(supposed, watch.instants, watch);
    return new Consequences(watch.found, new Effects(watch.effects));
  }

  /** Compares the two states of each moment, and keeps what was there a moment ago. */
  private static final class Watch implements AccessView.Watcher {
    private final Facts before;
    private final Facts after;
    private final Instant first;
    private final List<DraftEdit> edits;
    private final boolean touchesPortal;
    private final Set<Instant> portalMoves = new TreeSet<>();
    private final Set<Instant> instants = new TreeSet<>();
    private final List<At> found = new ArrayList<>();
    private final List<Effects.At> effects = new ArrayList<>();
    private final Set<Instant> ruleMoves = new TreeSet<>();
    private @Nullable SeparationRules rulesWithout;
    private @Nullable SeparationRules rulesWith;
    // What somebody accepts until a day lies on the docket after it; it stops nothing.
    private final Set<Conflict> accepted = new HashSet<>();
    private Set<Conflict> lastMore = Set.of();
    private Set<Conflict> lastFewer = Set.of();
    private Set<Conflict> conflicts = Set.of();
    private Set<Conflict> stopping = Set.of();
    private Set<Conflict> settled = Set.of();
    private Sight.@Nullable Plan planWithout;
    private Sight.@Nullable Plan planWith;
    private Effects.At last;
    private Map<EntitlementId, Set<PersonId>> lastKeep = Map.of();
    private Sight.Difference lastSight = Sight.Difference.NONE;

    Watch(AccessView.Supposition supposed, List<DraftEdit> edits) {
      this.edits = edits;
      before = supposed.before();
      after = supposed.after();
      first = supposed.at();
      last = Effects.At.nothing(first);
      touchesPortal = supposed.edits().stream().anyMatch(e -> PortalView.standsOn(e.key()));
      for (Edit edit : supposed.edits()) {
        boundaries(instants, edit.base());
        boundaries(instants, edit.wanted());
      }
      for (Class<? extends FactKey> kind : PortalView.KINDS) {
        before.forEach(kind, (key, spells) -> coming(portalMoves, spells));
      }
      for (Edit edit : supposed.edits()) {
        if (PortalView.standsOn(edit.key())) {
          boundaries(portalMoves, edit.base());
          boundaries(portalMoves, edit.wanted());
        }
      }
      instants.addAll(portalMoves);
      instants.addAll(firstDays(supposed));
      ruleMoves.addAll(SeparationRules.moments(before, first));
      ruleMoves.addAll(SeparationRules.moments(after, first));
      instants.addAll(ruleMoves);
    }

    /**
     * When somebody's first days end, where an audience counts them and the draft moves what is
     * shown or who is here.
     */
    private Set<Instant> firstDays(AccessView.Supposition supposed) {
      Set<Integer> counted = new TreeSet<>();
      for (Facts facts : List.of(before, after)) {
        for (Class<? extends FactKey> kind :
            List.of(FactKey.Audience.class, FactKey.FrontWave.class)) {
          facts.forEach(
              kind,
              (key, spells) ->
                  spells.stream()
                      .filter(spell -> spell.until().isAfter(first))
                      .map(spell -> ((FactValue.Audience) spell.value()).firstDays())
                      .filter(days -> days > 0)
                      .forEach(counted::add));
        }
      }
      Set<Instant> found = new TreeSet<>();
      boolean matters =
          touchesPortal
              || supposed.edits().stream().anyMatch(e -> e.key() instanceof FactKey.Status);
      if (counted.isEmpty() || !matters) {
        return found;
      }
      Duration longest = Duration.ofDays(Collections.max(counted));
      for (Facts facts : List.of(before, after)) {
        facts.forEach(
            FactKey.Status.class,
            (key, spells) ->
                spells.stream()
                    .filter(spell -> spell.from().plus(longest).isAfter(first))
                    .forEach(
                        spell ->
                            counted.forEach(
                                days -> {
                                  Instant end = spell.from().plus(Duration.ofDays(days));
                                  if (end.isAfter(first)) {
                                    found.add(end);
                                  }
                                })));
      }
      return found;
    }

    private void coming(Set<Instant> into, List<Spell> spells) {
      for (Spell spell : spells) {
        if (spell.until().isAfter(first)) {
          boundaries(into, spell);
        }
      }
    }

    private void boundaries(Set<Instant> into, @Nullable Spell spell) {
      if (spell != null) {
        for (Instant t : List.of(spell.from(), spell.until())) {
          if (t.isAfter(first) && t.isBefore(Moments.FOREVER)) {
            into.add(t);
          }
        }
      }
    }

    @Override
    public boolean at(Instant instant, AccessView without, AccessView with, boolean anew) {
      boolean own = anew || instants.contains(instant);
      Effects.At differ = own ? without.differ(with) : last;
      if (!differ.isEmpty() && !differ.same(last)) {
        effects.add(differ);
      }
      Map<EntitlementId, Set<PersonId>> keep = kept(without, with);
      boolean moves = portalMoves.contains(instant);
      if (planWithout == null || moves) {
        planWithout = Sight.Plan.of(before, instant);
      }
      if (planWith == null || moves) {
        planWith = touchesPortal ? Sight.Plan.of(after, instant) : planWithout;
      }
      Sight.Difference sight = Sight.Difference.NONE;
      Sight seen = Sight.NOTHING;
      if (own
          || touchesPortal
          || !lastSight.isEmpty()
          || planWith.audiencesDiffer(without, with, instant)) {
        seen = Sight.of(planWith, with, instant);
        sight = Sight.of(planWithout, without, instant).differ(seen);
      }
      breaches(instant, without, with, own);
      At here = begins(instant, without, with, differ, keep, sight, seen);
      if (!here.isEmpty()) {
        found.add(here.because(Touches.of(edits, without, with)));
      }
      last = differ;
      lastKeep = keep;
      lastSight = sight;
      return true;
    }

    /** What is broken in the one state and not in the other, as far as that begins here. */
    private void breaches(Instant instant, AccessView without, AccessView with, boolean own) {
      conflicts = Set.of();
      stopping = Set.of();
      settled = Set.of();
      if (rulesWithout == null || rulesWith == null || ruleMoves.contains(instant)) {
        rulesWithout = SeparationRules.of(before, instant);
        rulesWith = SeparationRules.of(after, instant);
      } else if (!own) {
        return;
      }
      if (rulesWithout.isEmpty() && rulesWith.isEmpty()) {
        return;
      }
      accepted.addAll(rulesWith.accepted());
      Set<Conflict> was = rulesWithout.conflicts(without);
      Set<Conflict> is = rulesWith.conflicts(with);
      Set<Conflict> more = new LinkedHashSet<>(is);
      more.removeAll(was);
      Set<Conflict> fewer = new LinkedHashSet<>(was);
      fewer.removeAll(is);
      conflicts = new LinkedHashSet<>(more);
      conflicts.removeAll(lastMore);
      settled = new LinkedHashSet<>(fewer);
      settled.removeAll(lastFewer);
      stopping = new LinkedHashSet<>(conflicts);
      stopping.removeIf(
          conflict -> ConflictJudge.stands(without, conflict) || accepted.contains(conflict));
      lastMore = more;
      lastFewer = fewer;
    }

    private static Map<EntitlementId, Set<PersonId>> kept(AccessView without, AccessView with) {
      Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
      without
          .lostGrounds(with)
          .forEach(
              (e, people) ->
                  put(
                      found,
                      e,
                      People.and(People.and(people, without.holders(e)), with.holders(e))));
      return found;
    }

    private At begins(
        Instant instant,
        AccessView without,
        AccessView with,
        Effects.At differ,
        Map<EntitlementId, Set<PersonId>> keep,
        Sight.Difference sight,
        Sight seen) {
      Map<EntitlementId, Set<PersonId>> ends = new LinkedHashMap<>();
      fresh(differ.gain(), last.gain())
          .forEach((e, people) -> put(ends, e, People.minus(people, with.holders(e))));
      Map<EntitlementId, Set<PersonId>> back = new LinkedHashMap<>();
      fresh(differ.loss(), last.loss())
          .forEach((e, people) -> put(back, e, People.and(people, with.holders(e))));
      Map<EntitlementId, Set<PersonId>> gain = fresh(last.gain(), differ.gain());
      Map<EntitlementId, Set<PersonId>> loss = fresh(last.loss(), differ.loss());
      Map<EntitlementId, Set<PersonId>> keeping = fresh(lastKeep, keep);
      return new At(
          instant,
          gain,
          loss,
          keeping,
          rest(with, keeping),
          ends,
          back,
          idle(with, loss, ends),
          last(without, with, loss, ends),
          beside(begins(sight, seen, true), gain, back),
          beside(begins(sight, seen, false), loss, ends),
          fresh(lastSight.moved(), sight.moved()),
          conflicts,
          stopping,
          settled,
          Touches.NONE);
    }

    private static Map<EntitlementId, Set<PersonId>> idle(
        AccessView with,
        Map<EntitlementId, Set<PersonId>> loss,
        Map<EntitlementId, Set<PersonId>> ends) {
      Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
      for (Map<EntitlementId, Set<PersonId>> side : List.of(loss, ends)) {
        side.forEach(
            (e, people) -> {
              Set<PersonId> grounded = grounded(with, e, people);
              if (!grounded.isEmpty()) {
                found.merge(e, grounded, People::or);
              }
            });
      }
      return found;
    }

    /** Who of some people is entitled to something and has not departed. */
    private static Set<PersonId> grounded(AccessView with, EntitlementId e, Set<PersonId> some) {
      Set<PersonId> entitled = People.and(some, with.entitled(e));
      Set<PersonId> departed = new HashSet<>();
      for (PersonId person : People.minus(entitled, with.active())) {
        if (with.directory()
            .person(person)
            .filter(p -> p.status() != PersonStatus.DEPARTED)
            .isEmpty()) {
          departed.add(person);
        }
      }
      return departed.isEmpty() ? entitled : People.minus(entitled, departed);
    }

    private static Map<ApplicationId, Last> last(
        AccessView without,
        AccessView with,
        Map<EntitlementId, Set<PersonId>> loss,
        Map<EntitlementId, Set<PersonId>> ends) {
      Map<ApplicationId, List<EntitlementId>> touched = new TreeMap<>();
      for (Map<EntitlementId, Set<PersonId>> side : List.of(loss, ends)) {
        for (EntitlementId id : side.keySet()) {
          without
              .apps()
              .entitlement(id)
              .or(() -> with.apps().entitlement(id))
              .ifPresent(
                  e -> {
                    List<EntitlementId> all =
                        touched.computeIfAbsent(e.application(), a -> new ArrayList<>());
                    if (!all.contains(id)) {
                      all.add(id);
                    }
                  });
        }
      }
      Map<ApplicationId, Last> found = new LinkedHashMap<>();
      touched.forEach(
          (app, ids) -> {
            List<Set<PersonId>> losing = new ArrayList<>();
            for (EntitlementId id : ids) {
              losing.add(loss.getOrDefault(id, People.NOBODY));
              losing.add(ends.getOrDefault(id, People.NOBODY));
            }
            Set<PersonId> all = People.any(losing);
            List<Set<PersonId>> staying = new ArrayList<>();
            with.apps()
                .application(app)
                .filter(a -> !OVER.contains(a.state()))
                .ifPresent(
                    a -> a.entitlements().forEach(e -> staying.add(grounded(with, e.id(), all))));
            Set<PersonId> people = People.minus(all, People.any(staying));
            if (!people.isEmpty()) {
              found.put(app, new Last(people, List.copyOf(ids)));
            }
          });
      return found;
    }

    private static Map<EntitlementId, Map<PersonId, Rest>> rest(
        AccessView with, Map<EntitlementId, Set<PersonId>> keeping) {
      Map<EntitlementId, Map<PersonId, Rest>> found = new LinkedHashMap<>();
      keeping.forEach(
          (e, people) -> {
            Map<PersonId, Rest> each = new LinkedHashMap<>();
            int left = TOLD;
            for (PersonId person : people) {
              if (left-- == 0) {
                break;
              }
              List<Ground> grounds = with.grounds(person, e);
              each.put(
                  person,
                  new Rest(grounds.stream().map(Ground::grant).toList(), with.ends(person, e)));
            }
            found.put(e, each);
          });
      return found;
    }

    /**
     * What begins to be seen, or not to be: that by which the states differ anew, and what they
     * differed by on the other side until now, if it is the draft that makes it end.
     */
    private Map<ObjectId, Set<PersonId>> begins(Sight.Difference sight, Sight seen, boolean more) {
      Map<ObjectId, Set<PersonId>> found =
          more ? fresh(lastSight.more(), sight.more()) : fresh(lastSight.less(), sight.less());
      Map<ObjectId, Set<PersonId>> over =
          more ? fresh(sight.less(), lastSight.less()) : fresh(sight.more(), lastSight.more());
      over.forEach(
          (id, people) -> {
            Set<PersonId> now = seen.of(id);
            Set<PersonId> by = more ? People.and(people, now) : People.minus(people, now);
            if (!by.isEmpty()) {
              found.merge(id, by, People::or);
            }
          });
      return found;
    }

    /** Without those for whom it follows from what they gain or lose. */
    private Map<ObjectId, Set<PersonId>> beside(
        Map<ObjectId, Set<PersonId>> seen,
        Map<EntitlementId, Set<PersonId>> one,
        Map<EntitlementId, Set<PersonId>> other) {
      if (seen.isEmpty() || (one.isEmpty() && other.isEmpty())) {
        return seen;
      }
      Set<PersonId> moved = People.or(People.any(one.values()), People.any(other.values()));
      Map<ObjectId, Set<PersonId>> found = new LinkedHashMap<>();
      seen.forEach((id, people) -> put(found, id, People.minus(people, moved)));
      return found;
    }
  }

  /** By thing, who is in the one and was not in the other. */
  private static <K> Map<K, Set<PersonId>> fresh(
      Map<K, Set<PersonId>> was, Map<K, Set<PersonId>> is) {
    Map<K, Set<PersonId>> found = new LinkedHashMap<>();
    is.forEach(
        (id, people) -> put(found, id, People.minus(people, was.getOrDefault(id, People.NOBODY))));
    return found;
  }

  private static <K> void put(Map<K, Set<PersonId>> into, K id, Set<PersonId> people) {
    if (!people.isEmpty()) {
      into.put(id, people);
    }
  }

  /** Every breach of a separation rule that begins at any of its moments. */
  public Set<Conflict> conflicts() {
    return union(At::conflicts);
  }

  /** Those that stop its publishing until they are answered. */
  public Set<Conflict> stopping() {
    return union(At::stopping);
  }

  private Set<Conflict> union(Function<At, Set<Conflict>> part) {
    Set<Conflict> found = new LinkedHashSet<>();
    moments.forEach(moment -> found.addAll(part.apply(moment)));
    return found;
  }

  /** What somebody agrees to who has seen it: a gainer, a loser, each with what. */
  public Marks marks() {
    Marks known = marks;
    if (known == null) {
      known = Marks.of(effects, conflicts());
      marks = known;
    }
    return known;
  }
}
