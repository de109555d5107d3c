package eleutheria.core.directory.intake;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.Group;
import eleutheria.core.directory.House;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class GroupIntakeTest {
  private static final SourceId HR = new SourceId(new UUID(1, 1));
  private static final Matching PEOPLE =
      new Matching(Map.of("no", Matching.KEY, "name", Matching.DISPLAYED));
  private static final Matching GROUPS =
      new Matching(
          Map.of(
              "g",
              Matching.GROUP,
              "n",
              Matching.GROUP_NAME,
              "p",
              Matching.MEMBER,
              "m",
              Matching.MEMBER_GROUP));

  private final House house = new House();

  @BeforeEach
  void people() {
    importFile("no,name\n1,Lena\n2,Oda\n3,Nils\n", PEOPLE, Intake.Scope.ALL);
  }

  private Preview importFile(String text, Matching matching, Intake.Scope scope) {
    Intake.Delivery delivery =
        new Intake.Delivery(
            HR,
            "Register",
            ((DeliveredFile.Reading.Good) DeliveredFile.read(text.getBytes(StandardCharsets.UTF_8)))
                .file(),
            matching,
            scope,
            "");
    List<Preview> seen = new ArrayList<>();
    house.decide(
        Authority.SETUP,
        m -> {
          seen.add(Intake.preview(m, delivery));
          return Outcome.refused(Problem.absent("nothing"));
        });
    Preview preview = seen.getFirst();
    house.decide(
        Authority.SETUP,
        m ->
            Intake.importFile(
                m,
                delivery,
                new Intake.Agreed(preview.digest(), preview.ended().size(), true, false),
                ""));
    return preview;
  }

  private int members(String group) {
    return house.directory().groups().stream()
        .filter(g -> g.name().equals(group))
        .map(Group::id)
        .mapToInt(id -> house.directory().members(id).size())
        .findFirst()
        .orElse(-1);
  }

  @Test
  void mirrorsGroupsAndNestsThem() {
    importFile(
        "g,n,p,m\nA,Watch A,1,\nA,Watch A,2,\nALL,All watches,,A\nALL,All watches,3,\n",
        GROUPS,
        Intake.Scope.ALL);
    assertThat(members("Watch A")).isEqualTo(2);
    assertThat(members("All watches")).isEqualTo(3);
  }

  @Test
  void tellsBadLinesAndBringsTheOthers() {
    Preview preview =
        importFile(
            "g,n,p,m\nA,Watch A,1,\nA,Watch A,1,\nA,Watch A,9,\nB,Watch B,,A\nA,Watch A,,B\nA,,,\n",
            GROUPS,
            Intake.Scope.ALL);
    assertThat(
            preview.lines().stream()
                .filter(l -> l.verdict() == Preview.Verdict.BAD)
                .map(l -> l.wrong().getFirst()))
        .containsExactly(
            "Line 2 says the same.",
            "The person “9” is unknown in this source.",
            "The groups would contain each other in a circle.",
            "A row names one member: a person or a group.");
    assertThat(members("Watch B")).isEqualTo(1);
  }

  @Test
  void aFileOfEverythingTakesOutWhoIsNotInIt() {
    importFile("g,n,p,m\nA,Watch A,1,\nA,Watch A,2,\n", GROUPS, Intake.Scope.ALL);
    Preview less = importFile("g,n,p,m\nA,Watch A,2,\n", GROUPS, Intake.Scope.ALL);
    assertThat(less.ended())
        .singleElement()
        .extracting(Preview.Ended::label)
        .isEqualTo("Watch A: Lena");
    assertThat(members("Watch A")).isEqualTo(1);
  }
}
