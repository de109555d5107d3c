package eleutheria.server.holdings;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Grant;
import eleutheria.core.access.engine.Hints;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.SubjectView;
import eleutheria.server.settings.Settings;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** What could be less or simpler, with its numbers; what has been set aside, and why. */
@RestController
class HintsController {
  private static final String THRESHOLDS = "hints";
  private static final int MOST = 40;

  private final HintsAside aside;
  private final World world;
  private final Acts acts;
  private final Holdings holdings;
  private final Settings settings;
  private final JsonMapper json;

  HintsController(
      HintsAside aside,
      World world,
      Acts acts,
      Holdings holdings,
      Settings settings,
      JsonMapper json) {
    this.aside = aside;
    this.world = world;
    this.acts = acts;
    this.holdings = holdings;
    this.settings = settings;
    this.json = json;
  }

  /** Days left alone; peers at least; percent of peers at most; percent by own grants at least. */
  record ThresholdsForm(
      @NotNull @Min(1) @Max(730) Integer days,
      @NotNull @Min(2) @Max(1000) Integer peers,
      @NotNull @Min(0) @Max(50) Integer share,
      @NotNull @Min(50) @Max(100) Integer nearlyAll) {
    Hints.Thresholds value() {
      return new Hints.Thresholds(days, peers, share, nearlyAll);
    }
  }

  /**
   * @param total how many there are of a kind, which may be more than are told
   */
  record HintKind(HintLine.Kind kind, int total, List<HintLine> hints) {}

  record HintsView(
      List<HintKind> kinds, int aside, ThresholdsForm thresholds, boolean maySet, long position) {}

  record SetAsideForm(
      @NotNull @Size(max = 300) String key, @NotNull @Size(max = 500) String reason) {}

  @GetMapping("/api/hints")
  @Needs(signedIn = true, desk = true)
  HintsView hints(
      Viewer viewer, @RequestParam(name = "aside", defaultValue = "false") boolean wantsAside) {
    ThresholdsForm thresholds = thresholds();
    Map<String, HintsAside.SetAside> set = aside.all();
    Map<HintLine.Kind, List<HintLine>> byKind = new EnumMap<>(HintLine.Kind.class);
    Map<HintLine.Kind, Integer> totals = new EnumMap<>(HintLine.Kind.class);
    int away = 0;
    Holdings.Asking asking = asking(viewer, thresholds);
    for (Hints.Hint hint : found(asking, thresholds)) {
      HintsAside.SetAside known = set.get(LedgerChain.hash(hint.key()));
      boolean hidden = known != null && hint.number() <= known.number();
      away += hidden ? 1 : 0;
      if (hidden != wantsAside) {
        continue;
      }
      HintLine.Kind kind = kind(hint);
      totals.merge(kind, 1, Integer::sum);
      List<HintLine> told = byKind.computeIfAbsent(kind, k -> new ArrayList<>());
      if (told.size() < MOST) {
        told.add(view(asking, hint, hidden ? known : null));
      }
    }
    List<HintKind> kinds = new ArrayList<>();
    byKind.forEach(
        (kind, told) -> kinds.add(new HintKind(kind, requireNonNull(totals.get(kind)), told)));
    return new HintsView(
        kinds,
        away,
        thresholds,
        viewer.authority().hasEverywhere(Power.SETTINGS_EDIT),
        world.position());
  }

  private Holdings.Asking asking(Viewer viewer, ThresholdsForm thresholds) {
    return holdings.ask(
        viewer,
        new AskedForm(
            null, null, null, null, null, thresholds.days(), null, null, null, null, null));
  }

  private static List<Hints.Hint> found(Holdings.Asking asking, ThresholdsForm thresholds) {
    return Hints.of(asking.cut(), asking.whole().access().apps(), thresholds.value());
  }

  private ThresholdsForm thresholds() {
    return settings
        .get(THRESHOLDS)
        .map(text -> json.readValue(text, ThresholdsForm.class))
        .orElseGet(
            () -> {
              Hints.Thresholds usual = Hints.Thresholds.USUAL;
              return new ThresholdsForm(
                  usual.days(), usual.peers(), usual.share(), usual.nearlyAll());
            });
  }

  private static HintLine.Kind kind(Hints.Hint hint) {
    return switch (hint) {
      case Hints.Hint.Unused h -> HintLine.Kind.UNUSED;
      case Hints.Hint.Unlike h -> HintLine.Kind.UNLIKE;
      case Hints.Hint.Rule h -> HintLine.Kind.RULE;
      case Hints.Hint.Same h -> HintLine.Kind.SAME;
      case Hints.Hint.Idle h -> HintLine.Kind.IDLE;
    };
  }

