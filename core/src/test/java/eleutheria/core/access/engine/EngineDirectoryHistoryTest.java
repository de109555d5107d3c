package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** People and groups as the engine knows them, against plain collections, after every act. */
class EngineDirectoryHistoryTest {
  private String where = "";

  @ParameterizedTest
  @ValueSource(longs = {701, 702, 703, 704, 705, 706, 707, 708, 709, 710})
  void theEngineKnowsTheSamePeople(long seed) {
    RandomWorld world = new RandomWorld(seed);
    Store store = Store.of(world.facts);
    Engine engine = Engine.of(store, world.now);
    Facts columned = world.columned(store);
    DirectoryView fast = DirectoryView.of(columned, world.now, lookup(engine));
    List<Instant> instants = new ArrayList<>();
    for (int act = 1; act <= 120; act++) {
      where = "seed " + seed + " act " + act;
      if (world.random.nextInt(5) == 0) {
        world.pass();
        if (!world.now.isBefore(fast.until())) {
          engine.advance(world.now);
          fast = fast.later(columned, world.now, lookup(engine));
          same(fast, DirectoryView.of(world.facts, world.now), world);
        }
      }
      List<Move> moves = world.act();
      engine.take(moves, world.now);
      columned.take(moves);
      fast = fast.after(columned, moves, world.now, lookup(engine));
      instants.add(world.now);
      same(fast, DirectoryView.of(world.facts, world.now), world);
      assertThat(fast.until()).as(where).isBeforeOrEqualTo(next(world));
      Instant then = instants.get(world.random.nextInt(instants.size()));
      DirectoryView past =
          DirectoryView.of(columned, then, new EngineDirectory(engine.asOf(then), null));
      same(past, DirectoryView.of(world.facts, then), world);
    }
  }

  private static EngineDirectory lookup(Engine engine) {
    return new EngineDirectory(engine.now(), engine.next());
  }

  private void same(DirectoryView fast, DirectoryView plain, RandomWorld world) {
    assertThat(fast.size()).as(where).isEqualTo(plain.size());
    assertThat(fast.people()).as(where).isEqualTo(plain.people());
    for (Person wanted : plain.people()) {
      Person person = fast.person(wanted.id()).orElseThrow();
      assertThat(person.nameKey()).as(where).isEqualTo(wanted.nameKey());
      assertThat(person.next()).as(where).isEqualTo(wanted.next());
      assertThat(person.until()).as(where).isEqualTo(wanted.until());
      assertThat(fast.manager(wanted.id())).as(where).isEqualTo(plain.manager(wanted.id()));
      assertThat(fast.reports(wanted.id())).as(where).isEqualTo(plain.reports(wanted.id()));
      assertThat(fast.groupsOf(wanted.id()).stream().map(DirectoryView.Belonging::group))
          .as(where)
          .containsExactlyInAnyOrderElementsOf(existing(plain, wanted.id()));
    }
    for (String mail : List.of("ODA@tern.example", "strasse@tern.example", "none@tern.example")) {
      assertThat(fast.byMail(mail)).as(where).isEqualTo(plain.byMail(mail));
    }
    assertThat(fast.byUserName("Oda")).as(where).isEqualTo(plain.byUserName("Oda"));
    assertThat(fast.groups().stream().map(Group::id).toList())
        .as(where)
        .isEqualTo(plain.groups().stream().map(Group::id).toList());
    for (Group wanted : plain.groups()) {
      GroupId id = wanted.id();
      Group group = fast.group(id).orElseThrow();
      assertThat(group.form()).as(where).isEqualTo(wanted.form());
      assertThat(group.groups()).as(where).isEqualTo(wanted.groups());
      assertThat(fast.parents(id)).as(where).isEqualTo(plain.parents(id));
      assertThat(fast.above(id)).as(where).isEqualTo(plain.above(id));
      assertThat(fast.below(id)).as(where).isEqualTo(plain.below(id));
      assertThat(fast.direct(id)).as(where).isEqualTo(people(plain, plain.direct(id)));
      assertThat(fast.members(id)).as(where).isEqualTo(people(plain, plain.members(id)));
    }
    for (String text : RandomWorld.FILTERS) {
      if (FilterParser.parse(text, plain.schema()) instanceof FilterParser.Parsed.Good good) {
        assertThat(fast.matching(good.filter())).as(where).isEqualTo(plain.matching(good.filter()));
      }
    }
  }

  /** The plain view keeps people who are no more on a list; the definition leaves them out. */
  private static Set<PersonId> people(DirectoryView view, Set<PersonId> ids) {
    Set<PersonId> found = new HashSet<>(ids);
    found.removeIf(id -> view.person(id).isEmpty());
    return found;
  }

  private static List<GroupId> existing(DirectoryView view, PersonId person) {
    return view.groupsOf(person).stream().map(DirectoryView.Belonging::group).toList();
  }

  /** The next boundary that there is; a view may look again too early, never too late. */
  private static Instant next(RandomWorld world) {
    Instant[] next = {Moments.FOREVER};
    world.facts.forEach(
        (key, spells) ->
            spells.forEach(
                spell -> {
                  for (Instant t : List.of(spell.from(), spell.until())) {
                    if (t.isAfter(world.now) && t.isBefore(next[0])) {
                      next[0] = t;
                    }
                  }
                }));
    return next[0];
  }
}
