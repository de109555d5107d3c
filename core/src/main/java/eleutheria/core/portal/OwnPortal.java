package eleutheria.core.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How one person has set up their own portal. It gives nothing and takes nothing, nobody else sees
 * it, and it is no fact: it has no past.
 *
 * @param pinned tiles kept pinned, in their order; they may name what the person cannot open now
 * @param hidden collections that they do not want to see
 * @param forms how tiles are drawn on each kind of device, where they have chosen
 * @param hushed notices that they have read, by {@link Endings.Ending#word()}
 * @param tips tips that they have seen
 */
public record OwnPortal(
    SequencedSet<TileId> pinned,
    Set<CollectionId> hidden,
    Map<Device, String> forms,
    SequencedSet<String> hushed,
    Set<Tip> tips) {
  public static final OwnPortal NEW =
      new OwnPortal(new LinkedHashSet<>(), Set.of(), Map.of(), new LinkedHashSet<>(), Set.of());

  public static final int MOST_PINNED = 40;

  /** More than there are collections in any portal that somebody could look through. */
  public static final int MOST_HIDDEN = 500;

  /** The oldest are forgotten: what ends soon is over soon. */
  static final int MOST_HUSHED = 100;

  static final int LONGEST_WORD = 100;

  /** Wide has room beside the thumb. */
  public enum Device {
    PHONE,
    WIDE
  }

  /** What is told on the page itself, once. */
  public enum Tip {
    TYPE,
    MENU,
    FORM
  }

  /** One change; each can be made twice without harm. */
  public sealed interface Wish {
    /**
     * @param behind the tile behind which it is to stand; null for the first place. A tile that is
     *     not kept pinned counts as the last.
     */
    record Pin(TileId tile, @Nullable TileId behind) implements Wish {}

    record Unpin(TileId tile) implements Wish {}

    record Hide(CollectionId collection) implements Wish {}

    record Show(CollectionId collection) implements Wish {}

    /**
     * @param form one of {@link BrandDecisions#FORMS}
     */
    record Draw(Device device, String form) implements Wish {}

    record Hush(String word) implements Wish {}

    record Seen(Tip tip) implements Wish {}
  }

  /** What stands in the way of a wish. */
  public Optional<Problem> problem(Wish wish) {
    return Optional.ofNullable(
        switch (wish) {
          case Wish.Pin w when pinned.size() >= MOST_PINNED && !pinned.contains(w.tile()) ->
              Problem.invalid(
                  "portal.pinned",
                  "tile",
                  "%d tiles are pinned already; let one go first.".formatted(MOST_PINNED));
          case Wish.Hide w when hidden.size() >= MOST_HIDDEN ->
              Problem.invalid(
                  "portal.hidden", "", "%d sections are hidden already.".formatted(MOST_HIDDEN));
          case Wish.Draw w when !BrandDecisions.FORMS.contains(w.form()) ->
              Problem.invalid("brand.form", "form", "Tiles are drawn as tiles, lines or marks.");
          case Wish.Hush w when w.word().length() > LONGEST_WORD ->
              Problem.invalid("portal.notice", "", "There is no such notice.");
          default -> null;
        });
  }

  /** The portal after a wish in whose way nothing stands. */
  public OwnPortal with(Wish wish) {
    return switch (wish) {
      case Wish.Pin w -> new OwnPortal(kept(w), hidden, forms, hushed, tips);
      case Wish.Unpin w -> new OwnPortal(without(pinned, w.tile()), hidden, forms, hushed, tips);
      case Wish.Hide w -> new OwnPortal(pinned, and(hidden, w.collection()), forms, hushed, tips);
      case Wish.Show w ->
          new OwnPortal(pinned, without(hidden, w.collection()), forms, hushed, tips);
      case Wish.Draw w -> {
        Map<Device, String> all = new LinkedHashMap<>(forms);
        all.put(w.device(), w.form());
        yield new OwnPortal(pinned, hidden, all, hushed, tips);
      }
      case Wish.Hush w -> {
        SequencedSet<String> all = and(hushed, w.word());
        while (all.size() > MOST_HUSHED) {
          all.removeFirst();
        }
        yield new OwnPortal(pinned, hidden, forms, all, tips);
      }
      case Wish.Seen w -> new OwnPortal(pinned, hidden, forms, hushed, and(tips, w.tip()));
    };
  }

  private SequencedSet<TileId> kept(Wish.Pin wish) {
    List<TileId> order = new ArrayList<>(pinned);
    order.remove(wish.tile());
    int place = wish.behind() == null ? 0 : order.indexOf(wish.behind()) + 1;
    boolean last = wish.behind() != null && place == 0;
    order.add(last ? order.size() : place, wish.tile());
    return new LinkedHashSet<>(order);
  }

  private static <T> SequencedSet<T> and(Set<T> all, T one) {
    SequencedSet<T> more = new LinkedHashSet<>(all);
    more.add(one);
    return more;
  }

  private static <T> SequencedSet<T> without(Set<T> all, T one) {
    SequencedSet<T> less = new LinkedHashSet<>(all);
    less.remove(one);
    return less;
  }
}
