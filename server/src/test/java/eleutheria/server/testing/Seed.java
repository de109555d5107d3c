package eleutheria.server.testing;

import static eleutheria.server.tables.Tables.ACCOUNT;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.FirstSteward;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.server.writing.Loader;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;

/** A small organisation with a day of past: a steward, one with a small reach, an owner, staff. */
public final class Seed {
  public static final String PASSWORD = "tern over the sound";
  public static final Instant BEGIN = Instant.parse("2026-03-02T08:00:00Z");
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private static final Actor SETUP = new Actor.Setup();

  private final Loader loader;
  private final Map<String, PersonId> people = new TreeMap<>();
  private GroupId desk;
  private Shop shop;

  private Seed(Loader loader) {
    this.loader = loader;
  }

  /** What is done on top of the small organisation before the clock of the server takes over. */
  public interface More {
    void with(Seed seed, Loader loader, DSLContext db);
  }

  public static Seed into(String url, String user, String password) {
    return into(url, user, password, Instant.now(), (seed, loader, db) -> {});
  }

  /** With applications. */
  public static Seed shop(String url, String user, String password) {
    return into(url, user, password, Instant.now(), (seed, loader, db) -> seed.openShop(loader));
  }

  public void openShop(Loader loader) {
    shop = new Shop(loader, people);
    shop.fill();
  }

  /**
   * @param until up to when the clock has done its part
   */
  public static Seed into(String url, String user, String password, Instant until, More more) {
    Flyway.configure().dataSource(url, user, password).load().migrate();
    try (Connection connection = DriverManager.getConnection(url, user, password)) {
      DSLContext db = DSL.using(connection, SQLDialect.MARIADB);
      Seed seed = new Seed(new Loader(db, ZONE, new SplittableRandom(3)));
      seed.fill();
      more.with(seed, seed.loader, db);
      seed.loader.finish(until);
      String hash = new Argon2PasswordEncoder(16, 32, 1, 1024, 1).encode(PASSWORD);
      for (PersonId id : seed.people.values()) {
        db.insertInto(ACCOUNT)
            .set(ACCOUNT.PERSON_ID, id.value())
            .set(ACCOUNT.PASSWORD, hash)
            .set(ACCOUNT.CHANGED_AT, BEGIN)
            .execute();
      }
      return seed;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  public PersonId person(String userName) {
    return people.get(userName);
  }

  public Shop shop() {
    return shop;
  }

  public GroupId desk() {
    return desk;
  }

  private void fill() {
    loader.act(BEGIN, SETUP, FirstSteward::shipped);
    add("ines", "Ines Roth", "Yard", "ines@x.example", PersonStatus.ACTIVE);
    add("maren", "Maren Quist", "Ticketing", "maren@x.example", PersonStatus.ACTIVE);
    add("lena", "Lena Aho", "Ticketing", "lena@x.example", PersonStatus.ACTIVE);
    add("oda", "Oda Brekke", "Ticketing", "oda@x.example", PersonStatus.ACTIVE);
    add("nils", "Nils Sand", "Deck crew", "sand@x.example", PersonStatus.ACTIVE);
    add("nils.desk", "Nils Sand", "Yard", "sand@x.example", PersonStatus.ACTIVE);
    add("jonas", "Jonas Weir", "Finance", "jonas@x.example", PersonStatus.ACTIVE);
    add("gone", "Gone Away", "Finance", "gone@x.example", PersonStatus.DEPARTED);
    add("new", "New Comer", "Finance", "new@x.example", PersonStatus.EXPECTED);
    hold(ShippedMandate.STEWARD.id(), "ines");
    hold(ShippedMandate.AUDITOR.id(), "jonas");
    MandateId small = new MandateId(new UUID(7, 7));
    TreeSet<String> all = new TreeSet<>(ShippedMandate.STEWARD.terms().powers());
    act(
        edits ->
            edits.put(
                new FactKey.Mandate(small),
                new FactValue.Terms("Ticketing only", "", all, Reach.units("Ticketing"))));
    hold(small, "maren");
    desk =
        loader.act(
            BEGIN.plusSeconds(60),
            SETUP,
            m -> GroupDecisions.make(m, "Refund desk", new FactValue.Form.Listed(), ""));
    loader.act(
        BEGIN.plusSeconds(61),
        SETUP,
        m -> GroupDecisions.setOwners(m, desk, List.of(), List.of(person("lena"))));
  }

  /** More staff, staff1 and so on, who sign in like everyone and are led by Lena. */
  public List<PersonId> staff(int count) {
    List<PersonId> all = new ArrayList<>();
    for (int i = 1; i <= count; i++) {
      String name = "staff" + i;
      add(name, "Staff Number" + i, "Ticketing", name + "@x.example", PersonStatus.ACTIVE);
      PersonId id = person(name);
      all.add(id);
      act(
          edits ->
              edits.put(
                  Attributes.key(id, Attributes.MANAGER, false, ""),
                  new FactValue.Text(person("lena").value().toString())));
    }
    return all;
  }

  private interface Filling {
    void into(Edits edits);
  }

  private void act(Filling filling) {
    loader.act(
        BEGIN.plusSeconds(30),
        SETUP,
        moment -> {
          Edits edits = moment.edits();
          filling.into(edits);
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
  }

  private void hold(MandateId mandate, String userName) {
    act(
        edits ->
            edits.put(
                new FactKey.MandateHeld(mandate, person(userName)), FactValue.Present.PRESENT));
  }

  private void add(String userName, String name, String unit, String mail, PersonStatus status) {
    PersonId id =
        new PersonId(new UUID(0x0193_0000_0000_7000L, 0x8000_0000_0000_0100L + people.size()));
    people.put(userName, id);
    act(
        edits -> {
          edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
          String[] parts = name.split(" ");
          edits.put(new FactKey.Naming(id), new FactValue.PersonName(parts[0], parts[1], name));
          edits.put(new FactKey.Status(id), FactValue.Standing.of(status));
          for (var one :
              Map.of(Attributes.USER_NAME, userName, Attributes.UNIT, unit, Attributes.MAIL, mail)
                  .entrySet()) {
            edits.put(
                Attributes.key(id, one.getKey(), false, one.getValue()),
                new FactValue.Text(one.getValue()));
          }
        });
  }
}
