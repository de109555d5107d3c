package eleutheria.core.directory;

import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What may be done with the definitions of attributes. */
public final class AttributeDecisions {
  private AttributeDecisions() {}

  /**
   * Makes an attribute or changes what is said of it.
   *
   * @param base the definition that the actor saw; null if the attribute is to be new
   */
  public static Outcome<String> define(
      Moment moment,
      String name,
      FactValue.@Nullable Definition base,
      FactValue.Definition wanted) {
    if (!moment.authority().hasEverywhere(Power.SETTINGS_EDIT)) {
      return Outcome.refused(
          Problem.forbidden(
              "power",
              "This needs the power “settings.edit”: to " + Power.SETTINGS_EDIT.line() + "."));
    }
    DirectoryView directory = moment.directory();
    FactValue.Definition current = directory.definitions().get(name);
    List<Problem> problems = new ArrayList<>();
    if (current == null ? base != null : !current.equals(base)) {
      problems.add(
          base == null
              ? Problem.invalid("attribute.taken", "name", "There is an attribute “" + name + "”.")
              : Problem.stale("", "Someone has changed this attribute meanwhile."));
    }
    if (!Attributes.NAME.matcher(name).matches()) {
      problems.add(
          Problem.invalid(
              "attribute.name",
              "name",
              "A name is a letter, then up to 39 letters, digits, “-” or “_”."));
    } else if (current == null && directory.schema().field(name).isPresent()) {
      problems.add(
          Problem.invalid(
              "attribute.taken",
              "name",
              "That name exists already; upper and lower case count as the same."));
    }
    if (wanted.label().isBlank() || wanted.label().length() > 60) {
      problems.add(
          Problem.invalid("attribute.label", "label", "A label needs 1 to 60 characters."));
    }
    if (wanted.source() != null && !directory.sources().containsKey(wanted.source())) {
      problems.add(Problem.invalid("attribute.source", "source", "There is no such source."));
    }
    if (current != null && (current.type() != wanted.type() || current.many() != wanted.many())) {
      long holders =
          directory.people().stream().filter(person -> !person.values(name).isEmpty()).count();
      if (holders > 0) {
        problems.add(
            Problem.invalid(
                "attribute.in-use",
                "type",
                "%d people have a value; its type and number of values stay as they are."
                    .formatted(holders)));
      }
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Defined(name), wanted);
    return Outcome.done(
        Act.of(ActName.ATTRIBUTE_DEFINE).with(Map.of("attribute", name)), edits.list(), name);
  }
}
