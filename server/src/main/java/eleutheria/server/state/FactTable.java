package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.directory.NameOrder;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.FactJson;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * How facts of one kind stand in their table: the fields of the key and of the value, in order, and
 * the way there and back.
 */
record FactTable(
    Class<? extends FactKey> kind,
    Table<?> table,
    List<Field<?>> keyFields,
    Function<FactKey, List<Object>> keyOf,
    List<Field<?>> valueFields,
    Function<FactValue, List<@Nullable Object>> valueOf,
    Function<Record, FactKey> readKey,
    BiFunction<Record, FactKey, FactValue> readValue) {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  Field<Instant> from() {
    return named(NAMING.VALID_FROM);
  }

  Field<Instant> until() {
    return named(NAMING.VALID_UNTIL);
  }

  Field<Long> opened() {
    return named(NAMING.OPENED);
  }

  Field<Long> ended() {
    return named(NAMING.ENDED);
  }

  /** The table's own field of the same name and type; every fact table has the four. */
  private <T> Field<T> named(Field<T> like) {
    Field<T> found = table.field(like);
    if (found == null) {
      throw new IllegalStateException(table.getName() + " has no " + like.getName());
    }
    return found;
  }

  Spell spell(Record record, FactKey key) {
    return new Spell(readValue.apply(record, key), record.get(from()), record.get(until()));
  }

  static FactTable of(FactKey key) {
    for (FactTable table : ALL) {
      if (table.kind.isInstance(key)) {
        return table;
      }
    }
    throw new IllegalStateException("no table for " + key);
  }

  private static final BiFunction<Record, FactKey, FactValue> PRESENT =
      (record, key) -> FactValue.Present.PRESENT;

  private static final Function<FactValue, List<@Nullable Object>> NOTHING = value -> List.of();

  /** In the order in which foreign keys let them be read and written. */
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Existence.class,
              EXISTENCE,
              List.of(EXISTENCE.OBJECT_ID),
              key -> List.of(((FactKey.Existence) key).subject().value()),
              List.of(),
              NOTHING,
              r -> {
                throw new IllegalStateException("existence is read with its thing");
              },
              PRESENT),
          new FactTable(
              FactKey.Source.class,
              SOURCE,
              List.of(SOURCE.SOURCE_ID),
              key -> List.of(((FactKey.Source) key).subject().value()),
              List.of(SOURCE.NAME, SOURCE.COLUMNS),
              value -> {
                FactValue.Delivery v = (FactValue.Delivery) value;
                return List.of(v.name(), CanonicalJson.write(v.columns()));
              },
              r -> new FactKey.Source(new SourceId(r.get(SOURCE.SOURCE_ID))),
              (r, key) -> {
                Map<String, String> columns = new TreeMap<>();
                map(r.get(SOURCE.COLUMNS)).forEach((c, t) -> columns.put((String) c, (String) t));
                return new FactValue.Delivery(r.get(SOURCE.NAME), columns);
              }),
          new FactTable(
              FactKey.Defined.class,
              ATTRIBUTE_DEFINITION,
              List.of(ATTRIBUTE_DEFINITION.NAME),
              key -> List.of(((FactKey.Defined) key).attribute()),
              List.of(
                  ATTRIBUTE_DEFINITION.LABEL,
                  ATTRIBUTE_DEFINITION.TYPE,
                  ATTRIBUTE_DEFINITION.MANY,
                  ATTRIBUTE_DEFINITION.PERSONAL,
                  ATTRIBUTE_DEFINITION.SOURCE_ID),
              value -> {
                FactValue.Definition v = (FactValue.Definition) value;
                SourceId source = v.source();
                return row(
                    v.label(),
                    v.type().word(),
                    v.many(),
                    v.personal(),
                    source == null ? null : source.value());
              },
              r -> new FactKey.Defined(r.get(ATTRIBUTE_DEFINITION.NAME)),
              (r, key) -> {
                UUID source = r.get(ATTRIBUTE_DEFINITION.SOURCE_ID);
                return new FactValue.Definition(
                    r.get(ATTRIBUTE_DEFINITION.LABEL),
                    ValueType.of(r.get(ATTRIBUTE_DEFINITION.TYPE)),
                    r.get(ATTRIBUTE_DEFINITION.MANY),
                    r.get(ATTRIBUTE_DEFINITION.PERSONAL),
                    source == null ? null : new SourceId(source));
              }),
          new FactTable(
              FactKey.Naming.class,
              NAMING,
              List.of(NAMING.PERSON_ID),
              key -> List.of(((FactKey.Naming) key).subject().value()),
              List.of(NAMING.GIVEN, NAMING.FAMILY, NAMING.DISPLAYED, NAMING.NAME_KEY),
              value -> {
                FactValue.PersonName v = (FactValue.PersonName) value;
                return List.of(v.given(), v.family(), v.displayed(), NameOrder.key(v));
              },
              r -> new FactKey.Naming(new PersonId(r.get(NAMING.PERSON_ID))),
              (r, key) ->
                  new FactValue.PersonName(
                      r.get(NAMING.GIVEN), r.get(NAMING.FAMILY), r.get(NAMING.DISPLAYED))),
          new FactTable(
              FactKey.Status.class,
              STATUS,
              List.of(STATUS.PERSON_ID),
              key -> List.of(((FactKey.Status) key).subject().value()),
              List.of(STATUS.STATUS_, STATUS.STATED),
              value -> {
                FactValue.Standing v = (FactValue.Standing) value;
                return row(v.status().word(), v.stated());
              },
              r -> new FactKey.Status(new PersonId(r.get(STATUS.PERSON_ID))),
              (r, key) ->
                  new FactValue.Standing(
                      PersonStatus.of(r.get(STATUS.STATUS_)), r.get(STATUS.STATED))),
          new FactTable(
              FactKey.Attribute.class,
              ATTRIBUTE,
              List.of(ATTRIBUTE.PERSON_ID, ATTRIBUTE.NAME, ATTRIBUTE.SLOT),
              key -> {
                FactKey.Attribute k = (FactKey.Attribute) key;
                return List.of(k.subject().value(), k.name(), k.slot());
              },
              List.of(ATTRIBUTE.VALUE),
              value -> List.of(((FactValue.Text) value).text()),
              r ->
                  new FactKey.Attribute(
                      new PersonId(r.get(ATTRIBUTE.PERSON_ID)),
                      r.get(ATTRIBUTE.NAME),
                      r.get(ATTRIBUTE.SLOT)),
              (r, key) -> new FactValue.Text(r.get(ATTRIBUTE.VALUE))),
          new FactTable(
              FactKey.Link.class,
              SOURCE_LINK,
              List.of(SOURCE_LINK.SOURCE_ID, SOURCE_LINK.THING, SOURCE_LINK.SOURCE_KEY),
              key -> {
                FactKey.Link k = (FactKey.Link) key;
                return List.of(k.subject().value(), k.thing().word(), k.key());
              },
              List.of(SOURCE_LINK.OBJECT_ID),
              value -> List.of(((FactValue.Ref) value).object().value()),
              r ->
                  new FactKey.Link(
                      new SourceId(r.get(SOURCE_LINK.SOURCE_ID)),
                      ObjectKind.of(r.get(SOURCE_LINK.THING)),
                      r.get(SOURCE_LINK.SOURCE_KEY)),
              (r, key) ->
                  new FactValue.Ref(
                      ObjectId.of(
                          ObjectKind.of(r.get(SOURCE_LINK.THING)), r.get(SOURCE_LINK.OBJECT_ID)))),
          new FactTable(
              FactKey.GroupName.class,
              GROUP_NAME,
              List.of(GROUP_NAME.GROUP_ID),
              key -> List.of(((FactKey.GroupName) key).subject().value()),
              List.of(GROUP_NAME.NAME),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.GroupName(new GroupId(r.get(GROUP_NAME.GROUP_ID))),
              (r, key) -> new FactValue.Text(r.get(GROUP_NAME.NAME))),
          new FactTable(
              FactKey.GroupForm.class,
              GROUP_FORM,
              List.of(GROUP_FORM.GROUP_ID),
              key -> List.of(((FactKey.GroupForm) key).subject().value()),
              List.of(GROUP_FORM.FORM, GROUP_FORM.SOURCE_ID, GROUP_FORM.FILTER),
              value ->
                  switch ((FactValue.Form) value) {
                    case FactValue.Form.Listed v -> row("listed", null, null);
                    case FactValue.Form.Mirrored v -> row("mirrored", v.source().value(), null);
                    case FactValue.Form.ByFilter v -> row("filter", null, v.filter());
                  },
              r -> new FactKey.GroupForm(new GroupId(r.get(GROUP_FORM.GROUP_ID))),
              (r, key) ->
                  switch (r.get(GROUP_FORM.FORM)) {
                    case "mirrored" ->
                        new FactValue.Form.Mirrored(new SourceId(r.get(GROUP_FORM.SOURCE_ID)));
                    case "filter" -> new FactValue.Form.ByFilter(r.get(GROUP_FORM.FILTER));
                    default -> new FactValue.Form.Listed();
                  }),
          new FactTable(
              FactKey.Membership.class,
              MEMBERSHIP,
              List.of(MEMBERSHIP.GROUP_ID, MEMBERSHIP.MEMBER_ID, MEMBERSHIP.MEMBER_KIND),
              key -> {
                FactKey.Membership k = (FactKey.Membership) key;
                return List.of(k.subject().value(), k.member().value(), k.member().kind().word());
              },
              List.of(),
              NOTHING,
              r ->
                  new FactKey.Membership(
                      new GroupId(r.get(MEMBERSHIP.GROUP_ID)),
                      ObjectId.of(
                          ObjectKind.of(r.get(MEMBERSHIP.MEMBER_KIND)),
                          r.get(MEMBERSHIP.MEMBER_ID))),
              PRESENT),
          new FactTable(
              FactKey.Ownership.class,
              OWNERSHIP,
              List.of(OWNERSHIP.OBJECT_ID, OWNERSHIP.OBJECT_KIND, OWNERSHIP.OWNER_ID),
              key -> {
                FactKey.Ownership k = (FactKey.Ownership) key;
                return List.of(k.subject().value(), k.subject().kind().word(), k.owner().value());
              },
              List.of(),
              NOTHING,
              r ->
                  new FactKey.Ownership(
                      ObjectId.of(
                          ObjectKind.of(r.get(OWNERSHIP.OBJECT_KIND)), r.get(OWNERSHIP.OBJECT_ID)),
                      new PersonId(r.get(OWNERSHIP.OWNER_ID))),
              PRESENT),
          new FactTable(
              FactKey.Mandate.class,
              MANDATE,
              List.of(MANDATE.MANDATE_ID),
              key -> List.of(((FactKey.Mandate) key).subject().value()),
              List.of(MANDATE.NAME, MANDATE.LINE, MANDATE.POWERS, MANDATE.REACH),
              value -> {
                FactValue.Terms v = (FactValue.Terms) value;
                return List.of(
                    v.name(),
                    v.line(),
                    String.join(" ", v.powers()),
                    CanonicalJson.write(FactJson.reach(v.reach())));
              },
              r -> new FactKey.Mandate(new MandateId(r.get(MANDATE.MANDATE_ID))),
              (r, key) ->
                  new FactValue.Terms(
                      r.get(MANDATE.NAME),
                      r.get(MANDATE.LINE),
                      words(r.get(MANDATE.POWERS)),
                      FactJson.reach(map(r.get(MANDATE.REACH))))),
          new FactTable(
              FactKey.MandateHeld.class,
              MANDATE_HELD,
              List.of(MANDATE_HELD.MANDATE_ID, MANDATE_HELD.HOLDER_ID, MANDATE_HELD.HOLDER_KIND),
              key -> {
                FactKey.MandateHeld k = (FactKey.MandateHeld) key;
                return List.of(k.subject().value(), k.holder().value(), k.holder().kind().word());
              },
              List.of(),
              NOTHING,
              r ->
                  new FactKey.MandateHeld(
                      new MandateId(r.get(MANDATE_HELD.MANDATE_ID)),
                      ObjectId.of(
                          ObjectKind.of(r.get(MANDATE_HELD.HOLDER_KIND)),
                          r.get(MANDATE_HELD.HOLDER_ID))),
              PRESENT),
          new FactTable(
              FactKey.Application.class,
              APPLICATION,
              List.of(APPLICATION.APPLICATION_ID),
              key -> List.of(((FactKey.Application) key).subject().value()),
              List.of(
                  APPLICATION.NAME,
                  APPLICATION.LINE,
                  APPLICATION.PICTURE,
                  APPLICATION.HUE,
                  APPLICATION.SENSITIVITY,
                  APPLICATION.CONTACT,
                  APPLICATION.NICKNAMES),
              value -> {
                FactValue.Profile v = (FactValue.Profile) value;
                return List.of(
                    v.name(),
                    v.line(),
                    v.picture(),
                    v.hue(),
                    v.sensitivity().word(),
                    v.contact(),
                    String.join("\n", v.nicknames()));
              },
              r -> new FactKey.Application(new ApplicationId(r.get(APPLICATION.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.Profile(
                      r.get(APPLICATION.NAME),
                      r.get(APPLICATION.LINE),
                      r.get(APPLICATION.PICTURE),
                      r.get(APPLICATION.HUE),
                      Sensitivity.of(r.get(APPLICATION.SENSITIVITY)),
                      r.get(APPLICATION.CONTACT),
                      r.get(APPLICATION.NICKNAMES).lines().toList())),
          new FactTable(
              FactKey.AppState.class,
              APPLICATION_STATE,
              List.of(APPLICATION_STATE.APPLICATION_ID),
              key -> List.of(((FactKey.AppState) key).subject().value()),
              List.of(APPLICATION_STATE.STATE),
              value -> List.of(((FactValue.AppState) value).state().word()),
              r -> new FactKey.AppState(new ApplicationId(r.get(APPLICATION_STATE.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.AppState(ApplicationState.of(r.get(APPLICATION_STATE.STATE)))),
          new FactTable(
              FactKey.WayIn.class,
              WAY_IN,
              List.of(WAY_IN.APPLICATION_ID),
              key -> List.of(((FactKey.WayIn) key).subject().value()),
              List.of(WAY_IN.WAY, WAY_IN.ADDRESS),
              value ->
                  switch ((FactValue.WayIn) value) {
                    case FactValue.WayIn.Link v -> row("link", v.address());
                  },
              r -> new FactKey.WayIn(new ApplicationId(r.get(WAY_IN.APPLICATION_ID))),
              (r, key) -> new FactValue.WayIn.Link(r.get(WAY_IN.ADDRESS))),
          new FactTable(
              FactKey.Seats.class,
              SEATS,
              List.of(SEATS.APPLICATION_ID),
              key -> List.of(((FactKey.Seats) key).subject().value()),
              List.of(SEATS.SEAT_COUNT, SEATS.PRICE, SEATS.CURRENCY),
              value -> {
                FactValue.Seats seats = (FactValue.Seats) value;
                return List.of(seats.count(), seats.price(), seats.currency());
              },
              r -> new FactKey.Seats(new ApplicationId(r.get(SEATS.APPLICATION_ID))),
              (r, key) ->
                  new FactValue.Seats(
                      r.get(SEATS.SEAT_COUNT), r.get(SEATS.PRICE), r.get(SEATS.CURRENCY))),
          new FactTable(
              FactKey.Entitlement.class,
              ENTITLEMENT,
              List.of(ENTITLEMENT.ENTITLEMENT_ID),
              key -> List.of(((FactKey.Entitlement) key).subject().value()),
              List.of(
                  ENTITLEMENT.APPLICATION_ID,
                  ENTITLEMENT.NAME,
                  ENTITLEMENT.LINE,
                  ENTITLEMENT.SENSITIVITY,
                  ENTITLEMENT.REQUESTABLE),
              value -> {
                FactValue.Role v = (FactValue.Role) value;
                return List.of(
                    v.application().value(),
                    v.name(),
                    v.line(),
                    v.sensitivity().word(),
                    v.requestable());
              },
              r -> new FactKey.Entitlement(new EntitlementId(r.get(ENTITLEMENT.ENTITLEMENT_ID))),
              (r, key) ->
                  new FactValue.Role(
                      new ApplicationId(r.get(ENTITLEMENT.APPLICATION_ID)),
                      r.get(ENTITLEMENT.NAME),
                      r.get(ENTITLEMENT.LINE),
                      Sensitivity.of(r.get(ENTITLEMENT.SENSITIVITY)),
                      r.get(ENTITLEMENT.REQUESTABLE))),
          new FactTable(
              FactKey.Grant.class,
              GIVEN,
              List.of(GIVEN.GRANT_ID),
              key -> List.of(((FactKey.Grant) key).subject().value()),
              List.of(
                  GIVEN.PERSON_ID,
                  GIVEN.GROUP_ID,
                  GIVEN.FILTER,
                  GIVEN.ENTITLEMENT_ID,
                  GIVEN.SOURCE),
              value -> {
                FactValue.Given v = (FactValue.Given) value;
                UUID entitlement = v.entitlement().value();
                String source = v.source().word();
                return switch (v.subject()) {
                  case FactValue.Subject.OfPerson s ->
                      row(s.person().value(), null, null, entitlement, source);
                  case FactValue.Subject.OfGroup s ->
                      row(null, s.group().value(), null, entitlement, source);
                  case FactValue.Subject.ByFilter s ->
                      row(null, null, s.filter(), entitlement, source);
                };
              },
              r -> new FactKey.Grant(new GrantId(r.get(GIVEN.GRANT_ID))),
              (r, key) ->
                  new FactValue.Given(
                      subject(r),
                      new EntitlementId(r.get(GIVEN.ENTITLEMENT_ID)),
                      GrantSource.of(r.get(GIVEN.SOURCE)))),
          new FactTable(
              FactKey.GrantReason.class,
              GRANT_REASON,
              List.of(GRANT_REASON.GRANT_ID),
              key -> List.of(((FactKey.GrantReason) key).subject().value()),
              List.of(GRANT_REASON.REASON),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.GrantReason(new GrantId(r.get(GRANT_REASON.GRANT_ID))),
              (r, key) -> new FactValue.Text(r.get(GRANT_REASON.REASON))),
          new FactTable(
              FactKey.Tile.class,
              TILE,
              List.of(TILE.TILE_ID),
              key -> List.of(((FactKey.Tile) key).subject().value()),
              List.of(
                  TILE.NAME,
                  TILE.LINE,
                  TILE.PICTURE,
                  TILE.HUE,
                  TILE.APPLICATION_ID,
                  TILE.NEEDS,
                  TILE.ADDRESS,
                  TILE.CONTACT,
                  TILE.APART,
                  TILE.DATED),
              value -> {
                FactValue.TileFace v = (FactValue.TileFace) value;
                return List.of(
                    v.name(),
                    v.line(),
                    v.picture(),
                    v.hue(),
                    v.application().value(),
                    ids(v.needs()),
                    v.address(),
                    v.contact(),
                    v.apart(),
                    v.dated());
              },
              r -> new FactKey.Tile(new TileId(r.get(TILE.TILE_ID))),
              (r, key) ->
                  new FactValue.TileFace(
                      r.get(TILE.NAME),
                      r.get(TILE.LINE),
                      r.get(TILE.PICTURE),
                      r.get(TILE.HUE),
                      new ApplicationId(r.get(TILE.APPLICATION_ID)),
                      entitlements(r.get(TILE.NEEDS)),
                      r.get(TILE.ADDRESS),
                      r.get(TILE.CONTACT),
                      r.get(TILE.APART),
                      r.get(TILE.DATED))),
          new FactTable(
              FactKey.Shown.class,
              SHOWN,
              List.of(SHOWN.TILE_ID),
              key -> List.of(((FactKey.Shown) key).subject().value()),
              List.of(),
              NOTHING,
              r -> new FactKey.Shown(new TileId(r.get(SHOWN.TILE_ID))),
              PRESENT),
          new FactTable(
              FactKey.Collection.class,
              COLLECTION,
              List.of(COLLECTION.COLLECTION_ID),
              key -> List.of(((FactKey.Collection) key).subject().value()),
              List.of(COLLECTION.NAME, COLLECTION.LINE),
              value -> {
                FactValue.CollectionFace v = (FactValue.CollectionFace) value;
                return List.of(v.name(), v.line());
              },
              r -> new FactKey.Collection(new CollectionId(r.get(COLLECTION.COLLECTION_ID))),
              (r, key) ->
                  new FactValue.CollectionFace(r.get(COLLECTION.NAME), r.get(COLLECTION.LINE))),
          new FactTable(
              FactKey.Audience.class,
              AUDIENCE,
              List.of(AUDIENCE.OBJECT_ID, AUDIENCE.OBJECT_KIND),
              key -> {
                ObjectId subject = ((FactKey.Audience) key).subject();
                return List.of(subject.value(), subject.kind().word());
              },
              List.of(AUDIENCE.EVERYONE, AUDIENCE.SUBJECTS, AUDIENCE.FIRST_DAYS),
              FactTable::audience,
              r ->
                  new FactKey.Audience(
                      ObjectId.of(
                          ObjectKind.of(r.get(AUDIENCE.OBJECT_KIND)), r.get(AUDIENCE.OBJECT_ID))),
              (r, key) ->
                  audience(
                      r.get(AUDIENCE.EVERYONE),
                      r.get(AUDIENCE.SUBJECTS),
                      r.get(AUDIENCE.FIRST_DAYS))),
          new FactTable(
              FactKey.Brand.class,
              BRAND,
              List.of(BRAND.ORGANISATION),
              key -> List.of((byte) 1),
              List.of(
                  BRAND.NAME,
                  BRAND.MARK,
                  BRAND.BAND,
                  BRAND.WELCOME,
                  BRAND.DOOR,
                  BRAND.HELP,
                  BRAND.FORM,
                  BRAND.TIGHT),
              value -> {
                FactValue.Brand v = (FactValue.Brand) value;
                return List.of(
                    v.name(),
                    v.mark(),
                    v.band(),
                    v.welcome(),
                    v.door(),
                    v.help(),
                    v.form(),
                    v.tight());
              },
              r -> FactKey.Brand.ORGANISATION,
              (r, key) ->
                  new FactValue.Brand(
                      r.get(BRAND.NAME),
                      r.get(BRAND.MARK),
                      r.get(BRAND.BAND),
                      r.get(BRAND.WELCOME),
                      r.get(BRAND.DOOR),
                      r.get(BRAND.HELP),
                      r.get(BRAND.FORM),
                      r.get(BRAND.TIGHT))),
          new FactTable(
              FactKey.SelfService.class,
              SELF_SERVICE,
              List.of(SELF_SERVICE.ORGANISATION),
              key -> List.of((byte) 1),
              List.of(SELF_SERVICE.RULES),
              value ->
                  List.of(
                      CanonicalJson.write(
                          ((FactValue.SelfService) value)
                              .rules().stream().map(FactJson::rule).toList())),
              r -> FactKey.SelfService.ORGANISATION,
              (r, key) -> {
                List<FactValue.SelfServiceLine> rules = new java.util.ArrayList<>();
                for (Object rule : JSON.readValue(r.get(SELF_SERVICE.RULES), List.class)) {
                  rules.add(FactJson.rule((Map<?, ?>) rule));
                }
                return new FactValue.SelfService(rules);
              }),
          new FactTable(
              FactKey.Approved.class,
              APPROVED,
              List.of(APPROVED.LISTING_ID),
              key -> List.of(((FactKey.Approved) key).subject().value()),
              List.of(
                  APPROVED.NAME,
                  APPROVED.ADDRESS,
                  APPROVED.LINE,
                  APPROVED.CATEGORY,
                  APPROVED.PICTURE,
                  APPROVED.HUE),
              value -> {
                FactValue.Listing v = (FactValue.Listing) value;
                return List.of(v.name(), v.address(), v.line(), v.category(), v.picture(), v.hue());
              },
              r -> new FactKey.Approved(new ListingId(r.get(APPROVED.LISTING_ID))),
              (r, key) ->
                  new FactValue.Listing(
                      r.get(APPROVED.NAME),
                      r.get(APPROVED.ADDRESS),
                      r.get(APPROVED.LINE),
                      r.get(APPROVED.CATEGORY),
                      r.get(APPROVED.PICTURE),
                      r.get(APPROVED.HUE))),
          new FactTable(
              FactKey.Front.class,
              FRONT,
              List.of(FRONT.FRONT_PAGE_ID),
              key -> List.of(((FactKey.Front) key).subject().value()),
              List.of(FRONT.NAME, FRONT.ONLY_THESE, FRONT.IN_WAVES),
              value -> {
                FactValue.FrontFace v = (FactValue.FrontFace) value;
                return List.of(v.name(), v.only(), v.waves());
              },
              r -> new FactKey.Front(new FrontPageId(r.get(FRONT.FRONT_PAGE_ID))),
              (r, key) ->
                  new FactValue.FrontFace(
                      r.get(FRONT.NAME), r.get(FRONT.ONLY_THESE), r.get(FRONT.IN_WAVES))),
          new FactTable(
              FactKey.FrontRank.class,
              FRONT_RANK,
              List.of(FRONT_RANK.FRONT_PAGE_ID),
              key -> List.of(((FactKey.FrontRank) key).subject().value()),
              List.of(FRONT_RANK.PLACE),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.FrontRank(new FrontPageId(r.get(FRONT_RANK.FRONT_PAGE_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONT_RANK.PLACE))),
          new FactTable(
              FactKey.FrontNotice.class,
              FRONT_NOTICE,
              List.of(FRONT_NOTICE.FRONT_PAGE_ID),
              key -> List.of(((FactKey.FrontNotice) key).subject().value()),
              List.of(FRONT_NOTICE.NOTICE),
              value -> List.of(((FactValue.Text) value).text()),
              r -> new FactKey.FrontNotice(new FrontPageId(r.get(FRONT_NOTICE.FRONT_PAGE_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONT_NOTICE.NOTICE))),
          new FactTable(
              FactKey.FrontWave.class,
              FRONT_WAVE,
              List.of(FRONT_WAVE.FRONT_PAGE_ID, FRONT_WAVE.WAVE),
              key -> {
                FactKey.FrontWave k = (FactKey.FrontWave) key;
                return List.of(k.subject().value(), k.wave());
              },
              List.of(FRONT_WAVE.EVERYONE, FRONT_WAVE.SUBJECTS, FRONT_WAVE.FIRST_DAYS),
              FactTable::audience,
              r ->
                  new FactKey.FrontWave(
                      new FrontPageId(r.get(FRONT_WAVE.FRONT_PAGE_ID)), r.get(FRONT_WAVE.WAVE)),
              (r, key) ->
                  audience(
                      r.get(FRONT_WAVE.EVERYONE),
                      r.get(FRONT_WAVE.SUBJECTS),
                      r.get(FRONT_WAVE.FIRST_DAYS))),
          new FactTable(
              FactKey.Placed.class,
              PLACED,
              List.of(PLACED.COLLECTION_ID, PLACED.TILE_ID),
              key -> {
                FactKey.Placed k = (FactKey.Placed) key;
                return List.of(k.subject().value(), k.tile().value());
              },
              List.of(PLACED.PLACE, PLACED.OFFERED),
              value -> {
                FactValue.Place v = (FactValue.Place) value;
                return List.of(v.rank(), v.offered());
              },
              r ->
                  new FactKey.Placed(
                      new CollectionId(r.get(PLACED.COLLECTION_ID)),
                      new TileId(r.get(PLACED.TILE_ID))),
              (r, key) -> new FactValue.Place(r.get(PLACED.PLACE), r.get(PLACED.OFFERED))),
          new FactTable(
              FactKey.Fronted.class,
              FRONTED,
              List.of(FRONTED.FRONT_PAGE_ID, FRONTED.COLLECTION_ID),
              key -> {
                FactKey.Fronted k = (FactKey.Fronted) key;
                return List.of(k.subject().value(), k.collection().value());
              },
              List.of(FRONTED.PLACE),
              value -> List.of(((FactValue.Text) value).text()),
              r ->
                  new FactKey.Fronted(
                      new FrontPageId(r.get(FRONTED.FRONT_PAGE_ID)),
                      new CollectionId(r.get(FRONTED.COLLECTION_ID))),
              (r, key) -> new FactValue.Text(r.get(FRONTED.PLACE))),
          new FactTable(
              FactKey.SeparationRule.class,
              SEPARATION_RULE,
              List.of(SEPARATION_RULE.RULE_ID),
              key -> List.of(((FactKey.SeparationRule) key).subject().value()),
              List.of(
                  SEPARATION_RULE.NAME,
                  SEPARATION_RULE.WHY,
                  SEPARATION_RULE.ONE,
                  SEPARATION_RULE.OTHER),
              value -> {
                FactValue.Separation v = (FactValue.Separation) value;
                return List.of(v.name(), v.why(), ids(v.one()), ids(v.other()));
              },
              r -> new FactKey.SeparationRule(new RuleId(r.get(SEPARATION_RULE.RULE_ID))),
              (r, key) ->
                  new FactValue.Separation(
                      r.get(SEPARATION_RULE.NAME),
                      r.get(SEPARATION_RULE.WHY),
                      entitlements(r.get(SEPARATION_RULE.ONE)),
                      entitlements(r.get(SEPARATION_RULE.OTHER)))),
          new FactTable(
              FactKey.Excepted.class,
              EXCEPTED,
              List.of(EXCEPTED.RULE_ID, EXCEPTED.PERSON_ID, EXCEPTED.ONE_ID, EXCEPTED.OTHER_ID),
              key -> {
                FactKey.Excepted k = (FactKey.Excepted) key;
                return List.of(
                    k.subject().value(), k.person().value(), k.one().value(), k.other().value());
              },
              List.of(),
              NOTHING,
              r ->
                  new FactKey.Excepted(
                      new RuleId(r.get(EXCEPTED.RULE_ID)),
                      new PersonId(r.get(EXCEPTED.PERSON_ID)),
                      new EntitlementId(r.get(EXCEPTED.ONE_ID)),
                      new EntitlementId(r.get(EXCEPTED.OTHER_ID))),
              PRESENT));

  private static List<@Nullable Object> audience(FactValue value) {
    FactValue.Audience v = (FactValue.Audience) value;
    return List.of(
        v.everyone(),
        CanonicalJson.write(v.subjects().stream().map(FactJson::subject).toList()),
        (short) v.firstDays());
  }

  private static FactValue.Audience audience(boolean everyone, String json, short firstDays) {
    List<FactValue.Subject> subjects = new java.util.ArrayList<>();
    for (Object s : JSON.readValue(json, List.class)) {
      subjects.add(FactJson.subject((Map<?, ?>) s));
    }
    return new FactValue.Audience(everyone, subjects, firstDays);
  }

  private static String ids(SortedSet<EntitlementId> all) {
    return all.stream().map(e -> e.value().toString()).collect(Collectors.joining(" "));
  }

  private static SortedSet<EntitlementId> entitlements(String text) {
    SortedSet<EntitlementId> found = new TreeSet<>();
    words(text).forEach(e -> found.add(EntitlementId.parse(e)));
    return found;
  }

  private static FactValue.Subject subject(Record r) {
    UUID person = r.get(GIVEN.PERSON_ID);
    UUID group = r.get(GIVEN.GROUP_ID);
    if (person != null) {
      return new FactValue.Subject.OfPerson(new PersonId(person));
    }
    return group != null
        ? new FactValue.Subject.OfGroup(new GroupId(group))
        : new FactValue.Subject.ByFilter(r.get(GIVEN.FILTER));
  }

  private static List<@Nullable Object> row(@Nullable Object... values) {
    return java.util.Arrays.asList(values);
  }

  private static Map<?, ?> map(String json) {
    return JSON.readValue(json, Map.class);
  }

  private static SortedSet<String> words(String text) {
    SortedSet<String> words = new TreeSet<>();
    for (String word : text.split(" ")) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }
}
