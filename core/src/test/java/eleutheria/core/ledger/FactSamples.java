package eleutheria.core.ledger;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Seat;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Term;
import eleutheria.core.facts.TileId;
import eleutheria.core.facts.ValueType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;

/** One fact of every kind. */
public final class FactSamples {
  public static final Map<FactKey, FactValue> ALL = new LinkedHashMap<>();

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
    ApplicationId app = new ApplicationId(new UUID(5, 5));
    EntitlementId role = new EntitlementId(new UUID(6, 6));
    GrantId grant = new GrantId(new UUID(7, 7));
    TileId tile = new TileId(new UUID(8, 8));
    CollectionId collection = new CollectionId(new UUID(9, 9));
    ALL.put(
        new FactKey.Application(app),
        new FactValue.Profile(
            "Farebox", "Sell", "ticket", "plum", Sensitivity.MEDIUM, "ext. 4400"));
    ALL.put(new FactKey.AppState(app), new FactValue.AppState(ApplicationState.PAUSED));
    ALL.put(new FactKey.Seats(app), new FactValue.Seats(120, 4_950, "NOK"));
    ALL.put(new FactKey.WayIn(app), new FactValue.WayIn.Link("https://farebox.example/?a=ø"));
    ALL.put(
        new FactKey.Application(new ApplicationId(new UUID(7, 9))),
        new FactValue.Profile(
            "Coin House",
            "",
            "coins",
            "moss",
            Sensitivity.LOW,
            "",
            List.of("the till", "books, big")));
    ALL.put(
        new FactKey.Entitlement(role),
        new FactValue.Role(app, "Seller", "sell", Sensitivity.HIGH, true));
    ALL.put(
        new FactKey.Grant(grant),
        new FactValue.Given(new FactValue.Subject.OfPerson(person), role, GrantSource.REQUEST));
    ALL.put(
        new FactKey.Grant(new GrantId(new UUID(7, 8))),
        new FactValue.Given(
            new FactValue.Subject.ByFilter("unit eq \"Safety\""), role, GrantSource.IMPORT));
    ALL.put(new FactKey.GrantReason(grant), new FactValue.Text("Covering for Mina."));
    ALL.put(
        new FactKey.Tile(tile),
        new FactValue.TileFace(
            "Farebox", "Sell", "ticket", "plum", app, new TreeSet<>(List.of(role))));
    ALL.put(new FactKey.Collection(collection), new FactValue.CollectionFace("Counter", "At it"));
    ALL.put(
        new FactKey.Audience(collection),
        new FactValue.Audience(
            false,
            List.of(
                new FactValue.Subject.OfGroup(group), new FactValue.Subject.ByFilter("title pr"))));
    ALL.put(
        FactKey.SelfService.ORGANISATION,
        new FactValue.SelfService(
            List.of(
                new FactValue.SelfServiceLine(
                    new FactValue.Audience(
                        false, List.of(new FactValue.Subject.OfGroup(group)), 30),
                    FactValue.Links.NOTHING,
                    false),
                new FactValue.SelfServiceLine(
                    FactValue.Audience.EVERYONE, FactValue.Links.ANYTHING, true))));
    ALL.put(
        new FactKey.Approved(new ListingId(new UUID(12, 1))),
        new FactValue.Listing(
            "Skerry Weather", "https://weather.example/", "Wind", "Weather", "wind", "tide"));
    FrontPageId page = new FrontPageId(new UUID(11, 11));
    ALL.put(
        new FactKey.Tile(new TileId(new UUID(8, 9))),
        new FactValue.TileFace(
            "Tides",
            "",
            FactValue.TileFace.UPLOADED + "ab".repeat(32),
            "plum",
            app,
            new TreeSet<>(),
            "https://tides.example/",
            "ext. 4400",
            true,
            true));
    ALL.put(new FactKey.Audience(page), new FactValue.Audience(true, List.of(), 14));
    ALL.put(new FactKey.Audience(tile), new FactValue.Audience(false, List.of(), 1));
    ALL.put(new FactKey.Shown(tile), present);
    ALL.put(
        FactKey.Brand.ORGANISATION,
        new FactValue.Brand(
            "Tern Sound",
            FactValue.TileFace.UPLOADED + "cd".repeat(32),
            "#17504a",
            "Welcome aboard",
            "",
            "ext. 4400",
            "lines",
            true));
    ALL.put(new FactKey.Front(page), new FactValue.FrontFace("On board", true, true));
    ALL.put(new FactKey.FrontRank(page), new FactValue.Text("i"));
    ALL.put(new FactKey.FrontNotice(page), new FactValue.Text("Drill on Friday."));
    ALL.put(new FactKey.FrontWave(page, 2), new FactValue.Audience(true, List.of(), 0));
    ALL.put(new FactKey.Placed(collection, tile), new FactValue.Place("hz", true));
    ALL.put(new FactKey.Fronted(FrontPageId.EVERYONE, collection), new FactValue.Text("i"));
    RuleId rule = new RuleId(new UUID(10, 10));
    EntitlementId other = new EntitlementId(new UUID(6, 7));
    ALL.put(
        new FactKey.SeparationRule(rule),
        new FactValue.Separation(
            "Refunds apart",
            "One could refund to oneself.",
            new TreeSet<>(List.of(role)),
            new TreeSet<>(List.of(other))));
    ALL.put(new FactKey.Excepted(rule, person, role, other), present);
    ALL.put(
        new FactKey.Deputy(person, new PersonId(new UUID(1, 99))),
        new FactValue.Duties(new TreeSet<>(List.of(Duty.TEAM, Duty.APPS))));
    ALL.put(
        new FactKey.RequestForm(new RequestScope.OfSensitivity(Sensitivity.HIGH)),
        new FactValue.RequestForm(
            List.of(
                new Question(
                    "why", "Why?", "Help", true, new Question.OneOf(List.of("a", "b")), ""),
                new Question(
                    "ticket", "Which?", "", false, new Question.ShortText("CR-#"), "why pr"),
                new Question("more", "More?", "", false, new Question.LongText(), ""),
                new Question(
                    "amount",
                    "How much?",
                    "",
                    true,
                    new Question.Number(new BigDecimal("-0.5"), null),
                    ""),
                new Question("from", "From?", "", true, new Question.Day(0, null), ""),
                new Question(
                    "sites", "Where?", "", true, new Question.SeveralOf(List.of("x", "y")), ""),
                new Question("urgent", "Urgent?", "", true, new Question.YesNo(), ""),
                new Question("whom", "Whom?", "", true, new Question.Colleague(), "")),
            new Term(List.of(7, 14), 30, false)));
    ALL.put(
        new FactKey.Route(new RequestScope.OfApp(app)),
        new FactValue.Route(
            List.of(
                new RouteStep(new Seat.Manager(), 14),
                new RouteStep(new Seat.ManagersManager(), 1),
                new RouteStep(new Seat.AnyOf(group), 5),
                new RouteStep(new Seat.Named(person), 7),
                new RouteStep(new Seat.Owner(), 60, "unit eq \"Yard\" or amount gt 5"),
                new RouteStep(new Seat.Steward(), 2))));
    ALL.put(new FactKey.Source(source), new FactValue.Delivery("Register", Map.of("no", "key")));
  }

  private FactSamples() {}
}
