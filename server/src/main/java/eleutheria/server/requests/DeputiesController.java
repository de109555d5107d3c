package eleutheria.server.requests;

import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.DeputyDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.Colleague;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Who decides for whom: one's own deputies, and in need those of others. */
@RestController
class DeputiesController {
  private final World world;
  private final Acts acts;
  private final Organisation organisation;

  DeputiesController(World world, Acts acts, Organisation organisation) {
    this.world = world;
    this.acts = acts;
    this.organisation = organisation;
  }

  /**
   * @param deputies who decides for this person, now or on days to come
   * @param standsInFor for whom this person decides
   * @param candidates whom the reader may name; none where they look for anybody
   * @param team whether this person manages anybody, so that a deputy could decide for their team
   * @param apps whether they own an application
   */
  record DeputiesView(
      List<DeputyLine> deputies,
      List<DeputyLine> standsInFor,
      List<Colleague> candidates,
      boolean team,
      boolean apps) {}

  /**
   * @param who the deputy, or for whom one is the deputy
   * @param from the first day
   * @param until the last day
   * @param begun whether it is so already
   */
  record DeputyLine(
      Colleague who, List<Duty> duties, LocalDate from, LocalDate until, boolean begun) {}

  /**
   * @param from the first day; null for now
   * @param until the last day
   */
  record DeputyForm(
      @NotNull UUID deputy,
      @Nullable LocalDate from,
      @NotNull LocalDate until,
      @NotNull @Size(max = 10) List<@NotNull Duty> duties) {}

  @GetMapping("/api/people/{id}/deputies")
  @Needs(signedIn = true)
  DeputiesView deputies(Viewer viewer, @PathVariable UUID id) {
    PersonId person = new PersonId(id);
    boolean own = person.equals(viewer.person());
    DirectoryView directory = world.now();
    if ((!own && !viewer.authority().hasEverywhere(Power.REQUESTS_STEP_IN))
        || directory.person(person).isEmpty()) {
      throw Refusal.of(Problem.absent("person"));
    }
    return world.look(
        (facts, whole) ->
            new DeputiesView(
                Deputies.of(facts, person, whole.at()).stream()
                    .map(span -> line(whole.directory(), span.deputy(), span, whole.at()))
                    .toList(),
                Deputies.by(facts, person, whole.at()).stream()
                    .map(span -> line(whole.directory(), span.person(), span, whole.at()))
                    .toList(),
                own
                    ? DeputyDecisions.candidates(directory, person).stream()
                        .flatMap(one -> directory.person(one).stream())
                        .map(Colleague::of)
                        .toList()
                    : List.of(),
                !directory.reports(person).isEmpty(),
                directory.owned(person).stream()
                    .anyMatch(thing -> thing instanceof ApplicationId)));
  }

  private DeputyLine line(DirectoryView directory, PersonId who, Deputies.Span span, Instant now) {
    Person person = directory.person(who).orElseThrow();
    return new DeputyLine(
        Colleague.of(person),
        List.copyOf(span.duties()),
        LocalDate.ofInstant(span.from(), organisation.zone()),
        LocalDate.ofInstant(span.until().minusMillis(1), organisation.zone()),
        !span.from().isAfter(now));
  }

  @PostMapping("/api/people/{id}/deputies")
  @Needs(signedIn = true)
  Receipt name(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody DeputyForm form,
      IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            PersonId.class,
            moment ->
                DeputyDecisions.name(
                    moment,
                    new PersonId(id),
                    new PersonId(form.deputy()),
                    form.from(),
                    form.until(),
                    new TreeSet<>(form.duties()))));
  }

  @DeleteMapping("/api/people/{id}/deputies/{deputy}")
  @Needs(signedIn = true)
  Receipt end(Viewer viewer, @PathVariable UUID id, @PathVariable UUID deputy) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            PersonId.class,
            moment -> DeputyDecisions.end(moment, new PersonId(id), new PersonId(deputy))));
  }
}
