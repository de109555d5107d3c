package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a problem that somebody has reported. */
public record ReportId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.REPORT;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static ReportId parse(String text) {
    return new ReportId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
