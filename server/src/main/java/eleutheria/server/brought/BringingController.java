package eleutheria.server.brought;

import eleutheria.core.brought.Approved;
import eleutheria.core.brought.Bringing;
import eleutheria.core.brought.BringingDecisions;
import eleutheria.core.brought.Proposal;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalRules;
import eleutheria.core.portal.PortalView;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.ledger.Acts;
import eleutheria.server.ledger.World;
import eleutheria.server.portal.AudienceView;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Receipt;
import eleutheria.server.web.Viewer;
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
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** What people may bring, the approved list, and what was let in lately. */
@RestController
class BringingController {
  private static final Duration WEEK = Duration.ofDays(7);

  private final World world;
  private final Acts acts;
  private final ProposalStore proposals;
  private final Clock clock;

  BringingController(World world, Acts acts, ProposalStore proposals, Clock clock) {
    this.world = world;
    this.acts = acts;
    this.proposals = proposals;
    this.clock = clock;
  }

  /**
   * @param letIn what came in within the last seven days, newest first
   * @param waiting how many apps that were put forward wait
   */
  record BringingPage(
      List<BringingRuleView> rules,
      List<KeptListing> listings,
      List<LetIn> letIn,
      int waiting,
      boolean mayEdit,
      long position) {}

  record BringingRuleView(AudienceView audience, FactValue.Links links, boolean forward) {}

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
   * @param how listed, or put forward
   * @param app the application that it became; null for an entry of the list
   * @param askers how many had put it forward
   */
  record LetIn(
      String how, String name, Instant at, @Nullable String app, @Nullable String by, int askers) {}

  @GetMapping("/api/bringing")
  @Needs(value = Power.APPS_READ, orOwnerOf = ObjectKind.LISTING)
  BringingPage page(Viewer viewer) {
    boolean mayEdit = viewer.authority().hasEverywhere(Power.APPS_EDIT);
    Instant week = clock.instant().minus(WEEK);
    PortalView whole = world.whole();
    Bringing bringing = world.look((facts, now) -> Bringing.at(facts, now.at()));
    List<LetIn> letIn = new java.util.ArrayList<>();
    proposals.letIn(week).stream()
        .collect(
            java.util.stream.Collectors.groupingBy(
                p -> ((Proposal.State.Accepted) p.state()).app(),
                java.util.LinkedHashMap::new,
                java.util.stream.Collectors.toList()))
        .forEach(
            (app, all) -> {
              Proposal.State.Accepted state = (Proposal.State.Accepted) all.getFirst().state();
              letIn.add(
                  new LetIn(
                      "put forward",
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
    bringing.approved().entries().stream()
        .filter(entry -> entry.since().isAfter(week))
        .forEach(
            entry ->
                letIn.add(
                    new LetIn("listed", entry.listing().name(), entry.since(), null, null, 0)));
    letIn.sort(java.util.Comparator.comparing(LetIn::at).reversed());
    return new BringingPage(
        bringing.rules().stream()
            .map(
                rule ->
                    new BringingRuleView(
                        AudienceView.of(whole, rule.audience()), rule.links(), rule.forward()))
            .toList(),
        bringing.approved().entries().stream()
            .map(entry -> kept(viewer, whole, entry, mayEdit))
            .toList(),
        letIn,
        (int) proposals.waiting().size(),
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

  record BringingRuleForm(
      @NotNull AudienceView.@Valid AudienceForm audience,
      FactValue.@NotNull Links links,
      boolean forward) {
    FactValue.BringingRule rule() {
      return new FactValue.BringingRule(audience.audience(), links, forward);
    }
  }

  record SetRules(
      @NotNull @Size(max = 50) List<@Valid BringingRuleForm> base,
      @NotNull @Size(max = 50) List<@Valid BringingRuleForm> wanted) {}

  @PutMapping("/api/bringing/rules")
  @Needs(Power.APPS_EDIT)
  Receipt setRules(Viewer viewer, @Valid @RequestBody SetRules form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            Integer.class,
            moment ->
                BringingDecisions.setPolicy(
                    moment,
                    rules(form.base()),
                    rules(form.wanted()),
                    audience -> PortalRules.audienceProblems(moment, audience))));
  }

  private static FactValue.Bringing rules(List<BringingRuleForm> all) {
    return new FactValue.Bringing(all.stream().map(BringingRuleForm::rule).toList());
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

  @PostMapping("/api/bringing/listings")
  @Needs(Power.APPS_EDIT)
  Receipt list(
      Viewer viewer,
      @Valid @RequestBody NewListing form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            ListingId.class,
            moment ->
                BringingDecisions.list(moment, form.listing().listing(), people(form.keepers()))));
  }

  @PutMapping("/api/bringing/listings/{id}")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.LISTING)
  Receipt change(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeListing form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment ->
                BringingDecisions.change(
                    moment, new ListingId(id), form.base().listing(), form.wanted().listing())));
  }

  @PutMapping("/api/bringing/listings/{id}/keepers")
  @Needs(Power.APPS_EDIT)
  Receipt keepers(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody KeepersForm form) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment ->
                BringingDecisions.setKeepers(
                    moment, new ListingId(id), people(form.base()), people(form.wanted()))));
  }

  @DeleteMapping("/api/bringing/listings/{id}")
  @Needs(value = Power.APPS_EDIT, orOwnerOf = ObjectKind.LISTING)
  Receipt end(Viewer viewer, @PathVariable UUID id) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ListingId.class,
            moment -> BringingDecisions.end(moment, new ListingId(id))));
  }

  private static List<PersonId> people(List<UUID> ids) {
    return ids.stream().map(PersonId::new).toList();
  }
}
