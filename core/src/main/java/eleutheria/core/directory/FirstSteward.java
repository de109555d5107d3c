package eleutheria.core.directory;

import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.ShippedMandate;
import java.util.ArrayList;
import java.util.List;

/** How an empty house begins: the shipped definitions and mandates, then one steward. */
public final class FirstSteward {
  private FirstSteward() {}

  /** The first act of a new database: attributes that the product reads, mandates that ship. */
  public static Outcome<Integer> shipped(Moment moment) {
    Edits edits = moment.edits();
    define(edits, Attributes.USER_NAME, "Sign-in name", ValueType.TEXT, false, true);
    define(edits, Attributes.MAIL, "Email", ValueType.TEXT, false, true);
    define(edits, Attributes.UNIT, "Unit", ValueType.TEXT, false, false);
    define(edits, Attributes.SITE, "Site", ValueType.TEXT, false, false);
    define(edits, Attributes.TITLE, "Title", ValueType.TEXT, false, false);
    define(edits, Attributes.MANAGER, "Manager", ValueType.PERSON, false, false);
    define(edits, "employment", "Employment", ValueType.TEXT, false, false);
    define(edits, "phone", "Phone", ValueType.TEXT, false, true);
    for (ShippedMandate mandate : ShippedMandate.values()) {
      edits.put(new FactKey.Mandate(mandate.id()), mandate.terms());
    }
    return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), edits.size());
  }

  private static void define(
      Edits edits, String name, String label, ValueType type, boolean many, boolean personal) {
    edits.put(
        new FactKey.Defined(name), new FactValue.Definition(label, type, many, personal, null));
  }

  /** Makes the first steward; refused where there is one. */
  public static Outcome<PersonId> make(
      Moment moment, String given, String family, String userName, String mail) {
    boolean taken =
        moment.directory().mandates().stream()
            .anyMatch(m -> m.id().equals(ShippedMandate.STEWARD.id()) && !m.holders().isEmpty());
    if (taken) {
      return Outcome.refused(
          Problem.invalid("steward.there", "", "There is a steward already; ask to be invited."));
    }
    List<Problem> problems = new ArrayList<>();
    required(problems, "given", given);
    required(problems, "userName", userName);
    if (!userName.strip().matches("[\\p{L}\\p{N}._@-]{1,80}")) {
      problems.add(
          Problem.invalid(
              "user-name",
              "userName",
              "A sign-in name has up to 80 letters, digits, “.”, “_”, “-” or “@”."));
    }
    if (!mail.isBlank() && !mail.strip().matches("[^\\s@]+@[^\\s@]+")) {
      problems.add(
          Problem.invalid("mail", "mail", "An email address looks like name@example.org."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    PersonId id = new PersonId(moment.ids().get());
    Edits edits = moment.edits();
    String displayed = (given.strip() + " " + family.strip()).strip();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(
        new FactKey.Naming(id), new FactValue.PersonName(given.strip(), family.strip(), displayed));
    edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.ACTIVE));
    edits.put(
        Attributes.key(id, Attributes.USER_NAME, false, userName.strip()),
        new FactValue.Text(userName.strip()));
    if (!mail.isBlank()) {
      edits.put(
          Attributes.key(id, Attributes.MAIL, false, mail.strip()),
          new FactValue.Text(mail.strip()));
    }
    edits.put(new FactKey.MandateHeld(ShippedMandate.STEWARD.id(), id), FactValue.Present.PRESENT);
    return Outcome.done(Act.of(ActName.MANDATE_FIRST_STEWARD, id), edits.list(), id);
  }

  private static void required(List<Problem> problems, String field, String value) {
    if (value.isBlank() || value.length() > 80) {
      problems.add(Problem.invalid("required", field, "1 to 80 characters."));
    }
  }
}
