package eleutheria.server.suggestions;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalRules;
import eleutheria.core.portal.PortalView;
import eleutheria.core.suggestions.Approved;
import eleutheria.core.suggestions.SelfService;
import eleutheria.core.suggestions.SelfServiceDecisions;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.server.portal.AudienceView;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Who may keep links and suggest apps, the approved list, and what was accepted lately. */
@RestController
class SelfServiceController {
  private static final Duration WEEK = Duration.ofDays(7);

  private final World world;
  private final Acts acts;
  private final SuggestionStore suggestions;
  private final Clock clock;

  SelfServiceController(World world, Acts acts, SuggestionStore suggestions, Clock clock) {
    this.world = world;
    this.acts = acts;
    this.suggestions = suggestions;
    this.clock = clock;
  }

  /**
   * @param letIn what came in within the last seven days, newest first
   * @param waiting how many suggested apps wait
   */
  record SuggestionsPage(
      List<SelfServiceLineView> rules,
      List<KeptListing> listings,
      List<LetIn> letIn,
      int waiting,
      boolean mayEdit,
      long position) {}

  record SelfServiceLineView(AudienceView audience, FactValue.Links links, boolean suggest) {}

  /**
   * @param mayEdit whether the reader may change it
   */
  record KeptListing(
      String id,
      String name,
      String address,
      String line,
      String category,
      String picture,
      String hue,
      List<PersonLine> keepers,
      Instant since,
      boolean mayEdit) {}

  /**
   * @param how listed, or suggested
   * @param app the application that it became; null for an entry of the list
   * @param askers how many had suggested it
   */
  record LetIn(
      String how, String name, Instant at, @Nullable String app, @Nullable String by, int askers) {}

  @GetMapping("/api/self-service")
  @Needs(value = Power.APPS_READ, orOwnerOf = ObjectKind.LISTING)
  SuggestionsPage page(Viewer viewer) {
    boolean mayEdit = viewer.authority().hasEverywhere(Power.APPS_EDIT);
    Instant week = clock.instant().minus(WEEK);
    PortalView whole = world.whole();
    SelfService selfService = world.look((facts, now) -> SelfService.at(facts, now.at()));
    List<LetIn> letIn = new java.util.ArrayList<>();
    suggestions.letIn(week).stream()
        .collect(
            java.util.stream.Collectors.groupingBy(
                p -> ((Suggestion.State.Accepted) p.state()).app(),
                java.util.LinkedHashMap::new,
                java.util.stream.Collectors.toList()))
        .forEach(
            (app, all) -> {
              Suggestion.State.Accepted state = (Suggestion.State.Accepted) all.getFirst().state();
              letIn.add(
                  new LetIn(
                      "suggested",
                      whole
                          .access()
                          .apps()
                          .application(app)
                          .map(a -> a.name())
                          .orElse(all.getFirst().name()),
                      state.at(),
                      app.value().toString(),
                      name(whole, state.by()),
                      all.size()));
            });
    selfService.approved().entries().stream()
        .filter(entry -> entry.since().isAfter(week))
        .forEach(
            entry ->
                letIn.add(
                    new LetIn("listed", entry.listing().name(), entry.since(), null, null, 0)));
    letIn.sort(java.util.Comparator.comparing(LetIn::at).reversed());
    return new SuggestionsPage(
        selfService.rules().stream()
            .map(
                rule ->
                    new SelfServiceLineView(
                        AudienceView.of(whole, rule.audience()), rule.links(), rule.suggest()))
            .toList(),
        selfService.approved().entries().stream()
            .map(entry -> kept(viewer, whole, entry, mayEdit))
            .toList(),
        letIn,
        suggestions.waiting().size(),
        mayEdit,
        world.position());
  }

  private static String name(PortalView whole, PersonId id) {
    return whole.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }

  private static KeptListing kept(
      Viewer viewer, PortalView whole, Approved.Entry entry, boolean mayEdit) {
    FactValue.Listing l = entry.listing();
    return new KeptListing(
        entry.id().value().toString(),
        l.name(),
        l.address(),
        l.line(),
        l.category(),
        l.picture(),
        l.hue(),
        whole.directory().owners(entry.id()).stream()
            .flatMap(owner -> whole.directory().person(owner).stream())
            .map(PersonLine::of)
            .toList(),
        entry.since(),
        mayEdit || viewer.authority().owns(entry.id()));
  }

  record SelfServiceLineForm(
      @NotNull AudienceView.@Valid AudienceForm audience,
      FactValue.@NotNull Links links,
      boolean suggest) {
    FactValue.SelfServiceLine rule() {
      return new FactValue.SelfServiceLine(audience.audience(), links, suggest);
    }
  }

  record SetRules(
      @NotNull @Size(max = 50) List<@Valid SelfServiceLineForm> base,
      @NotNull @Size(max = 50) List<@Valid SelfServiceLineForm> wanted) {}

  @PutMapping("/api/self-service/lines")
  @Needs(Power.APPS_EDIT)
  Receipt setRules(Viewer viewer, @Valid @RequestBody SetRules form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            Integer.class,
            moment ->
                SelfServiceDecisions.setPolicy(
                    moment,
                    rules(form.base()),
                    rules(form.wanted()),
                    audience -> PortalRules.audienceProblems(moment, audience))));
  }

  private static FactValue.SelfService rules(List<SelfServiceLineForm> all) {
    return new FactValue.SelfService(all.stream().map(SelfServiceLineForm::rule).toList());
  }

  record ListingForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 3000) String address,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 200) String category,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue) {
    FactValue.Listing listing() {
      return new FactValue.Listing(
          name.strip(), address.strip(), line.strip(), category.strip(), picture, hue);
    }
  }

  record NewListing(
      @NotNull @Valid ListingForm listing, @NotNull @Size(max = 100) List<UUID> keepers) {}

  record ChangeListing(@NotNull @Valid ListingForm base, @NotNull @Valid ListingForm wanted) {}

  record KeepersForm(
      @NotNull @Size(max = 100) List<UUID> base, @NotNull @Size(max = 100) List<UUID> wanted) {}

  @PostMapping("/api/approved-list")
  @Needs(Power.APPS_EDIT)
  Receipt list(Viewer viewer, @Valid @RequestBody NewListing form, IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            ListingId.class,
            moment ->
                SelfServiceDecisions.list(
                    moment, form.listing().listing(), people(form.keepers()))));
  }

  @PutMapping("/api/approved-list/{id}")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.LISTING)
  Receipt change(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeListing form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment ->
                SelfServiceDecisions.change(
                    moment, new ListingId(id), form.base().listing(), form.wanted().listing())));
  }

  @PutMapping("/api/approved-list/{id}/owners")
  @Needs(Power.APPS_EDIT)
  Receipt keepers(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody KeepersForm form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment ->
                SelfServiceDecisions.setKeepers(
                    moment, new ListingId(id), people(form.base()), people(form.wanted()))));
  }

  @DeleteMapping("/api/approved-list/{id}")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.LISTING)
  Receipt end(Viewer viewer, @PathVariable UUID id) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment -> SelfServiceDecisions.end(moment, new ListingId(id))));
  }

  private static List<PersonId> people(List<UUID> ids) {
    return ids.stream().map(PersonId::new).toList();
  }
}
