package eleutheria.server.drafts;

import static java.util.Objects.requireNonNull;

import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.server.ledger.ThingNames;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What an edit of a draft wants, in parts that the web makes sentences of. */
final class Phrases {
  static final int MOST = 6;

  private final ThingNames names;
  private final Facts facts;

  /**
   * One wish.
   *
   * @param kind which sentence
   * @param subject whom or what it is about
   * @param object what it gives, joins or changes; empty where there is none
   * @param before what was so; empty where that does not matter
   * @param value what is to be so
   * @param from when it begins; null for the publishing
   * @param until when it ends by itself; null if it does not
   */
  record Phrase(
      PhraseKind kind,
      String subject,
      String object,
      String before,
      String value,
      @Nullable Instant from,
      @Nullable Instant until) {}

  /**
   * @param facts with the draft, so that what it makes has a name
   */
  Phrases(Facts facts) {
    this.facts = facts;
    this.names = new ThingNames(facts);
  }

  List<Phrase> of(DraftEdit edit) {
    Set<ObjectId> made =
        edit.edits().stream()
            .filter(e -> e.base() == null && swallows(e.key()))
            .map(e -> subject(e.key()))
            .collect(Collectors.toSet());
    Set<ObjectId> ended =
        edit.edits().stream()
            .filter(e -> ends(edit, e) && swallows(e.key()))
            .map(e -> subject(e.key()))
            .collect(Collectors.toSet());
    List<Phrase> found = new ArrayList<>();
    for (Edit each : edit.edits()) {
      ObjectId subject = each.key().subject();
      boolean own = swallows(each.key());
      if (own
          || subject == null
          || !(made.contains(subject) || ended.contains(subject))
          || each.key() instanceof FactKey.Membership) {
        Phrase phrase = phrase(edit, each);
        if (phrase != null) {
          found.add(phrase);
        }
      }
    }
    return found;
  }

  /**
   * Whether a fact that begins or ends says all there is to say of its thing. Whom a front page
   * reaches, and before which others it comes, is told beside.
   */
  private static boolean swallows(FactKey key) {
    return key instanceof FactKey.Beginning && !(key instanceof FactKey.Front);
  }

  private static ObjectId subject(FactKey key) {
    return requireNonNull(key.subject());
  }

  /** Whether an edit lets something end at publishing, or never begin. */
  private static boolean ends(DraftEdit edit, Edit each) {
    return each.wanted() == null || each.wanted().until().equals(edit.planned());
  }

  private @Nullable Phrase phrase(DraftEdit edit, Edit each) {
    return switch (each.key()) {
      case FactKey.OfDirectory k -> directory(k, edit, each);
      case FactKey.OfMandates k -> mandates(k, edit, each);
      case FactKey.OfApps k -> apps(k, edit, each);
      case FactKey.OfAccess k -> access(k, edit, each);
      case FactKey.OfRequests k -> requests(k, edit, each);
      case FactKey.OfPortal k -> portal(k, edit, each);
      case FactKey.OfSelfService k -> selfService(k, edit, each);
    };
  }

