package eleutheria.server.brought;

import eleutheria.core.access.AccessView;
import eleutheria.core.brought.Bringing;
import eleutheria.core.brought.Proposal;
import eleutheria.core.brought.ProposalDecisions;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ProposalId;
import eleutheria.core.facts.Weight;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.TileDecisions;
import eleutheria.server.access.SubjectView;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.ledger.Acts;
import eleutheria.server.ledger.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Receipt;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Putting apps forward, and deciding on them. */
@RestController
class ProposalsController {
  private static final int MINE = 100;

  private final World world;
  private final Acts acts;
  private final ProposalStore store;

  ProposalsController(World world, Acts acts, ProposalStore store) {
    this.world = world;
    this.acts = acts;
    this.store = store;
  }

  /**
   * @param whom who needs it, and {@code why} what for, in the asker's words
   */
  record PutForward(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 3000) String address,
      @NotNull @Size(max = 1000) String whom,
      @NotNull @Size(max = 4000) String why) {}

  /**
   * @param state waiting, accepted, refused or withdrawn
   * @param answer what was said with the decision
   */
  record ProposalView(
      String id,
      String number,
      String name,
      String address,
      String whom,
      String why,
      Instant at,
      String state,
      @Nullable Instant decidedAt,
      @Nullable String decidedBy,
      String answer) {
    static ProposalView of(PortalView whole, Proposal p) {
      return new ProposalView(
          p.id().value().toString(),
          p.label(),
          p.name(),
          p.address(),
          p.whom(),
          p.why(),
          p.at(),
          ProposalStore.word(p),
          switch (p.state()) {
            case Proposal.State.Waiting s -> null;
            case Proposal.State.Accepted s -> s.at();
            case Proposal.State.Refused s -> s.at();
            case Proposal.State.Withdrawn s -> s.at();
          },
          switch (p.state()) {
            case Proposal.State.Accepted s -> by(whole, s.by());
            case Proposal.State.Refused s -> by(whole, s.by());
            default -> null;
          },
          switch (p.state()) {
            case Proposal.State.Accepted s -> s.answer();
            case Proposal.State.Refused s -> s.answer();
            default -> "";
          });
    }
  }

  private static String by(PortalView whole, PersonId id) {
    return whole.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }

  record MyProposals(List<ProposalView> proposals) {}

  @GetMapping("/api/my/proposals")
  @Needs(signedIn = true)
  MyProposals mine(Viewer viewer) {
    PortalView whole = world.whole();
    return new MyProposals(
        store.of(viewer.person(), MINE).stream().map(p -> ProposalView.of(whole, p)).toList());
  }

  @PostMapping("/api/my/proposals")
  @Needs(signedIn = true)
  Receipt putForward(
      Viewer viewer,
      @Valid @RequestBody PutForward form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    AtomicReference<Proposal> made = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            ProposalId.class,
            moment ->
                id(
                    ProposalDecisions.putForward(
                        moment,
                        store.nextNumber(),
                        viewer.person(),
                        form.name(),
                        form.address(),
                        form.whom(),
                        form.why(),
                        store.of(viewer.person(), Integer.MAX_VALUE),
                        Bringing.at(moment.facts(), moment.at())
                            .of(viewer.person(), PortalView.at(moment)::has)),
                    made),
            (tx, result, entry) -> ProposalStore.save(tx, made.get())));
  }

  @PostMapping("/api/my/proposals/{id}/withdraw")
  @Needs(signedIn = true)
  Receipt withdraw(Viewer viewer, @PathVariable UUID id) {
    AtomicReference<Proposal> next = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ProposalId.class,
            moment ->
                store
                    .find(new ProposalId(id))
                    .map(p -> id(ProposalDecisions.withdraw(moment, p), next))
                    .orElseGet(() -> Outcome.refused(Problem.absent("proposal"))),
            (tx, result, entry) -> ProposalStore.save(tx, next.get())));
  }

  private static Outcome<ProposalId> id(Outcome<Proposal> outcome, AtomicReference<Proposal> next) {
    return switch (outcome) {
      case Outcome.Refused<Proposal> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<Proposal> done -> {
        next.set(done.result());
        yield Outcome.done(done.act(), done.edits(), done.result().id()).with(done.errands());
      }
    };
  }

  // ---- deciding

  /**
   * Alike proposals, for who decides on them.
   *
   * @param host what the address is of
   * @param mine whether one is the reader's own, so that somebody else decides on it
   * @param approved the entry of the approved list that has its address; null if none has
   */
  record ProposalCase(
      List<ProposalLine> proposals, String host, boolean mine, @Nullable String approved) {}

  record ProposalLine(PersonLine who, ProposalView proposal) {}

  @GetMapping("/api/proposals/{id}")
  @Needs(Power.APPS_EDIT)
  ProposalCase one(Viewer viewer, @PathVariable UUID id) {
    Proposal found =
        store
            .find(new ProposalId(id))
            .filter(p -> viewer.authority().hasEverywhere(Power.APPS_EDIT))
            .orElseThrow(() -> Refusal.of(Problem.absent("proposal")));
    PortalView whole = world.whole();
    AccessView access = whole.access();
    List<Proposal> alike =
        found.waits()
            ? store.waiting().stream()
                .filter(p -> p.likeness().equals(found.likeness()))
                .filter(p -> p.by().equals(viewer.person()) == found.by().equals(viewer.person()))
                .toList()
            : List.of(found);
    return new ProposalCase(
        alike.stream()
            .map(
                p ->
                    new ProposalLine(
                        access.directory().person(p.by()).map(PersonLine::of).orElseThrow(),
                        ProposalView.of(whole, p)))
            .toList(),
        host(found.address()),
        found.by().equals(viewer.person()),
        world
            .look((facts, now) -> Bringing.at(facts, now.at()))
            .approved()
            .covering(found.address())
            .map(entry -> entry.listing().name())
            .orElse(null));
  }

  private static String host(String address) {
    String host = URI.create(address).getHost();
    return host == null ? address : host;
  }

  /**
   * @param also who gets it besides those who have put it forward; null for nobody
   */
  record AcceptForm(
      @NotEmpty @Size(max = 500) List<UUID> proposals,
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue,
      @NotNull Weight weight,
      @NotNull @Size(max = 3000) String address,
      @NotNull UUID owner,
      @NotNull @Size(max = 500) String role,
      boolean requestable,
      SubjectView.@Nullable @Valid SubjectForm also,
      @NotNull @Size(max = 4000) String answer) {
    ProposalDecisions.Wanted wanted() {
      return new ProposalDecisions.Wanted(
          new FactValue.Profile(name, line, picture, hue, weight, ""),
          address,
          new PersonId(owner),
          role,
          requestable,
          also == null ? null : also.subject(),
          answer);
    }
  }

  @PostMapping("/api/proposals/accept")
  @Needs(Power.APPS_EDIT)
  Receipt accept(
      Viewer viewer,
      @Valid @RequestBody AcceptForm form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    return decide(
        viewer,
        repeatKey,
        form.proposals(),
        (moment, fold) ->
            ProposalDecisions.accept(
                moment,
                fold,
                form.wanted(),
                (then, face) -> TileDecisions.make(then, TileDecisions.Terms.of(face))));
  }

  record RefuseForm(
      @NotEmpty @Size(max = 500) List<UUID> proposals, @NotNull @Size(max = 4000) String answer) {}

  @PostMapping("/api/proposals/refuse")
  @Needs(Power.APPS_EDIT)
  Receipt refuse(
      Viewer viewer,
      @Valid @RequestBody RefuseForm form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    return decide(
        viewer,
        repeatKey,
        form.proposals(),
        (moment, fold) -> ProposalDecisions.refuse(moment, fold, form.answer()));
  }

  private interface Decision {
    Outcome<List<Proposal>> on(eleutheria.core.directory.Moment moment, List<Proposal> fold);
  }

  private Receipt decide(
      Viewer viewer, @Nullable String repeatKey, List<UUID> ids, Decision decision) {
    AtomicReference<List<Proposal>> next = new AtomicReference<>(List.of());
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            Integer.class,
            moment -> {
              List<Proposal> fold =
                  store.find(ids.stream().distinct().map(ProposalId::new).toList());
              if (fold.size() < ids.stream().distinct().count()) {
                return Outcome.refused(Problem.absent("proposal"));
              }
              return switch (decision.on(moment, fold)) {
                case Outcome.Refused<List<Proposal>> refused -> Outcome.refused(refused.problems());
                case Outcome.Done<List<Proposal>> done -> {
                  next.set(done.result());
                  yield Outcome.done(done.act(), done.edits(), done.result().size())
                      .with(done.errands())
                      .by(done.right());
                }
              };
            },
            (tx, result, entry) -> next.get().forEach(p -> ProposalStore.save(tx, p))));
  }
}
