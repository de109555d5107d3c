package eleutheria.core.suggestions;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Pictures;
import eleutheria.core.apps.WebAddress;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Owners;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** Who may keep links and suggest apps, and what is on the approved list. */
public final class SelfServiceDecisions {
  public static final int MOST_RULES = 20;
  public static final int LONGEST_CATEGORY = 30;

  private SelfServiceDecisions() {}

  /**
   * @param audience what is wrong with an audience
   */
  public static Outcome<Integer> setPolicy(
      Moment moment,
      FactValue.SelfService base,
      FactValue.SelfService wanted,
      Function<FactValue.Audience, List<Problem>> audience) {
    if (!moment.authority().hasEverywhere(Power.APPS_EDIT)) {
      return Outcome.refused(missing());
    }
    if (!SelfService.policy(moment.facts(), moment.at()).equals(base)) {
      return Outcome.refused(Problem.stale("rules", "Someone has changed this meanwhile."));
    }
    List<Problem> problems = new ArrayList<>();
    if (wanted.rules().size() > MOST_RULES) {
      problems.add(
          Problem.invalid("selfService.many", "rules", "At most %d lines.".formatted(MOST_RULES)));
    }
    wanted.rules().forEach(rule -> problems.addAll(audience.apply(rule.audience())));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(FactKey.SelfService.ORGANISATION, wanted);
    return Outcome.done(Act.of(ActName.SELF_SERVICE_SET), edits.list(), wanted.rules().size());
  }

  /**
   * Puts something on the approved list.
   *
   * @param keepers who answers for it
   */
  public static Outcome<ListingId> list(
      Moment moment, FactValue.Listing wanted, Collection<PersonId> keepers) {
    if (!moment.authority().hasEverywhere(Power.APPS_EDIT)) {
      return Outcome.refused(missing());
    }
    List<Problem> problems = problems(moment, null, wanted);
    problems.addAll(Owners.problems(moment, keepers));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    ListingId id = new ListingId(moment.ids().get());
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.Approved(id), clean(wanted));
    new LinkedHashSet<>(keepers)
        .forEach(k -> edits.put(new FactKey.Ownership(id, k), FactValue.Present.PRESENT));
    return Outcome.done(Act.of(ActName.APPROVED_LIST_ADD, id), edits.list(), id);
  }

  /** Changes an entry; those who keep it may as well. */
  public static Outcome<ListingId> change(
      Moment moment, ListingId id, FactValue.Listing base, FactValue.Listing wanted) {
    Optional<Approved.Entry> found = Approved.at(moment.facts(), moment.at()).entry(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("entry of the approved list"));
    }
    if (!keeps(moment, id)) {
      return Outcome.refused(missing());
    }
    if (!found.get().listing().equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has changed “%s” meanwhile.".formatted(base.name())));
    }
    List<Problem> problems = problems(moment, id, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Approved(id), clean(wanted));
    return Outcome.done(Act.of(ActName.APPROVED_LIST_CHANGE, id), edits.list(), id);
  }

  /** Takes an entry off the list: links to it no longer open where the list is what allows them. */
  public static Outcome<ListingId> end(Moment moment, ListingId id) {
    if (Approved.at(moment.facts(), moment.at()).entry(id).isEmpty()) {
      return Outcome.refused(Problem.absent("entry of the approved list"));
    }
    if (!keeps(moment, id)) {
      return Outcome.refused(missing());
    }
    Edits edits = moment.edits();
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    return Outcome.done(Act.of(ActName.APPROVED_LIST_REMOVE, id), edits.list(), id);
  }

  public static Outcome<ListingId> setKeepers(
      Moment moment, ListingId id, Collection<PersonId> base, Collection<PersonId> keepers) {
    if (Approved.at(moment.facts(), moment.at()).entry(id).isEmpty()) {
      return Outcome.refused(Problem.absent("entry of the approved list"));
    }
    if (!moment.authority().hasEverywhere(Power.APPS_EDIT)) {
      return Outcome.refused(missing());
    }
    return Owners.set(
        moment, id, ActName.APPROVED_LIST_OWNERS, moment.directory().owners(id), base, keepers);
  }

  private static boolean keeps(Moment moment, ListingId id) {
    return moment.authority().hasEverywhere(Power.APPS_EDIT) || moment.authority().owns(id);
  }

  private static List<Problem> problems(
      Moment moment, @org.jspecify.annotations.Nullable ListingId id, FactValue.Listing wanted) {
    List<Problem> problems = new ArrayList<>();
    if (wanted.name().isBlank()) {
      problems.add(Problem.invalid("listing.no-name", "name", "Give the entry a name."));
    }
    AppDecisions.length(problems, "name", wanted.name(), AppDecisions.LONGEST_NAME);
    AppDecisions.length(problems, "line", wanted.line(), AppDecisions.LONGEST_LINE);
    if (wanted.category().isBlank()) {
      problems.add(
          Problem.invalid(
              "listing.no-kind", "category", "Say what kind it is, so people can find it."));
    }
    AppDecisions.length(problems, "category", wanted.category(), LONGEST_CATEGORY);
    List<Problem> address = WebAddress.problems("address", wanted.address());
    problems.addAll(address);
    if (address.isEmpty()) {
      Approved.at(moment.facts(), moment.at()).entries().stream()
          .filter(entry -> !entry.id().equals(id))
          .filter(
              entry ->
                  Approved.likeness(entry.listing().address())
                      .equals(Approved.likeness(wanted.address())))
          .findFirst()
          .ifPresent(
              entry ->
                  problems.add(
                      Problem.invalid(
                          "listing.twice",
                          "address",
                          "It is on the list already, as “%s”."
                              .formatted(entry.listing().name()))));
    }
    if (!Pictures.PICTURES.contains(wanted.picture())) {
      problems.add(Problem.invalid("tile.picture", "picture", "There is no such picture."));
    }
    if (!Pictures.HUES.contains(wanted.hue())) {
      problems.add(Problem.invalid("tile.hue", "hue", "There is no such colour."));
    }
    return problems;
  }

  private static FactValue.Listing clean(FactValue.Listing l) {
    return new FactValue.Listing(
        l.name().strip(),
        l.address().strip(),
        l.line().strip(),
        l.category().strip(),
        l.picture(),
        l.hue());
  }

  static Problem missing() {
    return Problem.forbidden(
        "power",
        "This needs the power “"
            + Power.APPS_EDIT.word()
            + "” for all applications: to "
            + Power.APPS_EDIT.line()
            + ".");
  }
}
