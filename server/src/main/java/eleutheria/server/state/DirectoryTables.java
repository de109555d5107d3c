package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.directory.NameOrder;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.CanonicalJson;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;

/** Facts of people, groups, attributes and sources as rows. */
final class DirectoryTables {
  static final List<FactTable> ALL =
      List.of(
          new FactTable(
              FactKey.Existence.class,
              EXISTENCE,
              List.of(EXISTENCE.OBJECT_ID),
              key -> List.of(((FactKey.Existence) key).subject().value()),
              List.of(),
              FactTable.NOTHING,
              r -> {
                throw new IllegalStateException("existence is read with its thing");
              },
              FactTable.PRESENT),
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
                FactTable.map(r.get(SOURCE.COLUMNS))
                    .forEach((c, t) -> columns.put((String) c, (String) t));
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
                return FactTable.row(
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
                return FactTable.row(v.status().word(), v.stated());
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
                    case FactValue.Form.Listed v -> FactTable.row("listed", null, null);
                    case FactValue.Form.Mirrored v ->
                        FactTable.row("mirrored", v.source().value(), null);
                    case FactValue.Form.ByFilter v -> FactTable.row("filter", null, v.filter());
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
              FactTable.NOTHING,
              r ->
                  new FactKey.Membership(
                      new GroupId(r.get(MEMBERSHIP.GROUP_ID)),
                      ObjectId.of(
                          ObjectKind.of(r.get(MEMBERSHIP.MEMBER_KIND)),
                          r.get(MEMBERSHIP.MEMBER_ID))),
              FactTable.PRESENT),
          new FactTable(
              FactKey.Ownership.class,
              OWNERSHIP,
              List.of(OWNERSHIP.OBJECT_ID, OWNERSHIP.OBJECT_KIND, OWNERSHIP.OWNER_ID),
              key -> {
                FactKey.Ownership k = (FactKey.Ownership) key;
                return List.of(k.subject().value(), k.subject().kind().word(), k.owner().value());
              },
              List.of(),
              FactTable.NOTHING,
              r ->
                  new FactKey.Ownership(
                      ObjectId.of(
                          ObjectKind.of(r.get(OWNERSHIP.OBJECT_KIND)), r.get(OWNERSHIP.OBJECT_ID)),
                      new PersonId(r.get(OWNERSHIP.OWNER_ID))),
              FactTable.PRESENT));

  private DirectoryTables() {}
}
