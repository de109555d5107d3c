package eleutheria.server.access;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Separation rules (separation of duties), their breaches and exceptions. */
@NullMarked
@RestController
class SeparationController {
  private static final int MOST_BREACHES = 500;

  private final World world;
  private final Commands commands;

  SeparationController(World world, Commands commands) {
    this.world = world;
    this.commands = commands;
  }

  /**
   * @param breaches how many hold a pair that nobody has accepted, within the reader's reach
   * @param accepted how many hold one that is accepted until a day
   */
  record RuleLine(
      String id,
      String name,
      String why,
      Instant from,
      List<EntitlementRef> one,
      List<EntitlementRef> other,
      int breaches,
      int accepted) {}

  record RulesView(List<RuleLine> rules, boolean mayEdit, long position) {}

  /**
   * @param acceptedUntil null where nobody has accepted it
   */
  record Breach(
      PersonLine person,
      EntitlementRef one,
      EntitlementRef other,
      @Nullable Instant acceptedUntil,
      boolean mayAccept) {}

  record RuleView(RuleLine rule, List<Breach> breaches, int more, boolean mayEdit, long position) {}

  record SidesForm(
      @NotNull @Size(max = 200) List<@NotNull UUID> one,
      @NotNull @Size(max = 200) List<@NotNull UUID> other) {
    FactValue.Separation named(String name, String why) {
      return new FactValue.Separation(name, why, set(one), set(other));
    }

    private static SortedSet<EntitlementId> set(List<UUID> ids) {
      SortedSet<EntitlementId> found = new TreeSet<>();
      ids.forEach(id -> found.add(new EntitlementId(id)));
      return found;
    }
  }

  record RuleTerms(
      @NotNull @Size(max = 300) String name,
      @NotNull @Size(max = 1000) String why,
      @NotNull @Valid SidesForm sides) {
    FactValue.Separation value() {
      return sides.named(name, why);
    }
  }

  record RuleForm(
      @Nullable @Valid RuleTerms base,
      @NotNull @Valid RuleTerms wanted,
      @Nullable LocalDate from,
      @NotNull @Size(max = 1000) String reason) {}

  record ExceptionForm(
      @NotNull UUID person,
      @NotNull UUID one,
      @NotNull UUID other,
      @NotNull LocalDate until,
      @NotNull @Size(max = 1000) String reason) {}

  // ---- reading

