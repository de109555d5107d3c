package eleutheria.server.ledger;

import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.directory.filter.FilterShape;
import eleutheria.core.directory.filter.FilterWords;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Seat;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.facts.Term;
import eleutheria.core.facts.TileId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What things are called now, or were called last, by the facts alone. */
public final class ThingNames {
  private static final String GONE = "no longer on record";

  private final Facts facts;

  public ThingNames(Facts facts) {
    this.facts = facts;
  }

  public String of(ObjectId id) {
    return switch (id) {
      case PersonId person ->
          facts.spells(new FactKey.Naming(person)).isEmpty()
              ? FactValue.PersonName.ERASED.displayed()
              : last(new FactKey.Naming(person));
      case GroupId group -> last(new FactKey.GroupName(group));
      case MandateId mandate -> last(new FactKey.Mandate(mandate));
      case SourceId source -> last(new FactKey.Source(source));
      case ApplicationId app -> last(new FactKey.Application(app));
      case EntitlementId entitlement -> entitlement(entitlement);
      case GrantId grant -> grant(grant);
      case TileId tile -> last(new FactKey.Tile(tile));
      case CollectionId collection -> last(new FactKey.Collection(collection));
      case FrontPageId page ->
          page.equals(FrontPageId.EVERYONE)
              ? "everyone's front page"
              : last(new FactKey.Front(page));
      case RequestId request -> "an access request";
      case DraftId draft -> "a draft";
      case SuggestionId suggestion -> "a suggested app";
      case ComplaintId complaint -> "a reported problem";
      case ListingId listing -> last(new FactKey.Approved(listing));
      case RuleId rule -> last(new FactKey.SeparationRule(rule));
    };
  }

  private String entitlement(EntitlementId id) {
    List<Spell> spells = facts.spells(new FactKey.Entitlement(id));
    return spells.isEmpty() ? GONE : title((FactValue.Role) spells.getLast().value());
  }

  /** Application and role, "Refund Bench · Approver". */
  public String title(FactValue.Role role) {
    return of(role.application()) + " · " + role.name();
  }

  private String grant(GrantId id) {
    List<Spell> spells = facts.spells(new FactKey.Grant(id));
    return spells.isEmpty()
        ? "a grant that was taken back"
        : given((FactValue.Given) spells.getLast().value());
  }

  public String given(FactValue.Given given) {
    return entitlement(given.entitlement()) + " for " + subject(given.subject());
  }

  public String subject(FactValue.Subject subject) {
    return switch (subject) {
      case FactValue.Subject.OfPerson s -> of(s.person());
      case FactValue.Subject.OfGroup s -> "group “" + of(s.group()) + "”";
      case FactValue.Subject.ByFilter s -> words().tell(s.filter());
    };
  }

  /** What is asked: "“Which till?”, “Who are you covering for?”; for at most 90 days". */
  public static String form(FactValue.RequestForm form) {
    String questions =
        form.questions().isEmpty()
            ? "nothing but the reason"
            : form.questions().stream()
                .map(question -> "“" + question.label() + "”")
                .collect(Collectors.joining(", "));
    Term term = form.term();
    return questions
        + (term.most() == null
            ? ""
            : term.most() == 1
                ? "; for at most 1 day"
                : "; for at most %d days".formatted(term.most()))
        + (term.endless() || term.most() != null ? "" : "; with a last day");
  }

  /** What a route or a request form is for. */
  public String scope(RequestScope scope) {
    return switch (scope) {
      case RequestScope.OfEntitlement s -> "requests for " + of(s.id());
      case RequestScope.OfApp s -> "requests for " + of(s.id());
      case RequestScope.OfSensitivity s -> "requests of " + s.sensitivity().word() + " sensitivity";
      case RequestScope.OfAll s -> "all requests";
    };
  }

  /** Who decides, in order: "manager (14 days), then owner of the app (5 days) if unit is Yard". */
  public String route(FactValue.Route route) {
    return route.steps().stream()
        .map(
            step ->
                "%s (%s)%s"
                    .formatted(
                        seat(step.seat()),
                        step.days() == 1 ? "1 day" : step.days() + " days",
                        step.always() ? "" : " if " + clause(step.onlyIf())))
        .collect(Collectors.joining(", then "));
  }

