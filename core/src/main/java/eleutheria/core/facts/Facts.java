package eleutheria.core.facts;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;

/**
 * All facts, past and to come, in plain collections.
 *
 * <p>Structure: for each key its spells in order of time. A key with many spells is rare (a status
 * has four at the most), so a list that is scanned beats a tree. Keys are found by subject as well,
 * so that one thing can be rebuilt without touching the others.
 *
 * <p>The law that everything rests on: an act at instant <i>i</i> changes nothing before <i>i</i>.
 * {@link #apply} refuses a spell that would begin earlier and an end that was or would be earlier;
 * therefore {@link #at} answers the same for a past moment at every later position.
 *
 * <p>Cost: {@code apply} is linear in the edits; {@code at} is linear in the spells of one key.
 * Memory is one object a spell, and for the kinds that {@link Columns} keep some 30 bytes. Not safe
 * for a reader beside a writer: the server guards it.
 */
public final class Facts {
  private final Map<FactKey, List<Spell>> timelines = new HashMap<>();
  private final Map<ObjectId, Set<FactKey>> bySubject = new HashMap<>();
  // The same lists again, so that one kind is walked without looking each key up.
  private final Map<Class<? extends FactKey>, Map<FactKey, List<Spell>>> byKind = new HashMap<>();
  private final @Nullable Columns columns;
  // What these facts are a variant of: they say only what differs from it.
  private final @Nullable Facts like;

  public Facts() {
    this(null, null);
  }

  /** Facts of which some kinds stand in columns; what is taken up of those is written there. */
  public Facts(Columns columns) {
    this(columns, null);
  }

  private Facts(@Nullable Columns columns, @Nullable Facts like) {
    this.columns = columns;
    this.like = like;
  }

  /**
   * The facts as they would be after these moves; this one stays as it is, and must while the other
   * is asked.
   */
  public Facts with(List<Move> moves) {
    Facts variant = new Facts(null, this);
    variant.take(moves);
    return variant;
  }

  /** The spell that is true at a moment. */
  public Optional<Spell> at(FactKey key, Instant moment) {
    for (Spell spell : spells(key)) {
      if (spell.at(moment)) {
        return Optional.of(spell);
      }
    }
    return Optional.empty();
  }

  /** The value that is true at a moment, or null. */
  public @Nullable FactValue valueAt(FactKey key, Instant moment) {
    return at(key, moment).map(Spell::value).orElse(null);
  }

  /** All spells of a key in order of time, past ones too. */
  public List<Spell> spells(FactKey key) {
    List<Spell> found = timelines.get(key);
    if (found != null) {
      return Collections.unmodifiableList(found);
    }
    if (like != null) {
      return like.spells(key);
    }
    return columns != null && columns.keeps(key) ? columns.spells(key) : List.of();
  }

  /** The spells of a key that are in force at a moment or begin later. */
  public List<Spell> from(FactKey key, Instant moment) {
    return spells(key).stream().filter(spell -> spell.until().isAfter(moment)).toList();
  }

  /** Keys whose subject is this thing. */
  public Set<FactKey> about(ObjectId subject) {
    Set<FactKey> own = bySubject.getOrDefault(subject, Set.of());
    if (like == null && columns == null) {
      return Collections.unmodifiableSet(own);
    }
    Set<FactKey> all = new LinkedHashSet<>(like == null ? Set.of() : like.about(subject));
    all.addAll(own);
    if (columns != null) {
      columns.about(subject, all::add);
    }
    return all;
  }

  /** Memberships of groups in a group, past ones too. */
  public Set<FactKey.Membership> nestedIn(GroupId group) {
    Set<FactKey.Membership> found =
        new LinkedHashSet<>(like == null ? Set.of() : like.nestedIn(group));
    if (columns != null) {
      columns.nestedIn(group, found::add);
    }
    for (FactKey key : bySubject.getOrDefault(group, Set.of())) {
      if (key instanceof FactKey.Membership membership && membership.member() instanceof GroupId) {
        found.add(membership);
      }
    }
    return found;
  }

  /** Keys whose subject is this thing, of the kinds that do not stand in columns. */
  public Set<FactKey> aboutBeside(ObjectId subject) {
    return like != null
        ? about(subject)
        : Collections.unmodifiableSet(bySubject.getOrDefault(subject, Set.of()));
  }

  /** All keys of one kind, past ones too. */
  @SuppressWarnings("unchecked")
  public <K extends FactKey> Set<K> keys(Class<K> kind) {
    Set<K> own = (Set<K>) Collections.unmodifiableSet(byKind.getOrDefault(kind, Map.of()).keySet());
    if (columns != null && columns.keeps(kind)) {
      return columns.keys(kind);
    }
    if (like == null) {
      return own;
    }
    Set<K> before = like.keys(kind);
    if (own.isEmpty()) {
      return before;
    }
    Set<K> all = new LinkedHashSet<>(before);
    all.addAll(own);
    return all;
  }

  /** All facts of one kind, past ones too. */
  @SuppressWarnings("unchecked")
  public <K extends FactKey> void forEach(
      Class<K> kind, BiConsumer<? super K, List<Spell>> visitor) {
    if (columns != null && columns.keeps(kind)) {
      columns.keys(kind).forEach(key -> visitor.accept(key, columns.spells(key)));
      return;
    }
    Map<FactKey, List<Spell>> own = byKind.getOrDefault(kind, Map.of());
    own.forEach((key, spells) -> visitor.accept((K) key, Collections.unmodifiableList(spells)));
    if (like != null) {
      like.forEach(
          kind,
          (key, spells) -> {
            if (!own.containsKey(key)) {
              visitor.accept(key, spells);
            }
          });
    }
  }

