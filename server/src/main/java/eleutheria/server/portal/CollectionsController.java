package eleutheria.server.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.CollectionDecisions;
import eleutheria.core.portal.Placing;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Collections: made, described, arranged, ended. */
@RestController
class CollectionsController {
  private final Commands commands;

  CollectionsController(Commands commands) {
    this.commands = commands;
  }

  record CollectionForm(
      @NotNull @Size(max = 500) String name, @NotNull @Size(max = 1000) String line) {
    FactValue.CollectionFace face() {
      return new FactValue.CollectionFace(name, line);
    }
  }

  record MakeCollection(
      @NotNull @Valid CollectionForm face, @NotNull @Valid AudienceView.AudienceForm audience) {}

  record DescribeCollection(
      @NotNull @Valid CollectionForm base, @NotNull @Valid CollectionForm wanted) {}

  record SetAudience(
      @NotNull @Valid AudienceView.AudienceForm base,
      @NotNull @Valid AudienceView.AudienceForm wanted) {}

  record SetCollectionOwners(
      @NotNull @Size(max = 50) List<UUID> base, @NotNull @Size(max = 50) List<UUID> owners) {}

  /** A tile's place as it was seen. */
  record PlaceForm(@NotNull @Size(max = 60) String rank, boolean offered) {}

  /**
   * @param after behind which tile; null for the first place
   */
  record SpotForm(@Nullable UUID after, boolean offered) {}

  /**
   * @param base null if the tile was not in the collection
   * @param wanted null if it is removed
   */
  record TileMove(
      @NotNull UUID tile, @Nullable @Valid PlaceForm base, @Nullable @Valid SpotForm wanted) {
    Placing<TileId, FactValue.Place> placing() {
      return new Placing<>(
          new TileId(tile),
          base == null ? null : new FactValue.Place(base.rank(), base.offered()),
          wanted == null
              ? null
              : new Placing.Spot<>(
                  wanted.after() == null ? null : new TileId(wanted.after()), wanted.offered()));
    }
  }

  record MoveTiles(@NotNull @Size(min = 1, max = 500) List<@Valid TileMove> moves) {}

  @PostMapping("/api/collections")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt make(Viewer viewer, @Valid @RequestBody MakeCollection form, IdempotencyKey repeatKey) {
    return commands.perform(
        viewer,
        repeatKey.value(),
        CollectionId.class,
        moment -> CollectionDecisions.make(moment, form.face().face(), form.audience().audience()));
  }

  @PutMapping("/api/collections/{id}/face")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION, foresees = true)
  Receipt describe(
      Viewer viewer, @PathVariable UUID id, @Valid @RequestBody DescribeCollection form) {
    return commands.perform(
        viewer,
        null,
        CollectionId.class,
        moment ->
            CollectionDecisions.describe(
                moment, new CollectionId(id), form.base().face(), form.wanted().face()));
  }

  @PutMapping("/api/collections/{id}/audience")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt setAudience(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetAudience form) {
    return commands.perform(
        viewer,
        null,
        CollectionId.class,
        moment ->
            CollectionDecisions.setAudience(
                moment, new CollectionId(id), form.base().audience(), form.wanted().audience()));
  }

  @PutMapping("/api/collections/{id}/owners")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt setOwners(
      Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetCollectionOwners form) {
    return commands.perform(
        viewer,
        null,
        CollectionId.class,
        moment ->
            CollectionDecisions.setOwners(
                moment,
                new CollectionId(id),
                form.base().stream().map(PersonId::new).toList(),
                form.owners().stream().map(PersonId::new).toList()));
  }

  @PutMapping("/api/collections/{id}/tiles")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION, foresees = true)
  Receipt arrange(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody MoveTiles form) {
    return commands.perform(
        viewer,
        null,
        CollectionId.class,
        moment ->
            CollectionDecisions.arrange(
                moment,
                new CollectionId(id),
                form.moves().stream().map(TileMove::placing).toList()));
  }

  @DeleteMapping("/api/collections/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt end(Viewer viewer, @PathVariable UUID id) {
    return commands.perform(
        viewer,
        null,
        CollectionId.class,
        moment -> CollectionDecisions.end(moment, new CollectionId(id)));
  }
}
