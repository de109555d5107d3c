package eleutheria.core.docket;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.RequestDecisions;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class DocketTest {
  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId lead = house.person("Lena Aho", "Ticketing");
  private final EntitlementId role = house.role("Crewsheet", Sensitivity.LOW, steward);
  private final List<AccessRequest> open = new ArrayList<>();

  DocketTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
  }

  private PersonId cadet(String name) {
    PersonId cadet = house.person(name, "Deck crew");
    house.manager(cadet, lead);
    return cadet;
  }

  private AccessRequest ask(PersonId asker, @Nullable LocalDate until) {
    return ask(asker, until, Map.of());
  }

  private AccessRequest ask(
      PersonId asker, @Nullable LocalDate until, Map<String, List<String>> answers) {
    AccessRequest request =
        house.act(
            house.authority(asker),
            m ->
                RequestDecisions.ask(
                    m, open.size(), asker, role, until, "for the season", answers, List.of()));
    open.add(request);
    return request;
  }

  private List<Case> docket(PersonId reader, boolean all) {
    return Docket.of(
        house.access(), Docket.Waits.of(open), house.authority(reader), house.now(), all);
  }

  private LocalDate day(int after) {
    return house.now().atZone(House.ZONE).toLocalDate().plusDays(after);
  }

  @Test
  void itShowsWhatWaitsForTheReaderAndWhatTheyCouldDecideForOthers() {
    PersonId asker = cadet("Cadet 1");
    ask(asker, null);
    assertThat(docket(lead, false)).hasSize(1);
    assertThat(docket(steward, false)).isEmpty();
    assertThat(docket(steward, true)).hasSize(1);
    assertThat(docket(asker, true)).as("never one's own").isEmpty();
  }

  @Test
  void aStepIsOnTheDocketOnceTheOneBeforeCannotBeTakenBackAnyMore() {
    AccessRequest request = ask(cadet("Cadet 1"), null);
    AccessRequest half =
        house.act(
            house.authority(lead),
            m -> RequestDecisions.answer(m, request, 0, true, null, "", Duration.ofSeconds(10)));
    open.set(0, half);
    assertThat(docket(steward, false)).isEmpty();
    house.pass(Duration.ofSeconds(11));
    assertThat(docket(steward, false)).hasSize(1);
  }

  @Test
  void alikeOnesFoldAndNoFoldHidesTheOddOne() {
    for (int i = 0; i < 4; i++) {
      ask(cadet("Cadet " + i), day(30));
    }
    ask(cadet("Longer"), day(60));
    PersonId holder = cadet("Holder");
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfPerson(holder)), null, day(10), "x"));
    ask(holder, day(30));
    List<List<Case>> folds = Docket.folded(docket(lead, false));
    assertThat(folds.stream().map(List::size)).containsExactly(4, 1, 1);
    for (List<Case> fold : folds) {
      assertThat(fold.stream().map(Case::likeness).distinct()).hasSize(1);
    }
    assertThat(folds.stream().mapToInt(List::size).sum()).isEqualTo(open.size());
  }

  @Test
  void whoeverAnsweredSomethingElseIsReadAlone() {
    house.set(
        new FactKey.RequestForm(new RequestScope.OfAll()),
        new FactValue.RequestForm(
            List.of(new Question("till", "Which till?", "", false, new Question.ShortText(""), "")),
            Term.SHIPPED));
    for (String till : List.of("Harrow Quay", "Harrow Quay", "Skarholm", "")) {
      ask(cadet("Cadet " + open.size()), day(30), Map.of("till", List.of(till)));
    }
    assertThat(Docket.folded(docket(lead, false)).stream().map(List::size))
        .containsExactly(2, 1, 1);
  }

  @Test
  void whatIsDueFirstStandsFirst() {
    ask(cadet("Cadet 1"), day(30));
    house.pass(Duration.ofDays(2));
    ask(cadet("Cadet 2"), day(40));
    assertThat(docket(lead, false).stream().map(Case::due)).isSorted();
  }

  @Test
  void whoLeavesAndOwnsSomethingAloneIsACaseAWeekBefore() {
    PersonId leaver = house.person("Tomas Ilves", "Yard");
    var group =
        house.act(m -> GroupDecisions.make(m, "Yard keys", new FactValue.Form.Listed(), ""));
    house.act(m -> GroupDecisions.setOwners(m, group, List.of(), List.of(leaver)));
    Instant last = Moments.endOf(day(20), House.ZONE);
    house.act(
        m -> {
          var edits = m.edits();
          edits.timeline(
              new FactKey.Status(leaver),
              List.of(
                  new Spell(FactValue.Standing.of(PersonStatus.ACTIVE), m.at(), last),
                  new Spell(FactValue.Standing.of(PersonStatus.DEPARTED), last, Moments.FOREVER)));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    assertThat(docket(steward, false)).isEmpty();
    house.pass(Duration.ofDays(14));
    assertThat(docket(steward, false))
        .singleElement()
        .satisfies(c -> assertThat(((Case.Leaving) c).lone()).containsExactly(group));
    assertThat(docket(lead, false)).as("without the power").isEmpty();
    PersonId second = house.person("Second", "Yard");
    house.act(m -> GroupDecisions.setOwners(m, group, List.of(leaver), List.of(leaver, second)));
    assertThat(docket(steward, false)).isEmpty();
  }
}
