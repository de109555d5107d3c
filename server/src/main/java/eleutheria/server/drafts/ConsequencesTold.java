package eleutheria.server.drafts;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.Grant;
import eleutheria.core.access.People;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.drafts.Consequences;
import eleutheria.core.drafts.Marks;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.PortalView;
import eleutheria.server.ledger.ThingNames;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.writing.ConsequencesView;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Consequences as a reader is told them: cut to their reach, with the names of what moves. */
final class ConsequencesTold {
  /** So many rows of a moment are told at once. */
  private static final int ROWS = 200;

  /** So many units of a row are named. */
  private static final int UNITS = 3;

  /** Units are told of rows of at most so many people. */
  private static final int LOOKED_AT = 5_000;

  static final ConsequencesView.Counts NOTHING =
      new ConsequencesView.Counts(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);

  private static final Set<String> IDLE = Set.of("lose", "ends");

  private ConsequencesTold() {}

  /** People cut to what a reader may see; counts are of those alone. */
  static final class Cut {
    private final AccessReach reach;
    private final PortalView now;
    private boolean cut;

    Cut(AccessReach reach, PortalView now) {
      this.reach = reach;
      this.now = now;
    }

    boolean anything() {
      return cut;
    }

    Set<PersonId> of(ObjectId thing, Set<PersonId> people) {
      Entitlement entitlement =
          thing instanceof EntitlementId id
              ? now.access().apps().entitlement(id).orElse(null)
              : null;
      if (entitlement != null ? reach.seesAll(entitlement) : reach.seesEveryone()) {
        return people;
      }
      Set<PersonId> found = new HashSet<>();
      for (PersonId id : people) {
        if (now.directory()
            .person(id)
            .filter(p -> entitlement == null ? reach.sees(p) : reach.sees(p, entitlement))
            .isPresent()) {
          found.add(id);
        }
      }
      cut |= found.size() < people.size();
      return found;
    }

    <K extends ObjectId> Set<PersonId> all(Map<K, Set<PersonId>> some) {
      List<Set<PersonId>> parts = new ArrayList<>();
      some.forEach((thing, people) -> parts.add(of(thing, people)));
      return People.any(parts);
    }

    /** Breaches of people whom the reader may see. */
    List<Conflict> seen(Set<Conflict> conflicts) {
      List<Conflict> found = new ArrayList<>();
      for (Conflict conflict : conflicts) {
        if (now.directory().person(conflict.person()).filter(reach::sees).isPresent()) {
          found.add(conflict);
        } else {
          cut = true;
        }
      }
      return found;
    }

    ConsequencesView.Counts counts(Consequences.At at) {
      Set<PersonId> gain = all(at.gain());
      Set<PersonId> loss = all(at.loss());
      return new ConsequencesView.Counts(
          gain.size(),
          loss.size(),
          all(at.keep()).size(),
          all(at.ends()).size(),
          all(at.back()).size(),
          all(last(at)).size(),
          People.minus(all(at.more()), gain).size(),
          People.minus(all(at.less()), loss).size(),
          all(moved(at)).size(),
          all(met(at)).size(),
          seen(at.conflicts()).size(),
          seen(at.settled()).size());
    }
  }

  /** Collections that somebody meets in another order. */
  static Map<ObjectId, Set<PersonId>> moved(Consequences.At at) {
    return of(at, false);
  }

  /** Front pages that somebody meets who met another one. */
  static Map<ObjectId, Set<PersonId>> met(Consequences.At at) {
    return of(at, true);
  }

  private static Map<ObjectId, Set<PersonId>> of(Consequences.At at, boolean pages) {
    Map<ObjectId, Set<PersonId>> found = new LinkedHashMap<>(at.moved());
    found.keySet().removeIf(thing -> thing instanceof FrontPageId != pages);
    return found;
  }

  /**
   * @param publishing the instant of the first moment
   * @param seen what the reader saw when they looked before; null for nothing
   * @param named so many people of a row are named
   */
  static List<ConsequencesView.MomentView> moments(
      Consequences consequences,
      Instant publishing,
      Cut cut,
      ThingNames names,
      PortalView now,
      @Nullable Marks seen,
      int named) {
    return consequences.moments().stream()
        .map(at -> moment(at, publishing, cut, names, now, seen, named))
        .toList();
  }

  private static ConsequencesView.MomentView moment(
      Consequences.At at,
      Instant publishing,
      Cut cut,
      ThingNames names,
      PortalView now,
      @Nullable Marks seen,
      int named) {
    List<ConsequencesView.RowView> rows = new ArrayList<>();
    Rows maker = new Rows(at, cut, names, now, seen, named, rows);
    maker.add("gain", at.gain());
    maker.add("lose", at.loss());
    maker.add("keep", at.keep());
    maker.add("ends", at.ends());
    maker.add("back", at.back());
    maker.add("last", last(at));
    maker.add("more", at.more());
    maker.add("less", at.less());
    maker.add("moved", moved(at));
    maker.add("met", met(at));
    return new ConsequencesView.MomentView(
        at.at(),
        !at.at().isAfter(publishing),
        cut.counts(at),
        Stream.concat(
                cut.seen(at.conflicts()).stream().map(c -> conflict(at, c, names, now, true)),
                cut.seen(at.settled()).stream().map(c -> conflict(at, c, names, now, false)))
            .limit(ROWS)
            .toList(),
        rows.stream().limit(ROWS).toList(),
        Math.max(0, rows.size() - ROWS));
  }

