package eleutheria.core.facts;

import java.util.UUID;

/** The identity of a thing: a UUID (RFC 9562, version 7) that knows what kind of thing it names. */
public sealed interface ObjectId extends Comparable<ObjectId>
    permits PersonId,
        GroupId,
        MandateId,
        SourceId,
        ApplicationId,
        EntitlementId,
        GrantId,
        TileId,
        CollectionId,
        FrontPageId,
        RequestId,
        DraftId,
        RuleId,
        SuggestionId,
        ComplaintId,
        ListingId {

  UUID value();

  ObjectKind kind();

  /** Kind and id in one text, {@code person:0190…}; the form of the ledger. */
  default String text() {
    return kind().word() + ":" + value();
  }

  @Override
  default int compareTo(ObjectId other) {
    int byKind = kind().compareTo(other.kind());
    return byKind != 0 ? byKind : value().toString().compareTo(other.value().toString());
  }

  static ObjectId of(ObjectKind kind, UUID value) {
    return switch (kind) {
      case PERSON -> new PersonId(value);
      case GROUP -> new GroupId(value);
      case MANDATE -> new MandateId(value);
      case SOURCE -> new SourceId(value);
      case APPLICATION -> new ApplicationId(value);
      case ENTITLEMENT -> new EntitlementId(value);
      case GRANT -> new GrantId(value);
      case TILE -> new TileId(value);
      case COLLECTION -> new CollectionId(value);
      case FRONT_PAGE -> new FrontPageId(value);
      case REQUEST -> new RequestId(value);
      case DRAFT -> new DraftId(value);
      case RULE -> new RuleId(value);
      case SUGGESTION -> new SuggestionId(value);
      case COMPLAINT -> new ComplaintId(value);
      case LISTING -> new ListingId(value);
    };
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not of the form that {@link #text} gives
   */
  static ObjectId parse(String text) {
    int colon = text.indexOf(':');
    if (colon < 0) {
      throw new IllegalArgumentException("not an object id: " + text);
    }
    return of(ObjectKind.of(text.substring(0, colon)), UUID.fromString(text.substring(colon + 1)));
  }
}
