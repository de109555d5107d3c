package eleutheria.server.departures;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reading;
import eleutheria.core.departures.DepartureDecisions;
import eleutheria.core.departures.Slip;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.OwnedThing;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.signon.Sessions;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Ending everything of one person, and the slip of it. */
@RestController
class DeparturesController {
  private final World world;
  private final Acts acts;
  private final Commands commands;
  private final RequestStore requests;
  private final Sessions sessions;
  private final WhoDid whoDid;
  private final Slips slips;

  DeparturesController(
      World world,
      Acts acts,
      Commands commands,
      RequestStore requests,
      Sessions sessions,
      WhoDid whoDid,
      Slips slips) {
    this.world = world;
    this.acts = acts;
    this.commands = commands;
    this.requests = requests;
    this.sessions = sessions;
    this.whoDid = whoDid;
    this.slips = slips;
  }

  /**
   * What a departure comes to, before or after it.
   *
   * @param at when it took place; null before
   * @param grants what was granted directly alone: ended
   * @param lost everything that the person held: not held any more
   * @param mirrored groups of a source that still list the person, without effect
   * @param byFilter groups whose filter still fits, without effect
   * @param filterGrants entitlements whose filter still fits, without effect
   * @param lone what nobody active owns beside
   * @param sessions how many sessions end with it; after it, 0
   */
  record SlipView(
      PersonLine person,
      @Nullable Instant at,
      @Nullable String by,
      @Nullable Long position,
      List<String> grants,
      List<PersonView.GroupRef> memberships,
      List<String> mandates,
      List<String> lost,
      List<PersonView.GroupRef> mirrored,
      List<PersonView.GroupRef> byFilter,
      List<String> filterGrants,
      List<OwnedThing> lone,
      int requests,
      int sessions) {}

  record DepartForm(@NotNull @Size(max = 2000) String reason) {}

  @GetMapping("/api/people/{id}/departure")
  @Needs(Power.DEPARTURES_RUN)
  SlipView preview(Viewer viewer, @PathVariable UUID id) {
    Person person = reached(viewer, id);
    PortalView whole = world.whole();
    int waiting = open(person.id()).size();
    Slip slip =
        world.look(
            (facts, now) ->
                DepartureDecisions.slip(
                    new Moment(
                        facts,
                        now.directory(),
                        now.at(),
                        java.time.ZoneOffset.UTC,
                        UUID::randomUUID,
                        viewer.authority()),
                    now.access(),
                    person.id(),
                    waiting));
    return view(
        viewer, whole, person, Slips.Kept.of(slip), null, null, null, sessions.count(person.id()));
  }

  private Person reached(Viewer viewer, UUID id) {
    return world
        .now()
        .person(new PersonId(id))
        .filter(p -> viewer.authority().reaches(Power.DEPARTURES_RUN, p.value(Attributes.UNIT)))
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }

  private List<AccessRequest> open(PersonId person) {
    return requests.forPerson(person, 1000).stream().filter(r -> r.stage().open()).toList();
  }

  @PostMapping("/api/people/{id}/departure")
  @Needs(value = Power.DEPARTURES_RUN, foresees = true)
  Receipt depart(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody DepartForm form,
      IdempotencyKey repeatKey) {
    PersonId person = reached(viewer, id).id();
    if (viewer.foresees()) {
      int waiting = open(person).size();
      return commands.foresee(
          viewer, moment -> DepartureDecisions.depart(moment, person, waiting, form.reason()));
    }
    AtomicReference<Slip> slip = new AtomicReference<>();
    AtomicReference<List<AccessRequest>> open = new AtomicReference<>(List.of());
    Acts.Receipt<PersonId> receipt =
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            PersonId.class,
            Acts.asSeen(
                viewer.foreseen(),
                moment -> {
                  open.set(open(person));
                  return switch (DepartureDecisions.depart(
                      moment, person, requireNonNull(open.get()).size(), form.reason())) {
                    case Outcome.Refused<Slip> refused -> Outcome.refused(refused.problems());
                    case Outcome.Done<Slip> done -> {
                      slip.set(done.result());
                      yield Outcome.done(done.act(), done.edits(), person).by(done.right());
                    }
                  };
                }),
            (tx, result, entry) -> {
              requireNonNull(open.get())
                  .forEach(
                      r -> RequestStore.save(tx, RequestDecisions.overtaken(r, entry.at()), entry));
              slips.keep(tx, person, entry.position(), requireNonNull(slip.get()));
            });
    return Receipt.of(receipt);
  }

  /** The newest slip of a person. */
  @GetMapping("/api/departures/{id}")
  @Needs({Power.DEPARTURES_RUN, Power.LEDGER_READ})
  SlipView slip(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    Person person =
        whole
            .directory()
            .person(new PersonId(id))
            .filter(
                p ->
                    viewer.authority().reaches(Power.DEPARTURES_RUN, p.value(Attributes.UNIT))
                        || viewer.authority().reaches(Power.LEDGER_READ, p.value(Attributes.UNIT)))
            .orElseThrow(() -> Refusal.of(Problem.absent("person")));
    Slips.Filed filed =
        slips.newest(person.id()).orElseThrow(() -> Refusal.of(Problem.absent("departure")));
    String by =
        whoDid
            .at(filed.position())
            .map(WhoDid.Did::person)
            .flatMap(p -> whole.directory().person(p))
            .map(p -> p.name().displayed())
            .orElse(null);
    return view(viewer, whole, person, filed.slip(), filed.slip().at(), by, filed.position(), 0);
  }

  private SlipView view(
      Viewer viewer,
      PortalView whole,
      Person person,
      Slips.Kept kept,
      @Nullable Instant at,
      @Nullable String by,
      @Nullable Long position,
      int openSessions) {
    AccessView access = whole.access();
    Function<UUID, String> title =
        e ->
            access
                .apps()
                .entitlement(new EntitlementId(e))
                .map(x -> x.title())
                .orElse("an entitlement that is no more");
    Function<UUID, PersonView.GroupRef> group =
        g -> PersonView.ref(whole.directory(), new GroupId(g));
    return new SlipView(
        PersonLine.by(new Reading(viewer.authority(), world.now()), person),
        at,
        by,
        position,
        kept.grants().stream().map(UUID::fromString).map(title).toList(),
        kept.memberships().stream().map(group).toList(),
        kept.mandates().stream().map(this::mandate).toList(),
        kept.lost().stream().map(title).toList(),
        kept.mirrored().stream().map(group).toList(),
        kept.byFilter().stream().map(group).toList(),
        kept.filterGrants().stream().map(title).toList(),
        kept.lone().stream().map(o -> OwnedThing.of(whole, ObjectId.parse(o))).toList(),
        kept.requests(),
        openSessions);
  }

  private String mandate(UUID id) {
    List<Spell> spells =
        world.look((facts, now) -> facts.spells(new FactKey.Mandate(new MandateId(id))));
    return spells.isEmpty() ? "a mandate" : ((FactValue.Terms) spells.getLast().value()).name();
  }
}
