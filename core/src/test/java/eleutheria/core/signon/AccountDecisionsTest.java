package eleutheria.core.signon;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.FirstSteward;
import eleutheria.core.directory.House;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import org.junit.jupiter.api.Test;

class AccountDecisionsTest {
  private final House house = new House();

  private PersonId withMail(String name) {
    PersonId id = house.person(name, "Ticketing");
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(
              Attributes.key(id, Attributes.MAIL, false, ""), new FactValue.Text("a@x.example"));
          return Outcome.done(Act.of("test"), edits.list(), 1);
        });
    return id;
  }

  private void depart(PersonId id) {
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.DEPARTED));
          return Outcome.done(Act.of("test"), edits.list(), 1);
        });
  }

  @Test
  void anInvitationIsAnErrandForWhoHasMailAndHasNotDeparted() {
    PersonId oda = withMail("Oda Brekke");
    assertThat(house.decide(Authority.SETUP, m -> AccountDecisions.invite(m, oda)))
        .isInstanceOfSatisfying(
            Outcome.Done.class,
            done ->
                assertThat(done.errands()).isEqualTo(java.util.List.of(new Errand.Invite(oda))));
    PersonId silent = house.person("No Mail", "Ticketing");
    assertThat(house.refused(Authority.SETUP, m -> AccountDecisions.invite(m, silent)))
        .containsExactly("invite.no-mail");
    depart(oda);
    assertThat(house.refused(Authority.SETUP, m -> AccountDecisions.invite(m, oda)))
        .containsExactly("invite.departed");
    assertThat(house.refused(Authority.NONE, m -> AccountDecisions.invite(m, silent)))
        .containsExactly("power");
  }

  @Test
  void aPasswordIsJudgedAgainstOnesOwnNamesAndTheDepartedSetNone() {
    PersonId oda = withMail("Oda Brekke");
    assertThat(
            house.refused(
                Authority.NONE,
                m -> AccountDecisions.setPassword(m, oda, "account.open", "Oda Brekke 12")))
        .containsExactly("password");
    house.act(
        Authority.NONE,
        m -> AccountDecisions.setPassword(m, oda, "account.open", "tern over the sound"));
    depart(oda);
    assertThat(
            house.refused(
                Authority.NONE,
                m -> AccountDecisions.setPassword(m, oda, "account.open", "tern over the sound")))
        .containsExactly("absent");
  }

  @Test
  void thereIsOneFirstSteward() {
    assertThat(house.refused(Authority.SETUP, m -> FirstSteward.make(m, "", "", "a b", "nowhere")))
        .containsExactly("required", "user-name", "mail");
    PersonId ada = house.act(m -> FirstSteward.make(m, "Ada", "Moe", "ada", ""));
    assertThat(house.authority(ada).powers()).containsExactlyInAnyOrder(Power.values());
    assertThat(house.authority(ada).mandates())
        .containsExactly(ShippedMandate.STEWARD.terms().name());
    assertThat(house.refused(Authority.SETUP, m -> FirstSteward.make(m, "Eve", "", "eve", "")))
        .containsExactly("steward.there");
  }
}