  public void forEach(BiConsumer<FactKey, List<Spell>> visitor) {
    timelines.forEach((key, spells) -> visitor.accept(key, Collections.unmodifiableList(spells)));
    if (like != null) {
      like.forEach(
          (key, spells) -> {
            if (!timelines.containsKey(key)) {
              visitor.accept(key, spells);
            }
          });
    }
    if (columns != null) {
      columns.forEach(visitor);
    }
  }

  /** The same for the kinds that do not stand in columns. */
  public void forEachBeside(BiConsumer<FactKey, List<Spell>> visitor) {
    if (like != null) {
      forEach(visitor);
    } else {
      timelines.forEach((key, spells) -> visitor.accept(key, Collections.unmodifiableList(spells)));
    }
  }

  public int size() {
    int[] size = {columns == null ? 0 : columns.size()};
    timelines.values().forEach(spells -> size[0] += spells.size());
    if (like != null) {
      like.forEach((key, spells) -> size[0] += timelines.containsKey(key) ? 0 : spells.size());
    }
    return size[0];
  }

  /** Takes a row as it was read from the store. */
  public void load(FactKey key, Spell spell) {
    List<Spell> spells = timelines.computeIfAbsent(key, k -> new ArrayList<>(1));
    spells.add(spell);
    spells.sort(Comparator.comparing(Spell::from));
    index(key, spells);
  }

  private void index(FactKey key, List<Spell> spells) {
    byKind.computeIfAbsent(key.getClass(), k -> new LinkedHashMap<>()).put(key, spells);
    ObjectId subject = key.subject();
    if (subject != null) {
      bySubject.computeIfAbsent(subject, s -> new LinkedHashSet<>()).add(key);
    }
  }

  /**
   * Turns edits into moves of facts, all or none, without changing anything: the one function that
   * single acts, imports and drafts go through.
   *
   * @param instant the act's instant
   */
  public Applied apply(List<Edit> edits, Instant instant) {
    List<Move> moves = new ArrayList<>();
    List<Clash> clashes = new ArrayList<>();
    Map<FactKey, Edit> touched = new LinkedHashMap<>();
    for (Edit edit : edits) {
      touched.put(edit.key(), edit);
      Clash.Reason reason = movesOf(edit, instant, moves);
      if (reason != null) {
        clashes.add(new Clash(edit, reason, from(edit.key(), instant)));
      }
    }
    if (clashes.isEmpty()) {
      Map<FactKey, List<Spell>> next = after(moves);
      touched.forEach(
          (key, edit) -> {
            if (overlap(next.getOrDefault(key, List.of()))) {
              clashes.add(new Clash(edit, Clash.Reason.OVERLAP, from(key, instant)));
            }
          });
    }
    return clashes.isEmpty() ? new Applied.Moves(moves) : new Applied.Clashes(clashes);
  }

  private Clash.@Nullable Reason movesOf(Edit edit, Instant instant, List<Move> moves) {
    FactKey key = edit.key();
    Spell base = edit.base();
    Spell wanted = edit.wanted();
    if (base != null && !spells(key).contains(base)) {
      return Clash.Reason.CHANGED_MEANWHILE;
    }
    if (base != null && wanted != null && sameButEnd(base, wanted)) {
      if (base.until().isBefore(instant) || wanted.until().isBefore(instant)) {
        return Clash.Reason.BEFORE_THE_ACT;
      }
      moves.add(new Move.Ended(key, base, wanted.until()));
      return null;
    }
    if (wanted != null && wanted.from().isBefore(instant)) {
      return Clash.Reason.BEFORE_THE_ACT;
    }
    if (base != null) {
      if (!base.from().isBefore(instant)) {
        moves.add(new Move.Dropped(key, base));
      } else if (wanted != null && base.until().isAfter(instant)) {
        if (base.until().isAfter(wanted.from())) {
          moves.add(new Move.Ended(key, base, wanted.from()));
        }
      } else {
        return Clash.Reason.BEFORE_THE_ACT;
      }
    }
    if (wanted != null) {
      moves.add(new Move.Opened(key, wanted));
    }
    return null;
  }

  private static boolean sameButEnd(Spell one, Spell other) {
    return one.value().equals(other.value()) && one.from().equals(other.from());
  }

  private Map<FactKey, List<Spell>> after(List<Move> moves) {
    Map<FactKey, List<Spell>> next = new HashMap<>();
    for (Move move : moves) {
      List<Spell> spells = next.computeIfAbsent(move.key(), k -> new ArrayList<>(spells(k)));
      change(spells, move);
    }
    return next;
  }

  private static void change(List<Spell> spells, Move move) {
    switch (move) {
      case Move.Opened opened -> spells.add(opened.spell());
      case Move.Dropped dropped -> spells.remove(dropped.spell());
      case Move.Ended ended -> {
        spells.remove(ended.spell());
        spells.add(ended.spell().endingAt(ended.until()));
      }
    }
    spells.sort(Comparator.comparing(Spell::from));
  }

  private static boolean overlap(List<Spell> inOrder) {
    for (int i = 1; i < inOrder.size(); i++) {
      if (inOrder.get(i - 1).until().isAfter(inOrder.get(i).from())) {
        return true;
      }
    }
    return false;
  }

  /**
   * Takes up moves that {@link #apply} gave for this state. Of the kinds that stand in columns,
   * whoever writes the columns has taken them up already.
   */
  public void take(List<Move> moves) {
    for (Move move : moves) {
      if (columns != null && columns.keeps(move.key())) {
        continue;
      }
      List<Spell> spells = new ArrayList<>(spells(move.key()));
      change(spells, move);
      timelines.put(move.key(), spells);
      index(move.key(), spells);
    }
  }
}
