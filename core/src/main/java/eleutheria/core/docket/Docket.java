package eleutheria.core.docket;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.departures.DepartureDecisions;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.drafts.Draft;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.Complaint;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Stage;
import eleutheria.core.suggestions.Suggestion;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * All that waits for one reader's decision, in order of what is due. Each capability has a reader.
 */
public final class Docket {
  /** How long before someone leaves their case lies on the docket. */
  public static final Duration AHEAD = Duration.ofDays(7);

  /** How long a draft may wait for a yes before it stands among what is late. */
  public static final Duration DRAFT_WAITS = Duration.ofDays(3);

  /** How long a breach may lie there after its rule has begun. */
  public static final Duration BREACH_WAITS = Duration.ofDays(30);

  /** How long whoever has suggested an app may wait for an answer. */
  public static final Duration SUGGESTION_WAITS = Duration.ofDays(14);

  /** How long a problem may lie there. */
  public static final Duration COMPLAINT_WAITS = Duration.ofDays(5);

  private Docket() {}

  /**
   * All that waits for anybody, as each capability keeps it.
   *
   * @param drafts those that wait for this reader or hold themselves
   * @param rules what must be kept apart; null where that is not asked for
   */
  public record Waits(
      Collection<AccessRequest> requests,
      Collection<Draft> drafts,
      @Nullable SeparationRules rules,
      Collection<Suggestion> suggestions,
      Collection<Complaint> complaints) {
    public static Waits of(Collection<AccessRequest> requests) {
      return new Waits(requests, List.of(), null, List.of(), List.of());
    }
  }

  /**
   * @param all whether to list also what others decide, for who may step in
   */
  public static List<Case> of(
      AccessView access, Waits waits, Authority reader, Instant now, boolean all) {
    SeparationRules rules = waits.rules();
    List<Case> cases = new ArrayList<>();
    for (Draft draft : waits.drafts()) {
      Instant wished = draft.plan() == null ? null : draft.plan().at();
      cases.add(
          new Case.Drafted(draft, wished == null ? draft.openedAt().plus(DRAFT_WAITS) : wished));
    }
    if (rules != null && reader.has(Power.ACCESS_EXCEPT)) {
      cases.addAll(breached(access, rules, reader));
    }
    for (AccessRequest request : waits.requests()) {
      asked(access, request, rules, reader, now, all).ifPresent(cases::add);
    }
    cases.addAll(leaving(access, reader, now));
    cases.addAll(suggest(waits.suggestions(), reader));
    cases.addAll(reported(access, waits.complaints(), reader));
    cases.sort(Comparator.comparing(Case::due));
    return cases;
  }

  // ---- requests

  private static Optional<Case> asked(
      AccessView access,
      AccessRequest request,
      @Nullable SeparationRules rules,
      Authority reader,
      Instant now,
      boolean all) {
    if (!(request.stage() instanceof Stage.Open open)
        || open.from().isAfter(now)
        || request.wish().isOf(reader.person())) {
      return Optional.empty();
    }
    Optional<Entitlement> entitlement = access.apps().entitlement(request.entitlement());
    if (entitlement.isEmpty()) {
      return Optional.empty();
    }
    Deciders deciders = Deciders.of(access, request, open);
    PersonId person = reader.person();
    boolean own = deciders.include(person);
    boolean may = own || (all && Deciders.maySteward(access, reader, request.wish()));
    if (!may) {
      return Optional.empty();
    }
    return Optional.of(
        new Case.Asked(
            request,
            open.step(),
            deciders,
            open.lapses(),
            // A question is about one of them, and its answer too.
            open instanceof Stage.AskedBack
                ? null
                : new Case.Likeness.OfRequest(
                    request.entitlement(),
                    request.route(),
                    open.step(),
                    request.lastDay(),
                    request.form(),
                    access.entitled(request.person(), request.entitlement()),
                    deciders.behalf(person),
                    rules == null ? Set.of() : apart(access, request, rules))));
  }

  private static Set<Case.Apart> apart(
      AccessView access, AccessRequest request, SeparationRules rules) {
    return rules.caused(access, request.person(), request.entitlement()).stream()
        .filter(conflict -> rules.accepted(conflict).isEmpty())
        .map(conflict -> new Case.Apart(conflict.rule(), conflict.one(), conflict.other()))
        .collect(Collectors.toSet());
  }

  // ---- what no one person may hold together

  /** One case for each rule that people within reach break; the older the rule, the earlier. */
  private static List<Case> breached(AccessView access, SeparationRules rules, Authority reader) {
    List<Case> cases = new ArrayList<>();
    Set<Conflict> conflicts = rules.conflicts(access);
    for (SeparationRules.Rule rule : rules.rules()) {
      long people =
          conflicts.stream()
              .filter(c -> c.rule().equals(rule.id()))
              .map(Conflict::person)
              .distinct()
              .flatMap(p -> access.directory().person(p).stream())
              .filter(p -> reader.reaches(Power.ACCESS_EXCEPT, p.value(Attributes.UNIT)))
              .count();
      if (people > 0) {
        cases.add(new Case.Breached(rule, (int) people, rule.from().plus(BREACH_WAITS)));
      }
    }
    return cases;
  }

  // ---- departures

  private static List<Case> leaving(AccessView access, Authority reader, Instant now) {
    List<Case> cases = new ArrayList<>();
    if (!reader.has(Power.DEPARTURES_RUN)) {
      return cases;
    }
    Instant horizon = now.plus(AHEAD);
    for (Person person : access.directory().people()) {
      if (person.next() == PersonStatus.DEPARTED
          && person.until().isBefore(horizon)
          && reader.reaches(Power.DEPARTURES_RUN, person.value(Attributes.UNIT))) {
        List<ObjectId> lone = DepartureDecisions.lone(access.directory(), person.id());
        if (!lone.isEmpty()) {
          cases.add(
              new Case.Leaving(
                  person.id(), person.until(), access.holdings(person.id()).size(), lone));
        }
      }
    }
    return cases;
  }

  // ---- suggested apps, and problems with tiles

  private static List<Case> suggest(Collection<Suggestion> suggestions, Authority reader) {
    List<Case> cases = new ArrayList<>();
    if (reader.hasEverywhere(Power.APPS_EDIT)) {
      for (Suggestion suggestion : suggestions) {
        if (suggestion.waits()) {
          cases.add(
              new Case.Suggested(
                  suggestion,
                  suggestion.at().plus(SUGGESTION_WAITS),
                  new Case.Likeness.OfSuggestion(
                      suggestion.likeness(), suggestion.by().equals(reader.person()))));
        }
      }
    }
    return cases;
  }

  private static List<Case> reported(
      AccessView access, Collection<Complaint> complaints, Authority reader) {
    List<Case> cases = new ArrayList<>();
    for (Complaint complaint : complaints) {
      if (complaint.waits() && complaint.isFor(access, reader)) {
        cases.add(new Case.Reported(complaint, complaint.at().plus(COMPLAINT_WAITS)));
      }
    }
    return cases;
  }

  /** Folds what is alike into one, each fold at the place of its first. */
  public static List<List<Case>> folded(List<Case> cases) {
    Map<Object, List<Case>> folds = new LinkedHashMap<>();
    for (Case each : cases) {
      Object key = each.likeness() == null ? each : each.likeness();
      folds.computeIfAbsent(key, k -> new ArrayList<>()).add(each);
    }
    return List.copyOf(folds.values());
  }
}
