package eleutheria.core.signon;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.FirstSteward;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class AccountDecisionsTest {
  private static final AccountDecisions.Account NEW =
      new AccountDecisions.Account(false, null, null);

  private final House house = new House();

  private PersonId withMail(String name) {
    PersonId id = house.person(name, "Ticketing");
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(
              Attributes.key(id, Attributes.MAIL, false, ""), new FactValue.Text("a@x.example"));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    return id;
  }

  private void depart(PersonId id) {
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.DEPARTED));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  @Test
  void anInvitationIsAnErrandForWhoHasMailAndHasNotDeparted() {
    PersonId oda = withMail("Oda Brekke");
    assertThat(house.decide(Authority.SETUP, m -> AccountDecisions.invite(m, oda, NEW)))
        .isInstanceOfSatisfying(
            Outcome.Done.class,
            done -> assertThat(done.errands()).isEqualTo(List.of(new Errand.Invite(oda))));
    PersonId silent = house.person("No Mail", "Ticketing");
    assertThat(house.refused(Authority.SETUP, m -> AccountDecisions.invite(m, silent, NEW)))
        .containsExactly("invite.no-mail");
    depart(oda);
    assertThat(house.refused(Authority.SETUP, m -> AccountDecisions.invite(m, oda, NEW)))
        .containsExactly("invite.departed");
    assertThat(house.refused(Authority.NONE, m -> AccountDecisions.invite(m, silent, NEW)))
        .containsExactly("power");
  }

  @Test
  void aLinkFitsWhatTheAccountIsAndNoneGoesToAnAddressThatTheSenderHasJustChanged() {
    PersonId oda = withMail("Oda Brekke");
    PersonId helper = house.person("Emre Demir", "Ticketing");
    PersonId other = house.person("Other Helper", "Ticketing");
    house.hold(ShippedMandate.HELP_DESK.id(), helper);
    house.hold(ShippedMandate.HELP_DESK.id(), other);
    Authority desk = house.authority(helper);
    var opened = new AccountDecisions.Account(true, null, null);
    assertThat(house.refused(desk, m -> AccountDecisions.invite(m, oda, opened)))
        .containsExactly("invite.has-password");
    assertThat(house.refused(desk, m -> AccountDecisions.reset(m, oda, NEW)))
        .containsExactly("reset.no-password");
    house.act(desk, m -> AccountDecisions.reset(m, oda, opened));
    var changed = new AccountDecisions.Account(true, house.now(), helper);
    assertThat(house.refused(desk, m -> AccountDecisions.reset(m, oda, changed)))
        .containsExactly("address.young");
    house.act(house.authority(other), m -> AccountDecisions.reset(m, oda, changed));
    house.pass(AccountDecisions.YOUNG);
    house.act(desk, m -> AccountDecisions.reset(m, oda, changed));
  }

  @Test
  void aLinkForWhoeverHoldsPowersOrOwnsThingsNeedsTheSame() {
    PersonId ines = withMail("Ines Roth");
    PersonId helper = house.person("Emre Demir", "Ticketing");
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.hold(ShippedMandate.HELP_DESK.id(), helper);
    assertThat(house.refused(house.authority(helper), m -> AccountDecisions.invite(m, ines, NEW)))
        .containsExactly("identity");
    house.act(house.authority(ines), m -> AccountDecisions.invite(m, ines, NEW));
    PersonId owner = withMail("Petra Lindholm");
    house.role("Farebox", eleutheria.core.facts.Sensitivity.LOW, owner);
    assertThat(house.refused(house.authority(helper), m -> AccountDecisions.invite(m, owner, NEW)))
        .containsExactly("identity");
    // A pause keeps the mandate, so it keeps the guard.
    house.status(ines, PersonStatus.PAUSED);
    assertThat(house.refused(house.authority(helper), m -> AccountDecisions.invite(m, ines, NEW)))
        .containsExactly("identity");
    // So does a group that gives powers, of which somebody is a member only from a later day.
    PersonId soon = withMail("Soon Steward");
    GroupId stewards =
        house.act(m -> GroupDecisions.make(m, "Stewards", new FactValue.Form.Listed(), ""));
    house.hold(ShippedMandate.STEWARD.id(), stewards);
    house.act(house.authority(helper), m -> AccountDecisions.invite(m, soon, NEW));
    house.act(
        m -> {
          var edits = m.edits();
          edits.timeline(
              new FactKey.Membership(stewards, soon),
              List.of(
                  new Spell(
                      FactValue.Present.PRESENT,
                      m.at().plus(Duration.ofDays(5)),
                      Moments.FOREVER)));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    assertThat(house.refused(house.authority(helper), m -> AccountDecisions.invite(m, soon, NEW)))
        .containsExactly("identity");
  }

  @Test
  void aPasswordIsJudgedAgainstOnesOwnNamesAndTheDepartedSetNone() {
    PersonId oda = withMail("Oda Brekke");
    assertThat(
            house.refused(
                Authority.NONE,
                m ->
                    AccountDecisions.setPassword(
                        m, oda, ActName.ACCOUNT_OPEN, "Oda Brekke 12", null)))
        .containsExactly("password");
    house.act(
        Authority.NONE,
        m ->
            AccountDecisions.setPassword(
                m, oda, ActName.ACCOUNT_OPEN, "tern over the sound", null));
    depart(oda);
    assertThat(
            house.refused(
                Authority.NONE,
                m ->
                    AccountDecisions.setPassword(
                        m, oda, ActName.ACCOUNT_OPEN, "tern over the sound", null)))
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
