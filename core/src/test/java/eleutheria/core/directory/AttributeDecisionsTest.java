package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.ShippedMandate;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class AttributeDecisionsTest {
  private static final FactValue.Definition TEXT =
      new FactValue.Definition("Vessel", ValueType.TEXT, false, false, null);

  private final House house = new House();

  @Test
  void anAttributeIsMadeAndFiltersKnowIt() {
    house.act(m -> AttributeDecisions.define(m, "vessel", null, TEXT));
    assertThat(house.directory().schema().field("VESSEL")).isPresent();
  }

  @Test
  void allThatIsWrongIsSaidAtOnce() {
    FactValue.Definition bad =
        new FactValue.Definition(" ", ValueType.TEXT, false, false, new SourceId(new UUID(9, 9)));
    assertThat(
            house.refused(Authority.SETUP, m -> AttributeDecisions.define(m, "9 lives", null, bad)))
        .containsExactly("attribute.name", "attribute.label", "attribute.source");
    assertThat(
            house.refused(Authority.SETUP, m -> AttributeDecisions.define(m, "UNIT", null, TEXT)))
        .containsExactly("attribute.taken");
    assertThat(
            house.refused(Authority.SETUP, m -> AttributeDecisions.define(m, "unit", null, TEXT)))
        .containsExactly("attribute.taken");
  }

  @Test
  void whatIsInUseKeepsItsTypeButMayChangeItsLabel() {
    house.person("Oda", "Ticketing");
    FactValue.Definition unit = house.directory().definitions().get("unit");
    FactValue.Definition asNumber =
        new FactValue.Definition("Unit", ValueType.NUMBER, false, false, null);
    assertThat(
            house.refused(
                Authority.SETUP, m -> AttributeDecisions.define(m, "unit", unit, asNumber)))
        .containsExactly("attribute.in-use");
    FactValue.Definition renamed =
        new FactValue.Definition("Department", ValueType.TEXT, false, true, null);
    house.act(m -> AttributeDecisions.define(m, "unit", unit, renamed));
    assertThat(
            house.refused(
                Authority.SETUP, m -> AttributeDecisions.define(m, "unit", unit, renamed)))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void itNeedsThePowerEverywhere() {
    PersonId auditor = house.person("Jonas", "Finance");
    house.hold(ShippedMandate.AUDITOR.id(), auditor);
    assertThat(
            house.refused(
                house.authority(auditor), m -> AttributeDecisions.define(m, "vessel", null, TEXT)))
        .containsExactly("power");
  }
}
