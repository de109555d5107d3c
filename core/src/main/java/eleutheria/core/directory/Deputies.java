package eleutheria.core.directory;

import eleutheria.core.facts.Duty;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.SortedSet;
import java.util.function.Predicate;

/** Who decides for whom, now and on days to come. */
public final class Deputies {
  private Deputies() {}

  /**
   * @param person for whom it is decided
   * @param until the moment at which it ends
   */
  public record Span(
      PersonId person, PersonId deputy, SortedSet<Duty> duties, Instant from, Instant until) {}

  /** The deputies of somebody, those to come too, in order of time. */
  public static List<Span> of(Facts facts, PersonId person, Instant at) {
    return spans(facts, at, key -> key.subject().equals(person));
  }

  /** For whom somebody is a deputy, or will be, in order of time. */
  public static List<Span> by(Facts facts, PersonId deputy, Instant at) {
    return spans(facts, at, key -> key.deputy().equals(deputy));
  }

  private static List<Span> spans(Facts facts, Instant at, Predicate<FactKey.Deputy> wanted) {
    List<Span> found = new ArrayList<>();
    for (FactKey.Deputy key : facts.keys(FactKey.Deputy.class)) {
      if (wanted.test(key)) {
        for (Spell spell : facts.from(key, at)) {
          found.add(
              new Span(
                  key.subject(),
                  key.deputy(),
                  ((FactValue.Duties) spell.value()).duties(),
                  spell.from(),
                  spell.until()));
        }
      }
    }
    found.sort(Comparator.comparing(Span::from).thenComparing(Span::deputy));
    return found;
  }

  /** Ends all that somebody who departs has to do with. */
  public static void end(Facts facts, Edits edits, PersonId person) {
    for (FactKey.Deputy key : facts.keys(FactKey.Deputy.class)) {
      if (key.objects().contains(person)) {
        edits.end(key);
      }
    }
  }
}
