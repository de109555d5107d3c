package eleutheria.server.directory;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Identity;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Power;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.server.reach.Reached;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.signon.Accounts;
import eleutheria.server.signon.Doors;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.signon.SessionsDoor;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** People: listed, found, looked at, invited. */
@RestController
public class PeopleController {

  private final World world;
  private final Acts acts;
  private final Accounts accounts;
  private final SessionsDoor sessions;
  private final Doors doors;
  private final FreshSignIn freshSignIn;

  PeopleController(
      World world,
      Acts acts,
      Accounts accounts,
      SessionsDoor sessions,
      Doors doors,
      FreshSignIn freshSignIn) {
    this.world = world;
    this.acts = acts;
    this.accounts = accounts;
    this.sessions = sessions;
    this.doors = doors;
    this.freshSignIn = freshSignIn;
  }

  /**
   * A page of people.
   *
   * @param total how many fit the query
   * @param of how many there are within reach, whatever their status
   * @param facets for each of unit, site and status, how many within reach have which value
   */
  record PeoplePage(
      int total,
      int of,
      boolean limited,
      List<PersonLine> lines,
      Map<String, List<Facet>> facets,
      Instant at,
      long position) {}

  record Facet(String value, int count) {}

  /**
   * @param account whether the person has set a password
   */
  record PersonPage(PersonView person, boolean account, Instant at, long position) {}

  /**
   * @param find any part of a name, sign-in name, mail or key
   * @param sort name, unit, site, title, status or since
   * @param limit at most 500
   * @param asOf a past moment; now if absent
   */
  @GetMapping("/api/people")
  @Needs(Power.PEOPLE_READ)
  PeoplePage people(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") List<String> unit,
      @RequestParam(defaultValue = "") List<String> site,
      @RequestParam(defaultValue = "") List<String> status,
      @RequestParam(defaultValue = "name") String sort,
      @RequestParam(defaultValue = "false") boolean descending,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit,
      @RequestParam(required = false) @Nullable Instant asOf) {
    Reached reached = Reached.by(viewer, world.at(asOf), world.now());
    List<Person> all = reached.people();
    String wanted = Folding.bare(find.strip());
    List<Person> fitting =
        all.stream()
            .filter(p -> wanted.isEmpty() || p.foundBy(wanted))
            .filter(p -> among(unit, p.value(Attributes.UNIT)))
            .filter(p -> among(site, p.value(Attributes.SITE)))
            .filter(p -> among(status, p.status().word()))
            .sorted(order(sort, descending))
            .toList();
    return new PeoplePage(
        fitting.size(),
        all.size(),
        !reached.everyone(),
        Pages.of(fitting.stream(), offset, limit).map(PersonLine::of).toList(),
        Map.of(
            "unit", facet(all, p -> p.value(Attributes.UNIT)),
            "site", facet(all, p -> p.value(Attributes.SITE)),
            "status", facet(all, p -> p.status().word())),
        reached.directory().at(),
        world.position());
  }

  private static boolean among(List<String> wanted, @Nullable String value) {
    return wanted.isEmpty() || wanted.contains(value == null ? "" : value);
  }

  private static List<Facet> facet(List<Person> people, Function<Person, @Nullable String> value) {
    Map<String, Integer> counts = new TreeMap<>();
    people.forEach(
        p -> counts.merge(Optional.ofNullable(value.apply(p)).orElse(""), 1, Integer::sum));
    return counts.entrySet().stream().map(e -> new Facet(e.getKey(), e.getValue())).toList();
  }

  private static Comparator<Person> order(String sort, boolean descending) {
    Comparator<Person> order =
        switch (sort) {
          case "unit" -> by(p -> p.value(Attributes.UNIT));
          case "site" -> by(p -> p.value(Attributes.SITE));
          case "title" -> by(p -> p.value(Attributes.TITLE));
          case "status" -> Comparator.comparing(Person::status);
          case "since" -> Comparator.comparing(Person::since);
          default -> Comparator.naturalOrder();
        };
    return (descending ? order.reversed() : order).thenComparing(Comparator.naturalOrder());
  }

  private static Comparator<Person> by(Function<Person, @Nullable String> value) {
    return Comparator.comparing(
        p -> Folding.bare(Optional.ofNullable(value.apply(p)).orElse("\uffff")));
  }

  @GetMapping("/api/people/{id}")
  @Needs(Power.PEOPLE_READ)
  PersonPage person(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant asOf) {
    Reached reached = Reached.by(viewer, world.at(asOf), world.now());
    Person person = reached.person(new PersonId(id));
    return new PersonPage(
        PersonView.of(reached.directory(), person, group -> true),
        accounts.exists(person.id()),
        reached.directory().at(),
        world.position());
  }

  @PostMapping("/api/people/{id}/invitation")
  @Needs({Power.PEOPLE_EDIT, Power.SIGNIN_HELP})
  Receipt invite(Viewer viewer, @PathVariable UUID id, IdempotencyKey repeatKey) {
    return link(viewer, id, repeatKey.value(), AccountDecisions::invite);
  }

  /** Sends somebody who has a password a link to set a new one. */
  @PostMapping("/api/people/{id}/password-reset")
  @Needs({Power.PEOPLE_EDIT, Power.SIGNIN_HELP})
  Receipt reset(Viewer viewer, @PathVariable UUID id, IdempotencyKey repeatKey) {
    return link(viewer, id, repeatKey.value(), AccountDecisions::reset);
  }

  /** Ends everything by which somebody is signed in, and every link and token of theirs. */
  @PostMapping("/api/people/{id}/end-sessions")
  @Needs({Power.PEOPLE_EDIT, Power.SIGNIN_HELP})
  Receipt endSessions(Viewer viewer, @PathVariable UUID id, IdempotencyKey repeatKey) {
    PersonId person = new PersonId(id);
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            PersonId.class,
            moment -> AccountDecisions.endSessions(moment, person, sessions.count(person)),
            (tx, result, entry) -> doors.shut(tx, person, null)));
  }

  private interface LinkDecision {
    Outcome<PersonId> decide(Moment moment, PersonId person, AccountDecisions.Account account);
  }

  /** Sends a link by which a password is set: whoever has it sent could become that person. */
  private Receipt link(Viewer viewer, UUID id, @Nullable String repeatKey, LinkDecision decision) {
    PersonId person = new PersonId(id);
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            PersonId.class,
            moment -> {
              if (Identity.guarded(moment, person)) {
                freshSignIn.require();
              }
              return decision.decide(moment, person, accounts.account(person));
            }));
  }
}
