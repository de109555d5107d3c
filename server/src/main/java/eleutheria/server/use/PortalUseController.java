package eleutheria.server.use;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.Collection;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What is opened on the portal, what is not, and what is looked for in vain. Never by whom. */
@RestController
class PortalUseController {
  private static final int LONGEST = 40;
  private static final int PER_HOUR = 30;

  private final World world;
  private final UseFigures figures;
  private final Sought sought;
  private final Clock clock;
  private final Cache<PersonId, Integer> told =
      Caffeine.newBuilder().maximumSize(50_000).expireAfterWrite(Duration.ofHours(1)).build();
  private final Cache<LocalDate, Map<UUID, int[]>> counted =
      Caffeine.newBuilder().maximumSize(1).expireAfterWrite(Duration.ofMinutes(1)).build();

  PortalUseController(World world, UseFigures figures, Sought sought, Clock clock) {
    this.world = world;
    this.figures = figures;
    this.sought = sought;
    this.clock = clock;
  }

  /**
   * @param openings by week, as many as there are weeks
   * @param holders how many people can open it
   */
  record TileUse(String id, String name, String picture, String hue, int holders, int[] openings) {}

  /** A collection: the openings of the tiles that lie in it now, wherever they were opened from. */
  record CollectionUse(String id, String name, int[] openings) {}

  /**
   * @param weeks the Mondays on which they begin, in the organisation's zone; the last is this week
   * @param sought what was typed in these weeks and found nothing, the commonest first
   */
  record UseView(
      List<LocalDate> weeks,
      List<TileUse> tiles,
      List<CollectionUse> collections,
      List<Sought.Wording> sought) {}

  record SoughtForm(@NotNull @Size(max = 200) String words) {}

  /** Nothing: that it comes is the answer. */
  record Heard() {}

  @GetMapping("/api/portal/use")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION)
  UseView use(Viewer viewer) {
    List<LocalDate> weeks = figures.weeks(UseFigures.WEEKS);
    Map<UUID, int[]> counts =
        counted.get(weeks.getLast(), week -> figures.byTile(UseFigures.WEEKS));
    PortalView whole = world.whole();
    List<Collection> own =
        whole.collections().stream()
            .filter(
                c ->
                    viewer.authority().reaches(Power.PORTAL_ARRANGE, c.id())
                        || viewer.authority().owns(c.id()))
            .toList();
    boolean all = viewer.authority().hasEverywhere(Power.PORTAL_ARRANGE);
    List<TileUse> tiles = new ArrayList<>();
    for (Tile tile : whole.tiles()) {
      if (all || own.stream().anyMatch(c -> has(c, tile.id()))) {
        tiles.add(
            new TileUse(
                tile.id().value().toString(),
                tile.name(),
                tile.face().picture(),
                tile.face().hue(),
                whole.openers(tile).size(),
                counts.getOrDefault(tile.id().value(), new int[UseFigures.WEEKS])));
      }
    }
    return new UseView(
        weeks,
        tiles,
        own.stream()
            .map(c -> new CollectionUse(c.id().value().toString(), c.name(), sum(c, counts)))
            .toList(),
        all ? sought.since(figures.start(weeks.getFirst())) : List.of());
  }

  private static boolean has(Collection collection, TileId tile) {
    return collection.places().stream().anyMatch(p -> p.tile().equals(tile));
  }

  private static int[] sum(Collection collection, Map<UUID, int[]> counts) {
    int[] sum = new int[UseFigures.WEEKS];
    for (Collection.Placed placed : collection.places()) {
      int[] own = counts.get(placed.tile().value());
      for (int i = 0; own != null && i < UseFigures.WEEKS; i++) {
        sum[i] += own[i];
      }
    }
    return sum;
  }

  /**
   * Notes words that found no tile, without who typed them. What looks like an address or a number,
   * or is long, is not noted: it may be anything.
   */
  @PostMapping("/api/front/sought")
  @Needs(signedIn = true)
  Heard sought(Viewer viewer, @Valid @RequestBody SoughtForm form) {
    String words = form.words().strip().toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
    int times = told.asMap().merge(viewer.person(), 1, Integer::sum);
    boolean plain =
        words.codePoints().allMatch(c -> Character.isLetter(c) || c == ' ' || c == '-' || c == '’');
    if (times <= PER_HOUR && plain && words.length() >= 2 && words.length() <= LONGEST) {
      sought.note(words, clock.instant());
    }
    return new Heard();
  }
}