  private static ConsequencesView.ConflictView conflict(
      Consequences.At at, Conflict conflict, ThingNames names, PortalView now, boolean begins) {
    Set<PersonId> person = Set.of(conflict.person());
    return new ConsequencesView.ConflictView(
        conflict.rule().value().toString(),
        names.of(conflict.rule()),
        now.directory().person(conflict.person()).map(PersonLine::named).orElseThrow(),
        conflict.one().value().toString(),
        names.of(conflict.one()),
        conflict.other().value().toString(),
        names.of(conflict.other()),
        begins,
        at.stopping().contains(conflict),
        Stream.of(conflict.one(), conflict.other(), conflict.rule())
            .flatMap(thing -> at.because(thing, person).stream())
            .distinct()
            .sorted()
            .toList());
  }

  private record Rows(
      Consequences.At at,
      Cut cut,
      ThingNames names,
      PortalView now,
      @Nullable Marks seen,
      int most,
      List<ConsequencesView.RowView> rows) {
    <K extends ObjectId> void add(String sign, Map<K, Set<PersonId>> things) {
      List<ConsequencesView.RowView> own = new ArrayList<>();
      things.forEach(
          (thing, all) -> {
            Set<PersonId> people = cut.of(thing, all);
            if (!people.isEmpty()) {
              own.add(row(sign, thing, people));
            }
          });
      own.sort(
          Comparator.comparingInt(ConsequencesView.RowView::people)
              .reversed()
              .thenComparing(ConsequencesView.RowView::title));
      rows.addAll(own);
    }

    private ConsequencesView.RowView row(String sign, ObjectId thing, Set<PersonId> people) {
      DirectoryView directory = now.directory();
      Map<String, Integer> units = new HashMap<>();
      List<Person> named = new ArrayList<>();
      int grown = 0;
      boolean marked = seen != null && (sign.equals("gain") || sign.equals("lose"));
      boolean few = people.size() <= LOOKED_AT;
      for (PersonId id : few || marked ? people : Set.<PersonId>of()) {
        Person person = few ? directory.person(id).orElse(null) : null;
        if (person != null) {
          String unit = person.value(Attributes.UNIT);
          units.merge(unit == null ? "" : unit, 1, Integer::sum);
          if (people.size() <= most) {
            named.add(person);
          }
        }
        if (marked
            && thing instanceof EntitlementId e
            && !Objects.requireNonNull(seen).has(Marks.of(sign.equals("gain"), e, id))) {
          grown++;
        }
      }
      return new ConsequencesView.RowView(
          sign,
          thing.kind().word(),
          thing.value().toString(),
          names.of(thing),
          people.size(),
          named.stream().sorted().limit(most).map(PersonLine::named).toList(),
          units.entrySet().stream()
              .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
              .limit(UNITS)
              .map(Map.Entry::getKey)
              .filter(unit -> !unit.isEmpty())
              .toList(),
          at.because(thing, people),
          sign.equals("keep") && thing instanceof EntitlementId e ? rest(e, people) : null,
          grown,
          IDLE.contains(sign) && thing instanceof EntitlementId id
              ? People.and(people, at.idle().getOrDefault(id, People.NOBODY)).size()
              : 0);
    }

    private ConsequencesView.RestView rest(EntitlementId entitlement, Set<PersonId> people) {
      Map<PersonId, Consequences.Rest> all = at.rest().getOrDefault(entitlement, Map.of());
      Instant until = null;
      Set<String> sources = new TreeSet<>();
      for (PersonId person : people) {
        Consequences.Rest rest = all.get(person);
        if (rest != null) {
          sources.addAll(sources(rest));
          Instant end = rest.until();
          if (end != null && (until == null || end.isBefore(until))) {
            until = end;
          }
        }
      }
      return new ConsequencesView.RestView(List.copyOf(sources), until);
    }
  }

  /** Who loses the last of what they held of an application. */
  static Map<ApplicationId, Set<PersonId>> last(Consequences.At at) {
    Map<ApplicationId, Set<PersonId>> found = new LinkedHashMap<>();
    at.last().forEach((app, ended) -> found.put(app, ended.people()));
    return found;
  }

  static List<String> sources(Consequences.Rest rest) {
    return rest.grants().stream()
        .map((Grant grant) -> grant.given().source().word())
        .distinct()
        .sorted()
        .toList();
  }
}