  private HintLine view(
      Holdings.Asking asking, Hints.Hint hint, HintsAside.@Nullable SetAside known) {
    AccessView access = asking.whole().access();
    DirectoryView directory = access.directory();
    HintLine.Aside told =
        known == null
            ? null
            : new HintLine.Aside(
                directory.person(known.by()).map(p -> p.name().displayed()).orElse("someone"),
                known.at(),
                known.reason());
    HintLine.Kind kind = kind(hint);
    return switch (hint) {
      case Hints.Hint.Unused h ->
          new HintLine.UnusedHint(
              kind,
              h.key(),
              role(access, h.entitlement()),
              h.holders(),
              ending(ids(access.grants(h.entitlement()))),
              told);
      case Hints.Hint.Unlike h ->
          new HintLine.UnlikeHint(
              kind,
              h.key(),
              role(access, h.entitlement()),
              PersonLine.of(directory.person(h.person()).orElseThrow()),
              h.peers(),
              h.alike(),
              ending(
                  ids(
                      access.grantsTo(h.person()).stream()
                          .filter(g -> g.given().entitlement().equals(h.entitlement()))
                          .toList())),
              told);
      case Hints.Hint.Rule h ->
          new HintLine.RuleHint(
              kind,
              h.key(),
              role(access, h.entitlement()),
              h.filter(),
              directory.words().tell(h.filter()),
              h.people(),
              new HintLine.Draft(
                  List.of(
                      new HintLine.Give(h.entitlement().value().toString(), "filter", h.filter())),
                  h.grants().stream().map(g -> g.value().toString()).toList()),
              told);
      case Hints.Hint.Same h -> {
        // A grant that ends by itself cannot be given over as it is.
        boolean lasts =
            access.grantsTo(h.other()).stream().allMatch(g -> g.until().equals(Moments.FOREVER));
        yield new HintLine.SameHint(
            kind,
            h.key(),
            List.of(PersonView.ref(directory, h.one()), PersonView.ref(directory, h.other())),
            h.members(),
            lasts
                ? new HintLine.Draft(
                    missing(access, h.one(), h.other()), ids(access.grantsTo(h.other())))
                : ending(List.of()),
            told);
      }
      case Hints.Hint.Idle h ->
          new HintLine.IdleHint(
              kind,
              h.key(),
              role(access, h.entitlement()),
              SubjectView.of(access, access.grant(h.grant()).orElseThrow().given().subject()),
              h.people(),
              ending(List.of(h.grant().value().toString())),
              told);
    };
  }

  /** What only ends grants. */
  private static HintLine.Draft ending(List<String> grants) {
    return new HintLine.Draft(List.of(), grants);
  }

  private static EntitlementRef role(AccessView access, EntitlementId id) {
    return EntitlementRef.of(access.apps(), access.apps().entitlement(id).orElseThrow());
  }

  private static List<String> ids(List<Grant> grants) {
    return grants.stream().map(g -> g.id().value().toString()).toList();
  }

  /** What the first group does not lead to yet and the other does. */
  private static List<HintLine.Give> missing(AccessView access, GroupId one, GroupId other) {
    Set<EntitlementId> there = new HashSet<>();
    access.grantsTo(one).forEach(g -> there.add(g.given().entitlement()));
    List<HintLine.Give> found = new ArrayList<>();
    for (Grant grant : access.grantsTo(other)) {
      if (there.add(grant.given().entitlement())
          && grant.given().subject() instanceof FactValue.Subject.OfGroup) {
        found.add(
            new HintLine.Give(
                grant.given().entitlement().value().toString(), "group", one.value().toString()));
      }
    }
    return found;
  }

  // ---- setting aside

  /** Sets a hint aside, for everybody, until its number grows. */
  @PostMapping("/api/hints/aside")
  @Needs(value = Power.ACCESS_READ, orOwnerOf = ObjectKind.APPLICATION)
  Receipt aside(Viewer viewer, @Valid @RequestBody SetAsideForm form) {
    String reason = form.reason().strip();
    if (reason.isEmpty()) {
      throw Refusal.invalid("hint.no-reason", "reason", "Say why it can stay as it is.");
    }
    Hints.Hint hint = standing(viewer, form.key());
    String key = LedgerChain.hash(hint.key());
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            String.class,
            moment ->
                Outcome.done(
                    Act.of(ActName.ACCESS_HINT_ASIDE, viewer.person())
                        .because(reason)
                        .with(
                            Map.of(
                                "hint",
                                key,
                                "kind",
                                kind(hint).name().toLowerCase(Locale.ROOT),
                                "number",
                                hint.number())),
                    List.of(),
                    key),
            (tx, result, entry) ->
                HintsAside.set(
                    tx,
                    key,
                    new HintsAside.SetAside(viewer.person(), entry.at(), reason, hint.number()))));
  }

  private Hints.Hint standing(Viewer viewer, String key) {
    ThresholdsForm thresholds = thresholds();
    return found(asking(viewer, thresholds), thresholds).stream()
        .filter(hint -> hint.key().equals(key))
        .findFirst()
        .orElseThrow(() -> Refusal.of(Problem.absent("hint any more")));
  }

  record BackForm(@NotNull @Size(max = 300) String key) {}

  /** Takes a hint up again that was set aside. */
  @PostMapping("/api/hints/back")
  @Needs(value = Power.ACCESS_READ, orOwnerOf = ObjectKind.APPLICATION)
  Receipt back(Viewer viewer, @Valid @RequestBody BackForm form) {
    Hints.Hint hint = standing(viewer, form.key());
    String key = LedgerChain.hash(hint.key());
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            String.class,
            moment ->
                Outcome.done(
                    Act.of(ActName.ACCESS_HINT_BACK, viewer.person()).with(Map.of("hint", key)),
                    List.of(),
                    key),
            (tx, result, entry) -> HintsAside.takeBack(tx, key)));
  }

  @PutMapping("/api/hints/thresholds")
  @Needs(Power.SETTINGS_EDIT)
  Receipt set(Viewer viewer, @Valid @RequestBody ThresholdsForm form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            String.class,
            moment ->
                moment.authority().hasEverywhere(Power.SETTINGS_EDIT)
                    ? Outcome.done(
                        Act.of(ActName.SETTINGS_HINTS, viewer.person())
                            .with(
                                Map.of(
                                    "days", form.days(),
                                    "peers", form.peers(),
                                    "share", form.share(),
                                    "nearlyAll", form.nearlyAll())),
                        List.of(),
                        THRESHOLDS)
                    : Outcome.refused(
                        Problem.forbidden("reach", "This needs “settings.edit” without limits.")),
            (tx, result, entry) -> Settings.put(tx, THRESHOLDS, json.writeValueAsString(form))));
  }
}
