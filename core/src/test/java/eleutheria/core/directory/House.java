package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** A small organisation in memory, for tests: acts run through the same steps as in the server. */
public final class House {
  public static final ZoneId ZONE = ZoneId.of("Europe/Oslo");

  public final Facts facts = new Facts();
  private final FreshIds ids = new FreshIds(new SplittableRandom(42));
  private Instant at = Instant.parse("2026-03-02T08:00:00Z");
  private DirectoryView directory = DirectoryView.of(facts, at);

  private @Nullable Watcher watcher;

  /** Sees each act between its decision and its taking. */
  public interface Watcher {
    void see(Facts before, DirectoryView directory, List<Edit> edits, List<Move> moves, Instant at);
  }

  public House() {
    act(FirstSteward::shipped);
  }

  public void watch(Watcher watcher) {
    this.watcher = watcher;
  }

  public AccessView access() {
    return AccessView.of(facts, directory, at);
  }

  public DirectoryView directory() {
    return directory;
  }

  public Instant now() {
    return at;
  }

  /** Lets time pass. */
  public House pass(Duration duration) {
    at = at.plus(duration);
    directory = directory.later(facts, at);
    return this;
  }

  public <T> Outcome<T> decide(Authority authority, Function<Moment, Outcome<T>> decision) {
    at = Moments.next(at, at);
    directory = directory.later(facts, at);
    Outcome<T> outcome =
        decision.apply(new Moment(facts, directory, at, ZONE, () -> ids.next(at), authority));
    if (outcome instanceof Outcome.Done<T> done) {
      Applied applied = facts.apply(done.edits(), at);
      assertThat(applied).isInstanceOf(Applied.Moves.class);
      List<Move> moves = ((Applied.Moves) applied).moves();
      if (watcher != null) {
        watcher.see(facts, directory, done.edits(), moves, at);
      }
      facts.take(moves);
      directory = directory.after(facts, moves, at);
    }
    return outcome;
  }

  /** An act that must succeed. */
  public <T> T act(Function<Moment, Outcome<T>> decision) {
    return act(Authority.SETUP, decision);
  }

  public <T> T act(Authority authority, Function<Moment, Outcome<T>> decision) {
    Outcome<T> outcome = decide(authority, decision);
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    return ((Outcome.Done<T>) outcome).result();
  }

  /** The codes of everything that stands in the way of an act. */
  public <T> List<String> refused(Authority authority, Function<Moment, Outcome<T>> decision) {
    Outcome<T> outcome = decide(authority, decision);
    assertThat(outcome).isInstanceOf(Outcome.Refused.class);
    return ((Outcome.Refused<T>) outcome).problems().stream().map(Problem::code).toList();
  }

  public PersonId person(String name, @Nullable String unit) {
    return act(
        moment -> {
          PersonId id = new PersonId(moment.ids().get());
          Edits edits = moment.edits();
          edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
          edits.put(new FactKey.Naming(id), new FactValue.PersonName(name, "", name));
          edits.put(new FactKey.Status(id), FactValue.Standing.of(PersonStatus.ACTIVE));
          String userName = name.toLowerCase(java.util.Locale.ROOT).replace(' ', '.');
          edits.put(
              Attributes.key(id, Attributes.USER_NAME, false, userName),
              new FactValue.Text(userName));
          if (unit != null) {
            edits.put(Attributes.key(id, Attributes.UNIT, false, unit), new FactValue.Text(unit));
          }
          return Outcome.done(
              eleutheria.core.ledger.Act.of(ActName.SETTINGS_BEGIN, id), edits.list(), id);
        });
  }

  /** Sets what is on record of a person. */
  public void set(FactKey key, FactValue value) {
    act(
        moment -> {
          Edits edits = moment.edits();
          edits.put(key, value);
          return Outcome.done(
              eleutheria.core.ledger.Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  public void manager(PersonId person, PersonId manager) {
    set(
        Attributes.key(person, Attributes.MANAGER, false, ""),
        new FactValue.Text(manager.value().toString()));
  }

  public void status(PersonId person, PersonStatus status) {
    set(new FactKey.Status(person), FactValue.Standing.of(status));
  }

  /** An open application with one entitlement that may be asked for. */
  public EntitlementId role(String app, Sensitivity sensitivity, PersonId... owners) {
    ApplicationId id =
        act(
            m ->
                AppDecisions.propose(
                    m,
                    new FactValue.Profile(app, "", "key", "tide", sensitivity, ""),
                    "https://app.example/",
                    List.of(owners),
                    List.of(new AppDecisions.WantedRole("User", "", sensitivity, true))));
    if (owners.length == 0) {
      set(new FactKey.AppState(id), new FactValue.AppState(ApplicationState.OPEN));
    } else {
      state(id, ApplicationState.PROPOSED, ApplicationState.OPEN);
    }
    return access().apps().application(id).orElseThrow().entitlements().getFirst().id();
  }

  public void state(ApplicationId app, ApplicationState base, ApplicationState wanted) {
    act(m -> AppDecisions.setState(m, app, base, wanted, "for a test"));
  }

  public ApplicationId app(EntitlementId role) {
    return access().apps().entitlement(role).orElseThrow().application();
  }

  public void hold(eleutheria.core.facts.MandateId mandate, eleutheria.core.facts.ObjectId holder) {
    act(
        moment -> {
          Edits edits = moment.edits();
          edits.put(new FactKey.MandateHeld(mandate, holder), FactValue.Present.PRESENT);
          return Outcome.done(
              eleutheria.core.ledger.Act.of(ActName.SETTINGS_BEGIN, mandate), edits.list(), 1);
        });
  }

  public Authority authority(PersonId person) {
    return directory.authority(person);
  }
}
