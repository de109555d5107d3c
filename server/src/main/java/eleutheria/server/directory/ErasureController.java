package eleutheria.server.directory;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.ErasureDecisions;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.server.ledger.PersonalData;
import eleutheria.server.signon.Doors;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Erasing the personal data of somebody who has departed, from the facts and from the ledger. */
@RestController
class ErasureController {
  private final Acts acts;
  private final World world;
  private final PersonalData personal;
  private final Doors doors;

  ErasureController(Acts acts, World world, PersonalData personal, Doors doors) {
    this.acts = acts;
    this.world = world;
    this.personal = personal;
    this.doors = doors;
  }

  record EraseForm(@NotNull @Size(max = 2000) String reason) {}

  /** Erases names, keys of sources, personal attributes and reasons; gives how many values. */
  @PostMapping("/api/people/{id}/erasure")
  @Needs(value = Power.PEOPLE_EDIT, fresh = true)
  Receipt erase(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody EraseForm form,
      IdempotencyKey repeatKey) {
    PersonId person = new PersonId(id);
    AtomicReference<PersonalData.@Nullable Found> found = new AtomicReference<>();
    Acts.Receipt<Integer> receipt =
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            Integer.class,
            moment -> {
              found.set(personal.of(moment.facts(), person));
              return ErasureDecisions.erase(
                  moment, person, requireNonNull(found.get()).named(), form.reason());
            },
            (tx, result, entry) -> {
              PersonalData.erase(tx, person, requireNonNull(found.get()));
              doors.shut(tx, person, null);
            });
    // What is in memory still knows it; other nodes read anew when they follow the entry.
    world.reload();
    return Receipt.of(receipt);
  }
}