  private @Nullable Phrase directory(FactKey.OfDirectory key, DraftEdit edit, Edit each) {
    boolean ends = ends(edit, each);
    boolean begins = each.base() == null;
    return switch (key) {
      case FactKey.Membership(GroupId group, ObjectId member) ->
          timed(
              ends ? PhraseKind.LEAVES : begins ? PhraseKind.JOINS : PhraseKind.MEMBER_UNTIL,
              member instanceof PersonId person
                  ? names.of(person)
                  : "group “" + names.of(member) + "”",
              names.of(group),
              "",
              "",
              edit,
              each);
      case FactKey.Existence(GroupId group) ->
          timed(
              begins ? PhraseKind.NEW_GROUP : PhraseKind.ENDS_GROUP,
              names.of(group),
              "",
              "",
              form(group),
              edit,
              each);
      case FactKey.Existence(PersonId person) ->
          begins ? timed(PhraseKind.NEW_PERSON, names.of(person), "", "", "", edit, each) : null;
      // What else begins is told by the fact that describes it.
      case FactKey.Existence k -> null;
      case FactKey.GroupName k ->
          begins || ends
              ? null
              : timed(
                  PhraseKind.RENAMED, text(each.base()), "", "", text(each.wanted()), edit, each);
      case FactKey.GroupForm k ->
          timed(
              PhraseKind.FILTER,
              names.of(k.subject()),
              "",
              form(each.base()),
              form(each.wanted()),
              edit,
              each);
      case FactKey.Ownership k ->
          timed(
              ends ? PhraseKind.OWNER_ENDS : PhraseKind.OWNER,
              names.of(k.owner()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.Attribute k ->
          timed(
              ends ? PhraseKind.ATTRIBUTE_ENDS : PhraseKind.ATTRIBUTE,
              names.of(k.subject()),
              label(k.name()),
              text(each.base()),
              text(each.wanted()),
              edit,
              each);
      case FactKey.Defined k ->
          timed(PhraseKind.DEFINED, label(k.attribute()), "", "", "", edit, each);
      case FactKey.Status k ->
          timed(
              PhraseKind.STATUS,
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.Standing standing
                  ? standing.status().word()
                  : "",
              edit,
              each);
      case FactKey.Naming k ->
          timed(PhraseKind.NAMED, names.of(k.subject()), "", "", "", edit, each);
      // Never changed in a draft.
      case FactKey.Link k -> null;
      case FactKey.Source k -> null;
    };
  }

  private @Nullable Phrase requests(FactKey.OfRequests key, DraftEdit edit, Edit each) {
    return switch (key) {
      // Never changed in a draft.
      case FactKey.Deputy k -> null;
      case FactKey.Route k ->
          timed(
              ends(edit, each) ? PhraseKind.ROUTE_ENDS : PhraseKind.ROUTE,
              names.scope(k.scope()),
              "",
              route(each.base()),
              route(each.wanted()),
              edit,
              each);
      case FactKey.RequestForm k ->
          timed(
              ends(edit, each) ? PhraseKind.REQUEST_FORM_ENDS : PhraseKind.REQUEST_FORM,
              names.scope(k.scope()),
              "",
              requestForm(each.base()),
              requestForm(each.wanted()),
              edit,
              each);
    };
  }

  private static String requestForm(@Nullable Spell spell) {
    return spell != null && spell.value() instanceof FactValue.RequestForm form
        ? ThingNames.form(form)
        : "";
  }

  private String route(@Nullable Spell spell) {
    return spell != null && spell.value() instanceof FactValue.Route route
        ? names.route(route)
        : "";
  }

  private @Nullable Phrase mandates(FactKey.OfMandates key, DraftEdit edit, Edit each) {
    return switch (key) {
      case FactKey.Mandate k -> null;
      case FactKey.MandateHeld k -> null;
    };
  }

  private @Nullable Phrase apps(FactKey.OfApps key, DraftEdit edit, Edit each) {
    return switch (key) {
      case FactKey.AppState k ->
          timed(
              PhraseKind.APP_STATE,
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.AppState state
                  ? state.state().word()
                  : "",
              edit,
              each);
      case FactKey.Seats k ->
          timed(
              PhraseKind.SEATS,
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.Seats seats
                  ? String.valueOf(seats.count())
                  : "0",
              edit,
              each);
      case FactKey.WayIn k ->
          timed(
              PhraseKind.WAY_IN,
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.WayIn.Link link
                  ? link.address()
                  : "",
              edit,
              each);
      case FactKey.Application k ->
          thing(PhraseKind.NEW_APPLICATION, PhraseKind.CHANGED_APPLICATION, null, k, edit, each);
      case FactKey.Entitlement k ->
          thing(
              PhraseKind.NEW_ENTITLEMENT,
              PhraseKind.CHANGED_ENTITLEMENT,
              PhraseKind.ENDS_ENTITLEMENT,
              k,
              edit,
              each);
    };
  }

  private @Nullable Phrase access(FactKey.OfAccess key, DraftEdit edit, Edit each) {
    boolean ends = ends(edit, each);
    boolean begins = each.base() == null;
    return switch (key) {
      case FactKey.Grant k -> {
        Spell spell = spell(each);
        FactValue.Given given = (FactValue.Given) spell.value();
        yield timed(
            ends ? PhraseKind.ENDS : begins ? PhraseKind.GIVES : PhraseKind.UNTIL,
            names.subject(given.subject()),
            names.of(given.entitlement()),
            "",
            "",
            edit,
            each);
      }
      case FactKey.GrantReason k -> null;
      case FactKey.SeparationRule k ->
          thing(PhraseKind.NEW_RULE, PhraseKind.CHANGED_RULE, PhraseKind.ENDS_RULE, k, edit, each);
      case FactKey.Excepted k ->
          timed(
              ends ? PhraseKind.EXCEPTED_ENDS : PhraseKind.EXCEPTED,
              names.of(k.person()),
              names.of(k.one()),
              names.of(k.subject()),
              names.of(k.other()),
              edit,
              each);
    };
  }

  private @Nullable Phrase portal(FactKey.OfPortal key, DraftEdit edit, Edit each) {
    boolean ends = ends(edit, each);
    boolean begins = each.base() == null;
    return switch (key) {
      case FactKey.Tile k ->
          thing(PhraseKind.NEW_TILE, PhraseKind.CHANGED_TILE, PhraseKind.ENDS_TILE, k, edit, each);
      case FactKey.Collection k ->
          thing(
              PhraseKind.NEW_COLLECTION,
              PhraseKind.CHANGED_COLLECTION,
              PhraseKind.ENDS_COLLECTION,
              k,
              edit,
              each);
      case FactKey.Audience k ->
          timed(
              PhraseKind.AUDIENCE,
              names.of(k.subject()),
              "",
              audience(each.base()),
              audience(each.wanted()),
              edit,
              each);
      case FactKey.Placed k ->
          timed(
              ends ? PhraseKind.UNPLACED : begins ? PhraseKind.PLACED : PhraseKind.REPLACED,
              names.of(k.tile()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.Fronted k ->
          timed(
              ends ? PhraseKind.UNFRONTED : begins ? PhraseKind.FRONTED : PhraseKind.REFRONTED,
              names.of(k.collection()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.Brand k -> timed(PhraseKind.BRAND, "The organisation", "", "", "", edit, each);
      case FactKey.Front k ->
          thing(
              PhraseKind.NEW_FRONT_PAGE,
              PhraseKind.CHANGED_FRONT_PAGE,
              PhraseKind.ENDS_FRONT_PAGE,
              k,
              edit,
              each);
      case FactKey.FrontRank k ->
          begins || ends
              ? null
              : timed(PhraseKind.FRONT_PAGE_MOVES, names.of(k.subject()), "", "", "", edit, each);
      case FactKey.FrontNotice k ->
          timed(
              ends ? PhraseKind.NOTICE_ENDS : PhraseKind.NOTICE,
              names.of(k.subject()),
              "",
              text(each.base()),
              text(each.wanted()),
              edit,
              each);
      case FactKey.FrontWave k ->
          timed(
              ends ? PhraseKind.WAVE_ENDS : PhraseKind.WAVE,
              names.of(k.subject()),
              "",
              audience(each.base()),
              audience(each.wanted()),
              edit,
              each);
      case FactKey.Shown k ->
          timed(
              ends ? PhraseKind.SHOWN_ENDS : PhraseKind.SHOWN,
              names.of(k.subject()),
              "",
              "",
              "",
              edit,
              each);
    };
  }

  private @Nullable Phrase selfService(FactKey.OfSelfService key, DraftEdit edit, Edit each) {
    return switch (key) {
      case FactKey.SelfService k ->
          timed(PhraseKind.SELF_SERVICE, "The organisation", "", "", "", edit, each);
      case FactKey.Approved k ->
          thing(
              PhraseKind.NEW_LISTING,
              PhraseKind.CHANGED_LISTING,
              PhraseKind.ENDS_LISTING,
              k,
              edit,
              each);
    };
  }

  private @Nullable Phrase thing(
      PhraseKind made,
      PhraseKind changed,
      @Nullable PhraseKind ended,
      FactKey key,
      DraftEdit edit,
      Edit each) {
    PhraseKind kind = ends(edit, each) ? ended : each.base() == null ? made : changed;
    return kind == null ? null : timed(kind, names.of(subject(key)), "", "", "", edit, each);
  }

  private static Phrase timed(
      PhraseKind kind,
      String subject,
      String object,
      String before,
      String value,
      DraftEdit edit,
      Edit each) {
    Spell wanted = each.wanted();
    boolean ends = ends(edit, each);
    Instant from =
        ends
                || wanted == null
                || each.base() != null && wanted.from().equals(each.base().from())
                || !wanted.from().isAfter(edit.planned())
            ? null
            : wanted.from();
    Instant until =
        ends || wanted == null || wanted.until().equals(Moments.FOREVER) ? null : wanted.until();
    return new Phrase(kind, subject, object, before, value, from, until);
  }

  private static Spell spell(Edit edit) {
    return requireNonNull(edit.wanted() == null ? edit.base() : edit.wanted());
  }

  private String form(GroupId group) {
    List<Spell> spells = facts.spells(new FactKey.GroupForm(group));
    return spells.isEmpty() ? "" : form(spells.getLast());
  }

  private String form(@Nullable Spell spell) {
    return spell != null && spell.value() instanceof FactValue.Form.ByFilter filter
        ? names.words().tell(filter.filter())
        : "";
  }

  private static String text(@Nullable Spell spell) {
    return spell != null && spell.value() instanceof FactValue.Text text ? text.text() : "";
  }

  private String audience(@Nullable Spell spell) {
    return spell != null && spell.value() instanceof FactValue.Audience audience
        ? names.audience(audience)
        : "";
  }

  private String label(String attribute) {
    List<Spell> spells = facts.spells(new FactKey.Defined(attribute));
    return !spells.isEmpty() && spells.getLast().value() instanceof FactValue.Definition d
        ? d.label()
        : attribute;
  }
}
