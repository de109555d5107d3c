package eleutheria.core.facts;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Gathers the edits of one act, each with the base that the facts have now. */
public final class Edits {
  private final Facts facts;
  private final Instant at;
  private final List<Edit> edits = new ArrayList<>();

  public Edits(Facts facts, Instant at) {
    this.facts = facts;
    this.at = at;
  }

  public List<Edit> list() {
    return List.copyOf(edits);
  }

  public int size() {
    return edits.size();
  }

  /** From the act on, without end, the key says this; nothing happens where it already does. */
  public void put(FactKey key, FactValue value) {
    timeline(key, List.of(new Spell(value, at, Moments.FOREVER)));
  }

  /** What is in force ends at the act; what was to come is dropped. */
  public void end(FactKey key) {
    timeline(key, List.of());
  }

  /**
   * From the act on, the key says exactly this. Spells that already say so are left alone.
   *
   * @param wanted in order of time, none beginning before the act
   */
  public void timeline(FactKey key, List<Spell> wanted) {
    List<Spell> left = new ArrayList<>(wanted);
    for (Spell current : facts.from(key, at)) {
      boolean inForce = current.from().isBefore(at);
      Spell match = matching(left, current, inForce);
      if (match != null) {
        left.remove(match);
        Spell kept = current.endingAt(match.until());
        if (!kept.equals(current)) {
          edits.add(new Edit(key, current, kept));
        }
      } else if (!inForce) {
        edits.add(new Edit(key, current, null));
      } else if (!left.isEmpty() && left.getFirst().from().equals(at)) {
        edits.add(new Edit(key, current, left.removeFirst()));
      } else {
        edits.add(new Edit(key, current, current.endingAt(at)));
      }
    }
    left.forEach(spell -> edits.add(new Edit(key, null, spell)));
  }

  private @Nullable Spell matching(List<Spell> wanted, Spell current, boolean inForce) {
    Instant begins = inForce ? at : current.from();
    for (Spell spell : wanted) {
      if (spell.from().equals(begins) && spell.value().equals(current.value())) {
        return spell;
      }
    }
    return null;
  }
}
