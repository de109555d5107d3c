package eleutheria.core.facts;

import org.jspecify.annotations.Nullable;

/**
 * What a route or a request form is for. The narrowest one that is set counts, in the order of
 * these kinds.
 */
public sealed interface RequestScope {
  /** One entitlement. */
  record OfEntitlement(EntitlementId id) implements RequestScope {}

  /** Everything of an application that has none of its own. */
  record OfApp(ApplicationId id) implements RequestScope {}

  /** Everything of a sensitivity whose application has none. */
  record OfSensitivity(Sensitivity sensitivity) implements RequestScope {}

  /** Everything else. */
  record OfAll() implements RequestScope {}

  /** The thing that it belongs to; null for what belongs to the organisation. */
  default @Nullable ObjectId subject() {
    return switch (this) {
      case OfEntitlement scope -> scope.id();
      case OfApp scope -> scope.id();
      case OfSensitivity scope -> null;
      case OfAll scope -> null;
    };
  }

  /** As one word: {@code all}, {@code high}, or what the thing is called in the ledger. */
  default String word() {
    return switch (this) {
      case OfEntitlement scope -> scope.id().text();
      case OfApp scope -> scope.id().text();
      case OfSensitivity scope -> scope.sensitivity().word();
      case OfAll scope -> "all";
    };
  }

  /**
   * @throws IllegalArgumentException if no scope has this word
   */
  static RequestScope parse(String word) {
    if (word.equals("all")) {
      return new OfAll();
    }
    if (word.indexOf(':') < 0) {
      return new OfSensitivity(Sensitivity.of(word));
    }
    return switch (ObjectId.parse(word)) {
      case EntitlementId id -> new OfEntitlement(id);
      case ApplicationId id -> new OfApp(id);
      default -> throw new IllegalArgumentException("nothing is for this: " + word);
    };
  }
}
