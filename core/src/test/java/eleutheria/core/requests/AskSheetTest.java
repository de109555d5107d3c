package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessReach;
import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.mandates.ShippedMandate;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a CSV file that asks for many is read as, line by line. */
class AskSheetTest {
  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Deck crew");
  private final EntitlementId bench = house.role("Refund Bench", Sensitivity.LOW, nils);
  private final EntitlementId ledger = house.role("Fare Ledger", Sensitivity.HIGH, nils);
  private final List<AccessRequest> open = new ArrayList<>();

  AskSheetTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
    house.manager(oda, lena);
  }

  private AskSheet.Reading read(PersonId asker, String text) {
    return AskSheet.read(
        text.getBytes(StandardCharsets.UTF_8),
        new AccessReach(house.authority(asker), house.directory()),
        house.access(),
        LocalDate.ofInstant(house.now(), House.ZONE),
        asker,
        open);
  }

  private List<AskSheet.Line> lines(PersonId asker, String... lines) {
    AskSheet.Reading reading =
        read(asker, "person,entitlement,last day,reason\n" + String.join("\n", lines));
    return ((AskSheet.Reading.Good) reading).lines();
  }

  private String bad(String text) {
    return ((AskSheet.Reading.Bad) read(lena, text)).sentence();
  }

  @Test
  void aLineSaysWhomWhatUntilWhenAndWhy() {
    String day = LocalDate.ofInstant(house.now(), House.ZONE).plusDays(30).toString();
    assertThat(lines(lena, "Oda Brekke,Refund Bench · User," + day + ",\"Counter, summer\""))
        .containsExactly(
            new AskSheet.Line(
                2,
                "Oda Brekke",
                "Refund Bench · User",
                oda,
                bench,
                LocalDate.parse(day),
                "Counter, summer",
                Map.of(),
                List.of()));
    // As people write: without accents or case, family name first, the application apart.
    AskSheet.Reading.Good apart =
        (AskSheet.Reading.Good)
            read(
                lena,
                "Reason;Person;Application;Entitlement\ncounter;ODÄ BREKKE;refund bench;user\n");
    assertThat(apart.lines().getFirst().person()).isEqualTo(oda);
    assertThat(apart.lines().getFirst().entitlement()).isEqualTo(bench);
    assertThat(apart.lines().getFirst().wrong()).isEmpty();
  }

  @Test
  void whatIsWrongStandsAtItsLineAndTheOthersAreGood() {
    List<AskSheet.Line> lines =
        lines(
            lena,
            "Oda Brekke,Refund Bench · User,,counter",
            "Oda Brekke,Refund Bench · User,,again",
            "Oda Brekke,Refund Bench · Boss,,x",
            "Oda Brekke,Fare Ledger · User,,x",
            "Oda Brekke,Fare Ledger · User,31 May,x",
            "Oda Brekke,Fare Ledger · User,+999999999-01-01,x",
            "Lena Aho,Refund Bench · User,2001-01-01,",
            "Oda Brekke,Refund Bench · User,,=HYPERLINK(1)");
    assertThat(lines.stream().map(line -> line.wrong().isEmpty() ? "" : line.wrong().getFirst()))
        .containsExactly(
            "",
            "An earlier line asks for the same.",
            "“Refund Bench · Boss” cannot be asked for.",
            "High-sensitivity access needs a last day.",
            "“31 May” is not a day. Write it as 2027-03-31.",
            "“+999999999-01-01” is not a day. Write it as 2027-03-31.",
            "Say what you need it for.",
            "Cell 4 holds a formula: “=HYPERLINK(1)”.");
    assertThat(lines.get(6).wrong()).contains("The day 2001-01-01 is past.");
    assertThat(lines(lena, "Oda Brekke,Refund Bench · User,,").getFirst().wrong())
        .containsExactly("Say what it is needed for.");
    assertThat(lines.stream().map(AskSheet.Line::line))
        .containsExactly(2L, 3L, 4L, 5L, 6L, 7L, 8L, 9L);
    assertThat(lines.get(3).entitlement()).isEqualTo(ledger);
  }

  @Test
  void nobodyIsFoundButThoseWhomOneMayAskFor() {
    for (String name : List.of("Nils Sand", "Nobody Anywhere")) {
      AskSheet.Line line = lines(lena, name + ",Refund Bench · User,,x").getFirst();
      assertThat(line.person()).isNull();
      assertThat(line.wrong()).containsExactly("You cannot ask for “%s”.".formatted(name));
    }
    assertThat(lines(steward, "Nils Sand,Refund Bench · User,,x").getFirst().person())
        .isEqualTo(nils);
    // Of two of one name the one in one's team is meant; who reaches both must say which.
    house.person("Oda Brekke", "Deck crew");
    assertThat(lines(lena, "Oda Brekke,Refund Bench · User,,x").getFirst().person()).isEqualTo(oda);
    assertThat(lines(steward, "Oda Brekke,Refund Bench · User,,x").getFirst().wrong())
        .containsExactly(
            "“Oda Brekke” matches 2. Use something that only one of them has, such as a sign-in name.");
  }

  @Test
  void anAppThatIsNotOpenIsNotFoundByItsName() {
    house.set(
        new FactKey.AppState(house.app(ledger)), new FactValue.AppState(ApplicationState.PROPOSED));
    AskSheet.Line line = lines(lena, "Oda Brekke,Fare Ledger · User,,x").getFirst();
    assertThat(line.entitlement()).isNull();
    assertThat(line.wrong()).containsExactly("“Fare Ledger · User” cannot be asked for.");
  }

  @Test
  void furtherColumnsAnswerTheForm() {
    house.set(
        new FactKey.RequestForm(new RequestScope.OfEntitlement(bench)),
        new FactValue.RequestForm(
            List.of(
                new Question(
                    "why",
                    "Why now?",
                    "",
                    true,
                    new Question.OneOf(List.of("Covering", "Work")),
                    ""),
                new Question(
                    "whom",
                    "Covering for",
                    "",
                    true,
                    new Question.Colleague(),
                    "why eq \"Covering\""),
                new Question("urgent", "Urgent?", "", false, new Question.YesNo(), "")),
            new Term(List.of(), 30, true)));
    String heading = "person,entitlement,reason,why now?,WHOM,urgent\n";
    List<AskSheet.Line> lines =
        ((AskSheet.Reading.Good)
                read(
                    lena,
                    heading
                        + "Oda Brekke,Refund Bench · User,x,covering,oda brekke,Yes\n"
                        + "Oda Brekke,Refund Bench · User,x,Work,,no\n"
                        + "Oda Brekke,Refund Bench · User,x,Covering,Nils Sand,perhaps\n"
                        + "Oda Brekke,Fare Ledger · User,x,Nothing,,\n"))
            .lines();
    assertThat(lines.get(0).wrong()).isEmpty();
    assertThat(lines.get(0).answers())
        .isEqualTo(
            Map.of(
                "why", List.of("Covering"),
                "whom", List.of(oda.value().toString()),
                "urgent", List.of("true")));
    assertThat(lines.get(1).answers()).containsEntry("urgent", List.of("false"));
    // Nobody is named whom one does not work with; each problem says its question.
    assertThat(lines.get(2).wrong())
        .contains("Covering for: Choose one of your colleagues.", "Urgent?: Answer yes or no.");
    // What has no such question is not asked it.
    assertThat(lines.get(3).answers()).isEmpty();
    assertThat(lines.get(3).wrong()).containsExactly("High-sensitivity access needs a last day.");
    assertThat(lines(lena, "Oda Brekke,Refund Bench · User,,x").getFirst().wrong())
        .containsExactly("Why now?: Answer this.");
  }

  @Test
  void whatWaitsAlreadyIsSaid() {
    open.add(
        house.act(
            house.authority(lena),
            m -> RequestDecisions.ask(m, 1, oda, bench, null, "before", Map.of(), List.of())));
    assertThat(lines(lena, "Oda Brekke,Refund Bench · User,,x").getFirst().wrong())
        .containsExactly("You have asked for Oda Brekke already: R-1 is waiting.");
  }

  @Test
  void aFileThatIsNoneIsRefusedWhole() {
    assertThat(bad("person,entitlement\nOda,x\n")).startsWith("There is no column “reason”.");
    assertThat(bad("person,entitlement,reason,salary\na,b,c,d\n"))
        .startsWith("“salary” is neither a column nor a question of a request form.");
    assertThat(bad("")).isEqualTo("The file is empty.");
    assertThat(bad("PK\u0003\u0004 …")).contains("a zip archive or a spreadsheet");
    String many = "a,b,c\n".repeat(AskSheet.MOST + 1);
    assertThat(bad("person,entitlement,reason\n" + many))
        .isEqualTo("The file has 5,001 lines; at most 5,000 can be asked for at once.");
    assertThat(read(lena, "person,entitlement,reason\n" + "a,b,c\n".repeat(AskSheet.MOST)))
        .isInstanceOf(AskSheet.Reading.Good.class);
  }
}