  /** A condition over answers to any form and attributes; as it is written where that has gone. */
  private String clause(String filter) {
    Map<String, Question> questions = new HashMap<>();
    for (FactKey.RequestForm key : facts.keys(FactKey.RequestForm.class)) {
      if (facts.spells(key).getLast().value() instanceof FactValue.RequestForm form) {
        form.questions().forEach(each -> questions.putIfAbsent(each.key(), each));
      }
    }
    Map<String, FactValue.Definition> known = definitions();
    Map<String, FilterSchema.Field> fields = new HashMap<>();
    known.forEach((name, d) -> fields.put(name, new FilterSchema.Field(name, d.type())));
    questions.forEach(
        (key, each) -> fields.put(key, new FilterSchema.Field(key, each.kind().type())));
    FilterSchema schema = new FilterSchema(fields.values());
    return FilterParser.parse(filter, schema) instanceof FilterParser.Parsed.Good(Filter read)
        ? new FilterWords(
                schema,
                name -> label(questions.get(name), known.get(name), name),
                id -> PersonId.read(id).map(this::of).orElse(id))
            .clause(FilterShape.of(read))
        : filter;
  }

  private String seat(Seat seat) {
    return switch (seat) {
      case Seat.Manager s -> "manager";
      case Seat.ManagersManager s -> "manager’s manager";
      case Seat.Owner s -> "owner of the app";
      case Seat.AnyOf s -> "anyone in “" + of(s.group()) + "”";
      case Seat.Named s -> of(s.person());
      case Seat.Steward s -> "anyone who may step in";
    };
  }

  /** Filters in words, by the attributes as they are called now or were called last. */
  public FilterWords words() {
    Map<String, FactValue.Definition> known = definitions();
    return new FilterWords(
        new FilterSchema(
            known.entrySet().stream()
                .map(e -> new FilterSchema.Field(e.getKey(), e.getValue().type()))
                .toList()),
        name -> known.containsKey(name) ? known.get(name).label() : name,
        id -> PersonId.read(id).map(this::of).orElse(id));
  }

  private static String label(
      @Nullable Question question, FactValue.@Nullable Definition attribute, String name) {
    return question != null
        ? "“" + question.label() + "”"
        : attribute != null ? attribute.label() : name;
  }

  private Map<String, FactValue.Definition> definitions() {
    Map<String, FactValue.Definition> known = new HashMap<>();
    for (FactKey.Defined key : facts.keys(FactKey.Defined.class)) {
      if (facts.spells(key).getLast().value() instanceof FactValue.Definition definition) {
        known.put(key.attribute(), definition);
      }
    }
    return known;
  }

  public String audience(FactValue.Audience audience) {
    List<String> parts = new ArrayList<>();
    if (audience.everyone()) {
      parts.add("everyone");
    }
    audience.subjects().forEach(subject -> parts.add(subject(subject)));
    if (audience.firstDays() > 0) {
      parts.add("the first " + audience.firstDays() + " days");
    }
    return parts.isEmpty() ? "nobody" : String.join(", ", parts);
  }

  private String last(FactKey key) {
    List<Spell> spells = facts.spells(key);
    if (spells.isEmpty()) {
      return GONE;
    }
    return switch (spells.getLast().value()) {
      case FactValue.PersonName name -> name.displayed();
      case FactValue.Text text -> text.text();
      case FactValue.Terms terms -> terms.name();
      case FactValue.Delivery delivery -> delivery.name();
      case FactValue.Profile profile -> profile.name();
      case FactValue.TileFace tile -> tile.name();
      case FactValue.CollectionFace collection -> collection.name();
      case FactValue.FrontFace page -> page.name();
      case FactValue.Separation rule -> rule.name();
      case FactValue.Listing listing -> listing.name();
      default -> GONE;
    };
  }
}
