package eleutheria.server.drafts;

import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
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
   * @param kind which sentence: {@code gives}, {@code joins} …
   * @param subject whom or what it is about
   * @param object what it gives, joins or changes; empty where there is none
   * @param before what was so; empty where that does not matter
   * @param value what is to be so
   * @param from when it begins; null for the publishing
   * @param until when it ends by itself; null if it does not
   */
  record Phrase(
      String kind,
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
            .filter(e -> e.base() == null && isExistence(e.key()))
            .map(e -> subject(e.key()))
            .collect(Collectors.toSet());
    Set<ObjectId> ended =
        edit.edits().stream()
            .filter(e -> ends(edit, e) && isExistence(e.key()))
            .map(e -> subject(e.key()))
            .collect(Collectors.toSet());
    List<Phrase> found = new ArrayList<>();
    for (Edit each : edit.edits()) {
      ObjectId subject = each.key().subject();
      boolean own = isExistence(each.key());
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

  private static ObjectId subject(FactKey key) {
    return java.util.Objects.requireNonNull(key.subject());
  }

  /** Whether a fact is what brings its thing into being. */
  private static boolean isExistence(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> true;
      case FactKey.Application k -> true;
      case FactKey.Collection k -> true;
      case FactKey.Tile k -> true;
      case FactKey.Entitlement k -> true;
      case FactKey.SeparationRule k -> true;
      case FactKey.Approved k -> true;
      default -> false;
    };
  }

  /** Whether an edit lets something end at publishing, or never begin. */
  private static boolean ends(DraftEdit edit, Edit each) {
    return each.wanted() == null || each.wanted().until().equals(edit.planned());
  }

  private @Nullable Phrase phrase(DraftEdit edit, Edit each) {
    boolean ends = ends(edit, each);
    boolean begins = each.base() == null;
    return switch (each.key()) {
      case FactKey.Grant k -> {
        Spell spell = spell(each);
        FactValue.Given given = (FactValue.Given) spell.value();
        yield timed(
            ends ? "ends" : begins ? "gives" : "until",
            names.subject(given.subject()),
            names.of(given.entitlement()),
            "",
            "",
            edit,
            each);
      }
      case FactKey.GrantReason k -> null;
      case FactKey.Membership(GroupId group, ObjectId member) ->
          timed(
              ends ? "leaves" : begins ? "joins" : "member-until",
              member instanceof PersonId person
                  ? names.of(person)
                  : "group “" + names.of(member) + "”",
              names.of(group),
              "",
              "",
              edit,
              each);
      case FactKey.Existence(ApplicationId app) -> null;
      case FactKey.Existence(EntitlementId entitlement) -> null;
      case FactKey.Existence(TileId tile) -> null;
      case FactKey.Existence(CollectionId collection) -> null;
      case FactKey.Existence(FrontPageId page) -> null;
      case FactKey.Existence(ListingId listing) -> null;
      case FactKey.Existence k ->
          timed(
              (begins ? "new-" : "ends-") + k.subject().kind().word(),
              names.of(k.subject()),
              "",
              "",
              k.subject() instanceof GroupId group ? form(group) : "",
              edit,
              each);
      case FactKey.GroupName k ->
          timed("renamed", text(each.base()), "", "", text(each.wanted()), edit, each);
      case FactKey.GroupForm k ->
          timed(
              "filter",
              names.of(k.subject()),
              "",
              form(each.base()),
              form(each.wanted()),
              edit,
              each);
      case FactKey.Ownership k ->
          timed(
              ends ? "owner-ends" : "owner",
              names.of(k.owner()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.AppState k ->
          timed(
              "app-state",
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
              "seats",
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
              "way-in",
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.WayIn.Link link
                  ? link.address()
                  : "",
              edit,
              each);
      case FactKey.Application k -> thing("application", k, begins, ends, edit, each);
      case FactKey.Entitlement k -> thing("entitlement", k, begins, ends, edit, each);
      case FactKey.Tile k -> thing("tile", k, begins, ends, edit, each);
      case FactKey.Collection k -> thing("collection", k, begins, ends, edit, each);
      case FactKey.Audience k ->
          timed(
              "audience",
              names.of(k.subject()),
              "",
              audience(each.base()),
              audience(each.wanted()),
              edit,
              each);
      case FactKey.Placed k ->
          timed(
              ends ? "unplaced" : begins ? "placed" : "replaced",
              names.of(k.tile()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.Fronted k ->
          timed(
              ends ? "unfronted" : begins ? "fronted" : "refronted",
              names.of(k.collection()),
              names.of(k.subject()),
              "",
              "",
              edit,
              each);
      case FactKey.Brand k -> timed("brand", "The organisation", "", "", "", edit, each);
      case FactKey.Bringing k -> timed("bringing", "The organisation", "", "", "", edit, each);
      case FactKey.Approved k -> thing("listing", k, begins, ends, edit, each);
      case FactKey.Front k -> thing("front-page", k, begins, ends, edit, each);
      case FactKey.FrontRank k ->
          begins || ends
              ? null
              : timed("front-page-moves", names.of(k.subject()), "", "", "", edit, each);
      case FactKey.FrontNotice k ->
          timed(
              ends ? "notice-ends" : "notice",
              names.of(k.subject()),
              "",
              text(each.base()),
              text(each.wanted()),
              edit,
              each);
      case FactKey.FrontWave k ->
          timed(
              ends ? "wave-ends" : "wave",
              names.of(k.subject()),
              "",
              audience(each.base()),
              audience(each.wanted()),
              edit,
              each);
      case FactKey.Shown k ->
          timed(ends ? "shown-ends" : "shown", names.of(k.subject()), "", "", "", edit, each);
      case FactKey.SeparationRule k -> thing("rule", k, begins, ends, edit, each);
      case FactKey.Excepted k ->
          timed(
              ends ? "excepted-ends" : "excepted",
              names.of(k.person()),
              names.of(k.one()),
              names.of(k.subject()),
              names.of(k.other()),
              edit,
              each);
      case FactKey.Attribute k ->
          timed(
              ends ? "attribute-ends" : "attribute",
              names.of(k.subject()),
              label(k.name()),
              text(each.base()),
              text(each.wanted()),
              edit,
              each);
      case FactKey.Defined k -> timed("defined", label(k.attribute()), "", "", "", edit, each);
      case FactKey.Status k ->
          timed(
              "status",
              names.of(k.subject()),
              "",
              "",
              each.wanted() != null && each.wanted().value() instanceof FactValue.Standing standing
                  ? standing.status().word()
                  : "",
              edit,
              each);
      case FactKey.Naming k -> timed("named", names.of(k.subject()), "", "", "", edit, each);
      default -> null;
    };
  }

  private Phrase thing(
      String kind, FactKey key, boolean begins, boolean ends, DraftEdit edit, Edit each) {
    return timed(
        (ends ? "ends-" : begins ? "new-" : "changed-") + kind,
        names.of(subject(key)),
        "",
        "",
        "",
        edit,
        each);
  }

  private static Phrase timed(
      String kind,
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
    return java.util.Objects.requireNonNull(edit.wanted() == null ? edit.base() : edit.wanted());
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