  @GetMapping("/api/rules")
  @Needs({Power.ACCESS_RULES, Power.ACCESS_EXCEPT, Power.ACCESS_READ})
  RulesView rules(Viewer viewer) {
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          AccessReach reach = new AccessReach(viewer.authority(), world.now());
          SeparationRules rules = SeparationRules.of(facts, access.at());
          return new RulesView(
              all(facts, rules, access.at()).stream()
                  .map(rule -> line(access, reach, rules, rule))
                  .toList(),
              viewer.authority().hasEverywhere(Power.ACCESS_RULES),
              world.position());
        });
  }

  /** Those in force, and those that begin on a later day. */
  private static List<SeparationRules.Rule> all(Facts facts, SeparationRules inForce, Instant at) {
    List<SeparationRules.Rule> all = new ArrayList<>(inForce.rules());
    for (FactKey.SeparationRule key : facts.keys(FactKey.SeparationRule.class)) {
      if (inForce.rule(key.subject()).isEmpty()) {
        facts.from(key, at).stream()
            .findFirst()
            .ifPresent(
                spell ->
                    all.add(
                        new SeparationRules.Rule(
                            key.subject(), (FactValue.Separation) spell.value(), spell.from())));
      }
    }
    return all;
  }

  @GetMapping("/api/rules/{id}")
  @Needs({Power.ACCESS_RULES, Power.ACCESS_EXCEPT, Power.ACCESS_READ})
  RuleView rule(Viewer viewer, @PathVariable UUID id) {
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          AccessReach reach = new AccessReach(viewer.authority(), world.now());
          SeparationRules rules = SeparationRules.of(facts, access.at());
          SeparationRules.Rule rule =
              all(facts, rules, access.at()).stream()
                  .filter(r -> r.id().equals(new RuleId(id)))
                  .findFirst()
                  .orElseThrow(() -> Refusal.of(Problem.absent("separation rule")));
          List<Breach> breaches = breaches(viewer, access, reach, rules, rule);
          return new RuleView(
              line(access, reach, rules, rule),
              breaches.stream().limit(MOST_BREACHES).toList(),
              Math.max(0, breaches.size() - MOST_BREACHES),
              viewer.authority().hasEverywhere(Power.ACCESS_RULES),
              world.position());
        });
  }

  /** Who would break a rule that is not there yet. */
  @PostMapping("/api/rules/preview")
  @Needs(Power.ACCESS_RULES)
  List<Breach> preview(Viewer viewer, @Valid @RequestBody SidesForm sides) {
    AccessView access = world.whole().access();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    return world.look(
        (facts, whole) ->
            breaches(
                    viewer,
                    access,
                    reach,
                    SeparationRules.of(facts, access.at()),
                    new SeparationRules.Rule(
                        new RuleId(new UUID(0, 0)), sides.named("", ""), access.at()))
                .stream()
                .limit(MOST_BREACHES)
                .toList());
  }

  private static List<Breach> breaches(
      Viewer viewer,
      AccessView access,
      AccessReach reach,
      SeparationRules rules,
      SeparationRules.Rule rule) {
    List<Breach> found = new ArrayList<>();
    for (Conflict conflict : SeparationRules.breaches(rule.id(), rule.terms(), access)) {
      Person person = access.directory().person(conflict.person()).orElseThrow();
      Entitlement one = access.apps().entitlement(conflict.one()).orElse(null);
      Entitlement other = access.apps().entitlement(conflict.other()).orElse(null);
      if (one == null || other == null || !both(reach, person, one, other)) {
        continue;
      }
      found.add(
          new Breach(
              PersonLine.by(reach, person),
              EntitlementRef.of(access.apps(), one),
              EntitlementRef.of(access.apps(), other),
              rules.accepted(conflict).orElse(null),
              !person.id().equals(viewer.person())
                  && viewer
                      .authority()
                      .reaches(Power.ACCESS_EXCEPT, AccessController.unit(person))));
    }
    found.sort(
        Comparator.comparing((Breach b) -> b.acceptedUntil() != null)
            .thenComparing(b -> b.person().familyFirst())
            .thenComparing(b -> b.person().id()));
    return found;
  }

  /** A breach is seen by whoever may see both sides of it. */
  private static boolean both(
      AccessReach reach, Person person, Entitlement one, Entitlement other) {
    return reach.sees(person, one) && reach.sees(person, other);
  }

  private RuleLine line(
      AccessView access, AccessReach reach, SeparationRules rules, SeparationRules.Rule rule) {
    int breaches = 0;
    int accepted = 0;
    for (Conflict conflict : SeparationRules.breaches(rule.id(), rule.terms(), access)) {
      Person person = access.directory().person(conflict.person()).orElseThrow();
      Entitlement one = access.apps().entitlement(conflict.one()).orElse(null);
      Entitlement other = access.apps().entitlement(conflict.other()).orElse(null);
      if (one != null && other != null && both(reach, person, one, other)) {
        if (rules.accepted(conflict).isPresent()) {
          accepted++;
        } else {
          breaches++;
        }
      }
    }
    return new RuleLine(
        rule.id().value().toString(),
        rule.terms().name(),
        rule.terms().why(),
        rule.from(),
        refs(access, rule.terms().one()),
        refs(access, rule.terms().other()),
        breaches,
        accepted);
  }

  private static List<EntitlementRef> refs(AccessView access, Set<EntitlementId> ids) {
    return ids.stream()
        .flatMap(id -> access.apps().entitlement(id).stream())
        .map(e -> EntitlementRef.of(access.apps(), e))
        .sorted(Comparator.comparing(EntitlementRef::title))
        .toList();
  }

  // ---- acting

  @PostMapping("/api/rules")
  @Needs(value = Power.ACCESS_RULES, foresees = true)
  Receipt make(Viewer viewer, @Valid @RequestBody RuleForm form, IdempotencyKey repeatKey) {
    return commands.perform(
        viewer,
        repeatKey.value(),
        RuleId.class,
        moment ->
            SeparationDecisions.set(
                moment, null, null, form.wanted().value(), form.from(), form.reason()));
  }

  @PutMapping("/api/rules/{id}")
  @Needs(value = Power.ACCESS_RULES, foresees = true)
  Receipt change(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody RuleForm form) {
    return commands.perform(
        viewer,
        null,
        RuleId.class,
        moment ->
            SeparationDecisions.set(
                moment,
                new RuleId(id),
                form.base() == null ? null : form.base().value(),
                form.wanted().value(),
                form.from(),
                form.reason()));
  }

  @DeleteMapping("/api/rules/{id}")
  @Needs(value = Power.ACCESS_RULES, foresees = true)
  Receipt end(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(defaultValue = "") @Size(max = 1000) String reason) {
    return commands.perform(
        viewer,
        null,
        RuleId.class,
        moment -> SeparationDecisions.end(moment, new RuleId(id), reason));
  }

  /** Accepts one breach until the end of a day. */
  @PostMapping("/api/rules/{id}/exceptions")
  @Needs(value = Power.ACCESS_EXCEPT, fresh = true, foresees = true)
  Receipt accept(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody ExceptionForm form,
      IdempotencyKey repeatKey) {
    return commands.perform(
        viewer,
        repeatKey.value(),
        RuleId.class,
        moment ->
            SeparationDecisions.except(
                moment,
                new Conflict(
                    new RuleId(id),
                    new PersonId(form.person()),
                    new EntitlementId(form.one()),
                    new EntitlementId(form.other())),
                form.until(),
                form.reason()));
  }
}
