package eleutheria.measure;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.demo.Crowd;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Facts of a crowd, drawn evenly, to ask about and to change. */
final class Sample implements Crowd.Taker {
  private static final int MOST = 20_000;

  final List<PersonId> people = new ArrayList<>();
  final List<GroupId> groups = new ArrayList<>();
  final List<EntitlementId> entitlements = new ArrayList<>();
  private final List<Move.Ended> places = new ArrayList<>();
  private final List<Move.Ended> grants = new ArrayList<>();
  private final List<Move.Ended> edges = new ArrayList<>();
  private final List<Move.Ended> values = new ArrayList<>();
  private final SplittableRandom random = new SplittableRandom(7);
  private final int[] seen = new int[4];

  Sample(Crowd.Size size, Instant now) {
    Crowd.make(size, now, this);
  }

  private void draw(int kind, List<Move.Ended> into, FactKey key, Spell spell) {
    int place = seen[kind]++;
    if (into.size() < MOST) {
      into.add(new Move.Ended(key, spell, spell.until()));
    } else {
      int at = random.nextInt(place + 1);
      if (at < MOST) {
        into.set(at, new Move.Ended(key, spell, spell.until()));
      }
    }
  }

  /**
   * Edits of all kinds: 40 % places, 40 % grants, 10 % groups in groups, 10 % attributes; each half
   * an end and half a beginning.
   *
   * @return moves, none of which meets another
   */
  List<Move> edits(int count, Instant at) {
    List<Move> moves = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      int draw = random.nextInt(10);
      // A small set has few groups in groups; when all have ended, only new ones come.
      boolean ends = random.nextBoolean() && !(draw == 8 && edges.isEmpty());
      if (draw < 4) {
        moves.add(ends ? ended(places, at) : opened(at, place()));
      } else if (draw < 8) {
        moves.add(
            ends
                ? ended(grants, at)
                : new Move.Opened(
                    new FactKey.Grant(new GrantId(UUID.randomUUID())),
                    new Spell(given(), at, Moments.FOREVER)));
      } else if (draw < 9) {
        moves.add(ends ? ended(edges, at) : opened(at, edge()));
      } else {
        Move.Ended before = (Move.Ended) ended(values, at);
        moves.add(before);
        moves.add(
            new Move.Opened(
                before.key(),
                new Spell(new FactValue.Text("C" + random.nextInt(120)), at, Moments.FOREVER)));
      }
    }
    return moves;
  }

  private Move ended(List<Move.Ended> from, Instant at) {
    int last = from.size() - 1;
    int place = random.nextInt(from.size());
    Move.Ended taken = from.get(place);
    from.set(place, from.get(last));
    from.remove(last);
    return new Move.Ended(taken.key(), taken.spell(), at);
  }

  private static Move opened(Instant at, FactKey key) {
    return new Move.Opened(key, new Spell(FactValue.Present.PRESENT, at, Moments.FOREVER));
  }

  private FactKey place() {
    // A group made for this, so that the place is free for certain.
    return new FactKey.Membership(
        groups.get(groups.size() - 1 - random.nextInt(groups.size() / 2)),
        new PersonId(any(people).value()));
  }

  private FactKey edge() {
    int child = groups.size() / 3 + random.nextInt(groups.size() / 3);
    return new FactKey.Membership(groups.get(random.nextInt(groups.size() / 4)), groups.get(child));
  }

  private FactValue given() {
    return new FactValue.Given(
        new FactValue.Subject.OfPerson(any(people)), any(entitlements), GrantSource.HAND);
  }

  <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  @Override
  public void person(UUID id, FactValue.PersonName name, byte[] key, Instant from) {
    people.add(new PersonId(id));
  }

  @Override
  public void status(UUID person, String status, Instant from, Instant until) {}

  @Override
  public void attribute(UUID person, String name, String value, Instant from, Instant until) {
    if (name.equals("costCentre") && until.equals(Moments.FOREVER)) {
      FactKey key = Attributes.key(new PersonId(person), name, false, value);
      draw(3, values, key, new Spell(new FactValue.Text(value), from, until));
    }
  }

  @Override
  public void defined(String name, Instant from) {}

  @Override
  public void group(UUID id, String name, @Nullable String filter, Instant from) {
    if (filter == null) {
      groups.add(new GroupId(id));
    }
  }

  @Override
  public void member(UUID group, UUID person, Instant from, Instant until) {
    if (until.equals(Moments.FOREVER)) {
      FactKey key = new FactKey.Membership(new GroupId(group), new PersonId(person));
      draw(0, places, key, new Spell(FactValue.Present.PRESENT, from, until));
    }
  }

  @Override
  public void nested(UUID group, UUID child, Instant from, Instant until) {
    FactKey key = new FactKey.Membership(new GroupId(group), new GroupId(child));
    draw(2, edges, key, new Spell(FactValue.Present.PRESENT, from, until));
  }

  @Override
  public void application(UUID id, String name, String state, Instant from) {}

  @Override
  public void entitlement(UUID id, UUID application, String name, Instant from) {
    entitlements.add(new EntitlementId(id));
  }

  @Override
  public void grant(
      UUID id,
      @Nullable UUID person,
      @Nullable UUID group,
      @Nullable String filter,
      UUID entitlement,
      GrantSource source,
      Instant from,
      Instant until) {
    if (person != null && until.equals(Moments.FOREVER)) {
      FactValue.Given given =
          new FactValue.Given(
              new FactValue.Subject.OfPerson(new PersonId(person)),
              new EntitlementId(entitlement),
              source);
      draw(1, grants, new FactKey.Grant(new GrantId(id)), new Spell(given, from, until));
    }
  }
}
