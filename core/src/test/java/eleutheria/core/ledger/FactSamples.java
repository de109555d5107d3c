package eleutheria.core.ledger;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;

/** One fact of every kind. */
final class FactSamples {
  static final Map<FactKey, FactValue> ALL = new LinkedHashMap<>();

  static {
    PersonId person = new PersonId(new UUID(1, 1));
    GroupId group = new GroupId(new UUID(2, 2));
    SourceId source = new SourceId(new UUID(3, 3));
    MandateId mandate = new MandateId(new UUID(4, 4));
    FactValue present = FactValue.Present.PRESENT;
    ALL.put(new FactKey.Existence(person), present);
    ALL.put(new FactKey.Naming(person), new FactValue.PersonName("Åse", "Ødegård", "Åse Ø."));
    ALL.put(
        new FactKey.Status(person),
        new FactValue.Standing(PersonStatus.DEPARTED, LocalDate.parse("2026-02-27")));
    ALL.put(new FactKey.Attribute(person, "licences", "00ff"), new FactValue.Text("Radio"));
    ALL.put(new FactKey.Link(source, ObjectKind.GROUP, "W-1"), new FactValue.Ref(group));
    ALL.put(new FactKey.GroupName(group), new FactValue.Text("Watch"));
    ALL.put(new FactKey.GroupForm(group), new FactValue.Form.Mirrored(source));
    ALL.put(
        new FactKey.GroupForm(new GroupId(new UUID(2, 3))),
        new FactValue.Form.ByFilter("unit eq \"Safety\""));
    ALL.put(new FactKey.Membership(group, person), present);
    ALL.put(new FactKey.Ownership(group, person), present);
    ALL.put(
        new FactKey.Defined("phone"),
        new FactValue.Definition("Phone", ValueType.TEXT, true, true, source));
    ALL.put(
        new FactKey.Mandate(mandate),
        new FactValue.Terms(
            "Keeper", "keeps", new TreeSet<>(List.of("people.read")), Reach.units("Safety")));
    ALL.put(new FactKey.MandateHeld(mandate, group), present);
    ALL.put(new FactKey.Source(source), new FactValue.Delivery("Register", Map.of("no", "key")));
  }

  private FactSamples() {}
}
