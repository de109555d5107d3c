package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import java.util.List;
import java.util.UUID;
import org.jooq.Record;

/** Facts of grants and separation rules as rows. */
final class AccessTables {
  static final List<FactTable> ALL =
      List.of(
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
                      FactTable.row(s.person().value(), null, null, entitlement, source);
                  case FactValue.Subject.OfGroup s ->
                      FactTable.row(null, s.group().value(), null, entitlement, source);
                  case FactValue.Subject.ByFilter s ->
                      FactTable.row(null, null, s.filter(), entitlement, source);
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
                return List.of(v.name(), v.why(), FactTable.ids(v.one()), FactTable.ids(v.other()));
              },
              r -> new FactKey.SeparationRule(new RuleId(r.get(SEPARATION_RULE.RULE_ID))),
              (r, key) ->
                  new FactValue.Separation(
                      r.get(SEPARATION_RULE.NAME),
                      r.get(SEPARATION_RULE.WHY),
                      FactTable.entitlements(r.get(SEPARATION_RULE.ONE)),
                      FactTable.entitlements(r.get(SEPARATION_RULE.OTHER)))),
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
              FactTable.NOTHING,
              r ->
                  new FactKey.Excepted(
                      new RuleId(r.get(EXCEPTED.RULE_ID)),
                      new PersonId(r.get(EXCEPTED.PERSON_ID)),
                      new EntitlementId(r.get(EXCEPTED.ONE_ID)),
                      new EntitlementId(r.get(EXCEPTED.OTHER_ID))),
              FactTable.PRESENT));

  private AccessTables() {}

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
}
