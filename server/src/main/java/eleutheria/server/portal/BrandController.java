package eleutheria.server.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.BrandDecisions;
import eleutheria.core.portal.Contrast;
import eleutheria.server.drafts.DraftStates;
import eleutheria.server.pictures.PictureStore;
import eleutheria.server.settings.Organisation;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.Locale;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The organisation's name, mark and colours, and what is said where people sign in. */
@RestController
class BrandController {
  private final Commands commands;
  private final DraftStates states;
  private final PictureStore pictures;
  private final Organisation organisation;

  BrandController(
      Commands commands, DraftStates states, PictureStore pictures, Organisation organisation) {
    this.commands = commands;
    this.states = states;
    this.pictures = pictures;
    this.organisation = organisation;
  }

  /**
   * @param name at most 60 characters; empty for the name it was set up with
   * @param mark an uploaded picture, or nothing; so door, the picture where people sign in
   * @param band {@code #rrggbb}, with a contrast to white of at least 4.5 and to the marker of at
   *     least 3 (WCAG 2.2)
   * @param welcome at most 300 characters; so help
   * @param form tiles, lines or marks
   */
  record BrandForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 70) String mark,
      @NotNull @Size(max = 20) String band,
      @NotNull @Size(max = 1000) String welcome,
      @NotNull @Size(max = 70) String door,
      @NotNull @Size(max = 1000) String help,
      @NotNull @Size(max = 20) String form,
      boolean tight) {
    static BrandForm of(FactValue.Brand brand) {
      return new BrandForm(
          brand.name(),
          brand.mark(),
          brand.band(),
          brand.welcome(),
          brand.door(),
          brand.help(),
          brand.form(),
          brand.tight());
    }

    FactValue.Brand brand() {
      return new FactValue.Brand(
          name.strip(),
          mark,
          band.strip().toLowerCase(Locale.ROOT),
          welcome.strip(),
          door,
          help.strip(),
          form,
          tight);
    }
  }

  record SetBrand(@NotNull @Valid BrandForm base, @NotNull @Valid BrandForm wanted) {}

  /**
   * @param named the name it was set up with
   * @param contrast of white text on the band
   */
  record BrandPage(BrandForm brand, String named, double contrast) {}

  @GetMapping("/api/brand")
  @Needs(Power.PORTAL_BRAND)
  BrandPage brand(Viewer viewer, @RequestParam(required = false) @Nullable UUID draft) {
    FactValue.Brand brand = states.with(viewer, draft, (facts, whole) -> whole.brand());
    return new BrandPage(
        BrandForm.of(brand), organisation.name(), Contrast.of(brand.band(), "#ffffff"));
  }

  @PutMapping("/api/brand")
  @Needs(value = Power.PORTAL_BRAND, foresees = true)
  Receipt set(Viewer viewer, @Valid @RequestBody SetBrand form) {
    pictures.demand(form.wanted().mark(), "mark");
    pictures.demand(form.wanted().door(), "door");
    return commands.perform(
        viewer,
        null,
        Integer.class,
        moment -> BrandDecisions.set(moment, form.base().brand(), form.wanted().brand()));
  }
}
