package eleutheria.core.facts;

import java.time.LocalDate;
import java.util.Map;
import java.util.SortedSet;
import org.jspecify.annotations.Nullable;

/** What a fact says about its key. */
public sealed interface FactValue {

  /** It is so; there is nothing more to say. */
  enum Present implements FactValue {
    PRESENT
  }

  record Text(String text) implements FactValue {}

  record PersonName(String given, String family, String displayed) implements FactValue {
    /** "Holm, Mikkel": where people compare; a person with one name keeps it alone. */
    public String familyFirst() {
      if (family.isEmpty() || given.isEmpty()) {
        return displayed;
      }
      return family + ", " + given;
    }
  }

  /**
   * A person's status. {@code stated} is the day that a source gave when it was learnt too late to
   * be kept (the fact begins or ends at the act then).
   */
  record Standing(PersonStatus status, @Nullable LocalDate stated) implements FactValue {
    public static Standing of(PersonStatus status) {
      return new Standing(status, null);
    }
  }

  record Ref(ObjectId object) implements FactValue {}

  /** How a group gets its members. */
  sealed interface Form extends FactValue {
    /** By hand. */
    record Listed() implements Form {}

    /** From a source; read-only here. */
    record Mirrored(SourceId source) implements Form {}

    /** By a filter over attributes (RFC 7644, section 3.4.2.2). */
    record ByFilter(String filter) implements Form {}
  }

  /**
   * An attribute's definition.
   *
   * @param many whether a person may have several values
   * @param personal whether values are kept so that they can be erased by law
   * @param source the source that owns it, so that it is read-only here; null where by hand
   */
  record Definition(
      String label, ValueType type, boolean many, boolean personal, @Nullable SourceId source)
      implements FactValue {}

  /** Powers by their stable words, and what they reach. */
  record Terms(String name, String line, SortedSet<String> powers, Reach reach)
      implements FactValue {}

  /** A source of files: its name and, for each column heading, what the column is. */
  record Delivery(String name, Map<String, String> columns) implements FactValue {}
}
