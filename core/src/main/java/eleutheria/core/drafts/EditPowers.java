package eleutheria.core.drafts;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.RequestScopes;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Whether somebody may change what a draft changes. Each command has asked it of its author; who
 * publishes may be someone else, or have lost a power since. What the changes move besides, {@link
 * eleutheria.core.access.EffectJudge} and {@link eleutheria.core.access.AuthorityJudge} judge.
 */
final class EditPowers {
  private final Moment moment;
  private final Authority authority;
  private final Map<String, Problem> problems = new LinkedHashMap<>();

  private EditPowers(Moment moment) {
    this.moment = moment;
    this.authority = moment.authority();
  }

  /** Everything that this actor may not change, each power told once. */
  static List<Problem> missing(Moment moment, List<Edit> edits) {
    EditPowers powers = new EditPowers(moment);
    edits.forEach(powers::judge);
    return List.copyOf(powers.problems.values());
  }

  /** Whether all that can move access is the members of groups that this actor owns. */
  static boolean onlyOwnGroups(Moment moment, List<Edit> edits) {
    boolean any = false;
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Membership(GroupId group, ObjectId member)) {
        if (!moment.authority().owns(group)) {
          return false;
        }
        any = true;
      } else if (!(edit.key() instanceof FactKey.Placed
          || edit.key() instanceof FactKey.Collection)) {
        return false;
      }
    }
    return any;
  }

  private void judge(Edit edit) {
    switch (edit.key()) {
      case FactKey.Membership k ->
          need(Power.GROUPS_EDIT, authority.has(Power.GROUPS_EDIT) || authority.owns(k.subject()));
      case FactKey.GroupName k -> need(Power.GROUPS_EDIT, authority.has(Power.GROUPS_EDIT));
      case FactKey.GroupForm k -> need(Power.GROUPS_EDIT, authority.has(Power.GROUPS_EDIT));
      case FactKey.Existence k -> {
        switch (k.subject()) {
          case GroupId group -> need(Power.GROUPS_EDIT, authority.has(Power.GROUPS_EDIT));
          case PersonId person -> person(person);
          // What they are is judged with what is said of them.
          case ApplicationId app -> {}
          case EntitlementId entitlement -> {}
          case TileId tile -> {}
          case CollectionId collection -> {}
          case FrontPageId page -> {}
          case ListingId listing -> {}
          default -> never();
        }
      }
      case FactKey.Ownership k -> {
        switch (k.subject()) {
          case GroupId group -> need(Power.GROUPS_EDIT, authority.hasEverywhere(Power.GROUPS_EDIT));
          case ApplicationId app -> need(Power.APPS_EDIT, authority.reaches(Power.APPS_EDIT, app));
          case CollectionId collection ->
              need(Power.PORTAL_ARRANGE, authority.reaches(Power.PORTAL_ARRANGE, collection));
          case ListingId listing -> need(Power.APPS_EDIT, authority.hasEverywhere(Power.APPS_EDIT));
          default -> never();
        }
      }
      case FactKey.Grant k -> {
        grant(Power.ACCESS_END, edit.base());
        grant(Power.ACCESS_GIVE, edit.wanted());
      }
      case FactKey.GrantReason k -> {}
      case FactKey.Application k -> app(k.subject());
      case FactKey.AppState k -> app(k.subject());
      case FactKey.Seats k -> app(k.subject());
      case FactKey.WayIn k ->
          need(Power.APPS_SIGNON, authority.reaches(Power.APPS_SIGNON, k.subject()));
      case FactKey.Entitlement k -> {
        role(edit.base());
        role(edit.wanted());
      }
      case FactKey.Tile k -> need(Power.PORTAL_ARRANGE, authority.has(Power.PORTAL_ARRANGE));
      case FactKey.Collection k -> collection(k.subject(), true);
      case FactKey.Placed k -> collection(k.subject(), true);
      case FactKey.Audience k -> {
        if (k.subject() instanceof CollectionId collection) {
          collection(collection, false);
        } else {
          need(Power.PORTAL_ARRANGE, authority.hasEverywhere(Power.PORTAL_ARRANGE));
        }
      }
      case FactKey.Shown k -> need(Power.PORTAL_ARRANGE, authority.has(Power.PORTAL_ARRANGE));
      case FactKey.Brand k -> need(Power.PORTAL_BRAND, authority.hasEverywhere(Power.PORTAL_BRAND));
      case FactKey.SelfService k -> need(Power.APPS_EDIT, authority.hasEverywhere(Power.APPS_EDIT));
      case FactKey.Approved k -> listing(k.subject());
      case FactKey.Front k -> frontPage();
      case FactKey.FrontRank k -> frontPage();
      case FactKey.FrontNotice k -> frontPage();
      case FactKey.FrontWave k -> frontPage();
      case FactKey.Fronted k -> frontPage();
      case FactKey.Naming k -> person(k.subject());
      case FactKey.Status k -> person(k.subject());
      case FactKey.Attribute k -> person(k.subject());
      case FactKey.Defined k ->
          need(Power.SETTINGS_EDIT, authority.hasEverywhere(Power.SETTINGS_EDIT));
      case FactKey.SeparationRule k ->
          need(Power.ACCESS_RULES, authority.hasEverywhere(Power.ACCESS_RULES));
      case FactKey.Excepted k -> excepted(k);
      case FactKey.Link k -> never();
      case FactKey.Mandate k -> never();
      case FactKey.MandateHeld k -> never();
      case FactKey.Deputy k -> never();
      case FactKey.Route k -> need(Power.REQUESTS_CONFIGURE, RequestScopes.may(moment, k.scope()));
      case FactKey.RequestForm k ->
          need(Power.REQUESTS_CONFIGURE, RequestScopes.may(moment, k.scope()));
      case FactKey.Source k -> never();
    }
  }

  private void listing(ListingId id) {
    need(Power.APPS_EDIT, authority.hasEverywhere(Power.APPS_EDIT) || authority.owns(id));
  }

  private void grant(Power power, @Nullable Spell spell) {
    if (spell != null && spell.value() instanceof FactValue.Given given) {
      ApplicationId app = appOf(given.entitlement());
      need(power, app == null ? authority.has(power) : authority.reaches(power, app));
    }
  }

  private @Nullable ApplicationId appOf(EntitlementId id) {
    return AccessView.at(moment)
        .apps()
        .entitlement(id)
        .map(eleutheria.core.apps.Entitlement::application)
        .orElse(null);
  }

  private void role(@Nullable Spell spell) {
    if (spell != null && spell.value() instanceof FactValue.Role role) {
      app(role.application());
    }
  }

  private void app(ApplicationId app) {
    need(Power.APPS_EDIT, authority.reaches(Power.APPS_EDIT, app) || authority.owns(app));
  }

  private void collection(CollectionId collection, boolean ownerMay) {
    need(
        Power.PORTAL_ARRANGE,
        authority.reaches(Power.PORTAL_ARRANGE, collection)
            || (ownerMay && authority.owns(collection)));
  }

  private void frontPage() {
    need(Power.PORTAL_ARRANGE, authority.hasEverywhere(Power.PORTAL_ARRANGE));
  }

  private void person(PersonId person) {
    String unit =
        moment.directory().person(person).map((Person p) -> p.value(Attributes.UNIT)).orElse(null);
    need(Power.PEOPLE_EDIT, authority.reaches(Power.PEOPLE_EDIT, unit));
  }

  private void excepted(FactKey.Excepted key) {
    String unit =
        moment
            .directory()
            .person(key.person())
            .map((Person p) -> p.value(Attributes.UNIT))
            .orElse(null);
    need(Power.ACCESS_EXCEPT, authority.reaches(Power.ACCESS_EXCEPT, unit));
    if (key.person().equals(authority.person())) {
      problems.putIfAbsent(
          "own-exception",
          Problem.forbidden(
              "own-gain", "This would except you from a rule; someone else has to do that."));
    }
  }

  private void need(Power power, boolean held) {
    if (!held) {
      problems.putIfAbsent(
          power.word(),
          Problem.forbidden(
              "power", "This needs the power “" + power.word() + "”: to " + power.line() + "."));
    }
  }

  private void never() {
    problems.putIfAbsent(
        "never", Problem.forbidden("draft.kind", "A draft cannot make such a change."));
  }

  /** Things that some edits are about. */
  static List<ObjectId> objects(List<DraftEdit> edits) {
    Set<ObjectId> all = new LinkedHashSet<>();
    edits.forEach(edit -> all.addAll(edit.act().objects()));
    return List.copyOf(all);
  }
}
