package eleutheria.core.directory.intake;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class PeopleIntakeTest {
  private static final SourceId HR = new SourceId(new UUID(1, 1));
  private static final String HEAD = "no,given,family,login,mail,unit,boss,first,last\n";
  private static final Matching MATCHING =
      new Matching(
          Map.of(
              "no", Matching.KEY,
              "given", Matching.GIVEN,
              "family", Matching.FAMILY,
              "login", "attribute:userName",
              "mail", "attribute:mail",
              "unit", "attribute:unit",
              "boss", "attribute:manager",
              "first", Matching.FIRST_DAY,
              "last", Matching.LAST_DAY));

  private final House house = new House();

  private static DeliveredFile file(String text) {
    return ((DeliveredFile.Reading.Good) DeliveredFile.read(text.getBytes(StandardCharsets.UTF_8)))
        .file();
  }

  private Intake.Delivery delivery(String rows, Intake.Scope scope) {
    return new Intake.Delivery(HR, "Register", file(HEAD + rows), MATCHING, scope, "hash");
  }

  private Preview look(Intake.Delivery delivery) {
    List<Preview> seen = new ArrayList<>();
    house.decide(
        Authority.SETUP,
        m -> {
          seen.add(Intake.preview(m, delivery));
          return Outcome.refused(Problem.absent("nothing"));
        });
    return seen.getFirst();
  }

  private Outcome<Preview> importFile(String rows, Intake.Scope scope) {
    Intake.Delivery delivery = delivery(rows, scope);
    Preview preview = look(delivery);
    return house.decide(
        Authority.SETUP,
        m ->
            Intake.importFile(
                m,
                delivery,
                new Intake.Agreed(preview.digest(), preview.ended().size(), true, true),
                "weekly"));
  }

  private Person person(String userName) {
    return house
        .directory()
        .person(house.directory().byUserName(userName).orElseThrow())
        .orElseThrow();
  }

  private String wrong(String rows) {
    return String.join(
        " / ",
        look(delivery(rows, Intake.Scope.THESE_ROWS)).lines().stream()
            .flatMap(line -> line.wrong().stream().map(w -> line.line() + ": " + w))
            .toList());
  }

  private static final String TWO =
      "1,Lena,Aho,lena.aho,lena@x,Ticketing,,,\n2,Oda,Brekke,oda,oda@x,Ticketing,1,,2026-03-31\n";

  @Test
  void bringsPeopleInWithManagersAndDays() {
    Outcome<Preview> outcome = importFile(TWO, Intake.Scope.ALL);
    assertThat(outcome)
        .isInstanceOfSatisfying(Outcome.Done.class, done -> assertThat(done.errands()).hasSize(2));
    Person oda = person("oda");
    assertThat(oda.value(Attributes.MANAGER)).isEqualTo(person("lena.aho").id().value().toString());
    assertThat(oda.status()).isEqualTo(PersonStatus.ACTIVE);
    assertThat(oda.next()).isEqualTo(PersonStatus.DEPARTED);
    assertThat(oda.until()).isEqualTo("2026-03-31T22:00:00Z");
    house.pass(Duration.ofDays(30));
    assertThat(person("oda").status()).isEqualTo(PersonStatus.DEPARTED);
  }

  @Test
  void theSameFileAgainChangesNothing() {
    importFile(TWO, Intake.Scope.ALL);
    Preview again = look(delivery(TWO, Intake.Scope.ALL));
    assertThat(again.count(Preview.Verdict.SAME)).isEqualTo(2);
    assertThat(again.edits()).isEmpty();
    assertThat(
            house.refused(
                Authority.SETUP,
                m ->
                    Intake.importFile(
                        m,
                        delivery(TWO, Intake.Scope.ALL),
                        new Intake.Agreed(again.digest(), null, false, false),
                        "")))
        .containsExactly("intake.nothing");
  }

  @Test
  void namesEveryBadLineWithWhatIsWrong() {
    importFile(TWO, Intake.Scope.ALL);
    assertThat(wrong("3,A,B,a.b,a@x,U,99,,\n")).contains("2: The manager “99” is unknown");
    assertThat(wrong("3,A,B,a.b,a@x,U,4,,\n4,C,D,c.d,c@x,U,3,,\n"))
        .contains("2: The managers form a circle: 3 → 4 → 3")
        .contains("3: The managers form a circle");
    assertThat(wrong("1,Lena,Aho,lena.aho,lena@x,Ticketing,2,,\n"))
        .contains("The managers form a circle");
    assertThat(wrong("3,A,B,a.b,a@x,U,3,,\n")).contains("circle");
    assertThat(wrong("3,A,B,a.b,a@x,U,,,\n3,A,B,a.c,a@x,U,,,\n"))
        .contains("2: The key “3” is also on line 3")
        .contains("3: The key “3” is also on line 2");
    assertThat(wrong("3,A,B,a.b,a@x,U,,31.12.2026,\n")).contains("is not a day");
    assertThat(wrong("3,A,B,a.b,a@x,U,,2026-05-01,2026-04-01\n")).contains("before the first");
    assertThat(wrong("3,=1+1,B,a.b,a@x,U,,,\n")).contains("holds a formula");
    assertThat(wrong("3,A,B,oda,a@x,U,,,\n"))
        .contains("The sign-in name “oda” belongs to Oda Brekke");
    assertThat(wrong("3,A,B,same,a@x,U,,,\n4,C,D,SAME,c@x,U,,,\n")).contains("3: The sign-in name");
    assertThat(wrong("3,,,a.b,a@x,U,,,\n")).contains("The name is missing");
    assertThat(wrong(",A,B,a.b,a@x,U,,,\n")).contains("The key is missing");
    assertThat(wrong("3,A,B,a.b,nowhere,U,,,\n")).contains("not an email address");
    assertThat(wrong("3,A,B,a.b,a@x,U\n")).contains("6 values under 9 headings");
    assertThat(wrong("3,A,B,a.b,a@x,U,99,,\n4,C,D,c.d,c@x,U,3,,\n"))
        .contains("3: The manager “3” is new on line 2, which is invalid");
  }

  @Test
  void onlyAFileOfEverythingEndsPeopleAndABadLineStillNamesThem() {
    importFile(TWO, Intake.Scope.ALL);
    GroupId desk = house.act(m -> GroupDecisions.make(m, "Desk", new FactValue.Form.Listed(), ""));
    PersonId oda = person("oda").id();
    house.act(m -> GroupDecisions.add(m, desk, List.of(oda), null, ""));
    assertThat(
            look(delivery("1,Lena,Aho,lena.aho,lena@x,Safety,,,\n", Intake.Scope.THESE_ROWS))
                .ended())
        .isEmpty();
    assertThat(
            look(delivery(
                    "1,Lena,Aho,lena.aho,l@x,T,,,\n2,Oda,Brekke,oda,bad,T,,,\n", Intake.Scope.ALL))
                .ended())
        .isEmpty();
    importFile("1,Lena,Aho,lena.aho,lena@x,Safety,,,\n", Intake.Scope.ALL);
    assertThat(house.directory().person(oda).orElseThrow().status())
        .isEqualTo(PersonStatus.DEPARTED);
    assertThat(house.directory().members(desk)).isEmpty();
  }

  @Test
  void endingManyAsksForTheirNumber() {
    importFile(TWO, Intake.Scope.ALL);
    Intake.Delivery one = delivery("1,Lena,Aho,lena.aho,lena@x,Ticketing,,,\n", Intake.Scope.ALL);
    Preview preview = look(one);
    assertThat(preview.endsMany()).isTrue();
    for (Integer typed : new Integer[] {null, 2}) {
      assertThat(
              house.refused(
                  Authority.SETUP,
                  m ->
                      Intake.importFile(
                          m, one, new Intake.Agreed(preview.digest(), typed, true, false), "")))
          .containsExactly("intake.many-endings");
    }
    house.act(
        m -> Intake.importFile(m, one, new Intake.Agreed(preview.digest(), 1, true, false), ""));
  }

  @Test
  void noFileBringsTheDepartedBack() {
    importFile(TWO, Intake.Scope.ALL);
    importFile("1,Lena,Aho,lena.aho,lena@x,Ticketing,,,\n", Intake.Scope.ALL);
    assertThat(wrong("2,Oda,Brekke,oda,oda@x,Ticketing,1,,\n"))
        .contains("A file cannot bring anyone back");
  }

  @Test
  void whatWasLearntLateKeepsTheStatedDay() {
    importFile(TWO, Intake.Scope.ALL);
    importFile("2,Oda,Brekke,oda,oda@x,Ticketing,1,,2026-02-27\n", Intake.Scope.THESE_ROWS);
    Person oda = person("oda");
    assertThat(oda.status()).isEqualTo(PersonStatus.DEPARTED);
    assertThat(oda.since()).isEqualTo(house.now());
    assertThat(oda.standing().stated()).hasToString("2026-02-27");
  }

  @Test
  void whatWasShownIsWhatIsDone() {
    Intake.Delivery delivery = delivery(TWO, Intake.Scope.ALL);
    Preview seen = look(delivery);
    house.person("oda", null);
    assertThat(
            house.refused(
                Authority.SETUP,
                m ->
                    Intake.importFile(
                        m, delivery, new Intake.Agreed(seen.digest(), null, true, false), "")))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void aMailAddressIsNoKey() {
    Matching mail = new Matching(Map.of("m", Matching.KEY, "n", Matching.DISPLAYED));
    Preview preview =
        look(
            new Intake.Delivery(
                HR, "Register", file("m,n\na@x,A\nb@x,B\n"), mail, Intake.Scope.THESE_ROWS, ""));
    assertThat(preview.problems())
        .singleElement()
        .extracting(Problem::sentence)
        .asString()
        .contains("An email address is not a key");
  }

  @Test
  void refusesWhatIsNoCsv() {
    assertThat(bad("PK\u0003\u0004zip".getBytes(StandardCharsets.ISO_8859_1)))
        .contains("zip archive");
    assertThat(bad(new byte[] {(byte) 0xff, (byte) 0xfe, 'a', 0})).contains("UTF-16");
    assertThat(bad("no,name\n1,Åse\n".getBytes(StandardCharsets.ISO_8859_1)))
        .contains("Line 2 is not UTF-8");
    assertThat(bad(new byte[DeliveredFile.MOST_BYTES + 1])).contains("at most 20 MB");
    assertThat(bad("a,a\n1,2\n".getBytes(StandardCharsets.UTF_8))).contains("Two columns");
    assertThat(bad("a,b\n\"1,2\n".getBytes(StandardCharsets.UTF_8))).contains("quote");
    assertThat(bad("a,b\n".getBytes(StandardCharsets.UTF_8))).contains("no rows");
    assertThat(bad(new byte[0])).contains("empty");
    assertThat(file("\ufeffa;b\n1;2\n").columns()).containsExactly("a", "b");
  }

  private static String bad(byte[] bytes) {
    return ((DeliveredFile.Reading.Bad) DeliveredFile.read(bytes)).sentence();
  }
}
