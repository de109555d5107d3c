package eleutheria.server.portal;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.Page;
import eleutheria.core.portal.PortalView;
import eleutheria.server.drafts.DraftStates;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.SubjectView;
import eleutheria.server.signon.SessionViews;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/**
 * The preview: a person's front page as they meet it, now or with a draft. It shows neither links
 * of their own nor what waits for them, and opens nothing. Whoever looks at somebody else's is on
 * record, once an hour for each person; whoever arranges something may look at their own.
 */
@RestController
class PreviewController {
  /** Of so many people of a unit, by name, the commonest case is looked for. */
  private static final int LOOKED_AT = 1_000;

  private static final Duration ON_RECORD = Duration.ofHours(1);
  private static final PersonId NOBODY = new PersonId(new UUID(0, 0));

  private final World world;
  private final DraftStates states;
  private final Acts acts;
  private final Cache<Look, Boolean> recorded =
      Caffeine.newBuilder().maximumSize(10_000).expireAfterWrite(ON_RECORD).build();

  private record Look(PersonId viewer, PersonId person) {}

  PreviewController(World world, DraftStates states, Acts acts) {
    this.world = world;
    this.states = states;
    this.acts = acts;
  }

  /**
   * @param as "person", "typical" (of a unit, whoever holds what most of it hold) or "nothing"
   *     (somebody in no group who holds nothing)
   * @param draft the draft to be laid over; null for the portal as it is
   */
  record PortalPreviewForm(
      @NotNull @Size(max = 20) String as,
      @Nullable UUID person,
      @Nullable @Size(max = 200) String unit,
      @Nullable UUID draft) {}

  /**
   * Why somebody meets a page.
   *
   * @param kind everyone, first-days, person, group, filter, or nobody-else (no other page fits)
   * @param name of the group, or the filter
   */
  record WhyView(String kind, String name) {}

  /**
   * @param person null for somebody who holds nothing
   * @param given how they are greeted; empty for somebody who holds nothing
   * @param like how many of a unit hold the same; null unless somebody typical was asked for
   * @param of of how many of the unit
   * @param front the page that they meet
   * @param organisation its name; empty for the one it was set up with
   * @param name of the page; empty for everyone's
   * @param place its place among all, from 1
   * @param pages how many there are
   */
  record PortalPreview(
      @Nullable PersonLine person,
      String given,
      @Nullable Integer like,
      @Nullable Integer of,
      String front,
      String name,
      int place,
      int pages,
      WhyView why,
      String organisation,
      SessionViews.BrandView brand,
      PageViews.PageView page) {}

  private record Typical(PersonId person, int like, int of) {}

  @PostMapping("/api/previews")
  @Needs(value = Power.PORTAL_PREVIEW, orOwnerOf = ObjectKind.COLLECTION)
  PortalPreview preview(Viewer viewer, @Valid @RequestBody PortalPreviewForm form) {
    Typical typical = null;
    PersonId person =
        switch (form.as()) {
          case "person" -> seen(viewer, form.person());
          case "nothing" -> {
            demand(viewer);
            yield NOBODY;
          }
          case "typical" -> {
            demand(viewer);
            typical = typical(viewer, form.unit());
            yield typical.person();
          }
          default -> throw Refusal.invalid("preview.as", "as", "It is person, typical or nothing.");
        };
    if (!person.equals(NOBODY) && !person.equals(viewer.person())) {
      record(viewer, person);
    }
    Typical found = typical;
    return states.with(viewer, form.draft(), (facts, whole) -> view(whole, person, found));
  }

  private static void demand(Viewer viewer) {
    if (!viewer.authority().has(Power.PORTAL_PREVIEW)) {
      throw Refusal.of(
          Problem.forbidden(
              "power",
              "This needs the power “%s”: to %s."
                  .formatted(Power.PORTAL_PREVIEW.word(), Power.PORTAL_PREVIEW.line())));
    }
  }

  private PersonId seen(Viewer viewer, @Nullable UUID id) {
    if (viewer.person().value().equals(id)) {
      return viewer.person();
    }
    demand(viewer);
    return world
        .now()
        .person(new PersonId(id == null ? new UUID(0, 0) : id))
        .filter(p -> viewer.authority().reaches(Power.PORTAL_PREVIEW, p.value(Attributes.UNIT)))
        .map(Person::id)
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }

  private void record(Viewer viewer, PersonId person) {
    Look look = new Look(viewer.person(), person);
    if (recorded.getIfPresent(look) == null) {
      acts.perform(
          viewer.actor(),
          null,
          PersonId.class,
          moment -> Outcome.done(Act.of(ActName.PORTAL_PREVIEW, person), List.of(), person));
      recorded.put(look, true);
    }
  }

  /** Of a unit, whoever holds what most of it hold; the first of them by name. */
  private Typical typical(Viewer viewer, @Nullable String unit) {
    if (unit == null || !viewer.authority().reaches(Power.PORTAL_PREVIEW, unit)) {
      throw Refusal.of(Problem.absent("unit"));
    }
    PortalView whole = world.whole();
    DirectoryView directory = whole.directory();
    Map<Set<EntitlementId>, Integer> counts = new HashMap<>();
    Map<Set<EntitlementId>, PersonId> first = new HashMap<>();
    int of = 0;
    for (Person person : directory.people()) {
      if (person.status() == PersonStatus.ACTIVE && unit.equals(person.value(Attributes.UNIT))) {
        Set<EntitlementId> held = new HashSet<>();
        whole.access().holdings(person.id()).forEach(e -> held.add(e.id()));
        counts.merge(held, 1, Integer::sum);
        first.putIfAbsent(held, person.id());
        if (++of == LOOKED_AT) {
          break;
        }
      }
    }
    int size = of;
    return counts.entrySet().stream()
        .max(Map.Entry.comparingByValue())
        .map(e -> new Typical(Objects.requireNonNull(first.get(e.getKey())), e.getValue(), size))
        .orElseThrow(
            () ->
                Refusal.invalid(
                    "preview.nobody", "unit", "Nobody active is in “%s”.".formatted(unit)));
  }

  private static PortalPreview view(PortalView whole, PersonId person, @Nullable Typical typical) {
    FrontPage front = PageViews.shown(whole, person);
    Page page = front.page();
    return new PortalPreview(
        whole.directory().person(person).map(PersonLine::of).orElse(null),
        whole.directory().person(person).map(p -> p.name().greeted()).orElse(""),
        typical == null ? null : typical.like(),
        typical == null ? null : typical.of(),
        page.id().value().toString(),
        page.face().name(),
        1 + whole.pages().indexOf(page),
        whole.pages().size(),
        why(whole, page, person),
        whole.brand().name(),
        SessionViews.BrandView.of(whole.brand()),
        PageViews.of(whole, person, front, PageViews.Own.NONE));
  }

  private static WhyView why(PortalView whole, Page page, PersonId person) {
    if (page.id().equals(FrontPageId.EVERYONE)) {
      return new WhyView(whole.pages().size() == 1 ? "everyone" : "nobody-else", "");
    }
    if (page.audience().everyone()) {
      return new WhyView("everyone", "");
    }
    for (FactValue.Subject subject : page.audience().subjects()) {
      if (whole.access().members(subject).contains(person)) {
        SubjectView view = SubjectView.of(whole.access(), subject);
        return new WhyView(view.kind(), view.name());
      }
    }
    return new WhyView("first-days", String.valueOf(page.audience().firstDays()));
  }
}
