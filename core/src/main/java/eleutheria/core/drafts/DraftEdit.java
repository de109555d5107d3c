package eleutheria.core.drafts;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One edit of a draft: what a command came to, decided on the state with the draft's earlier edits
 * laid over it.
 *
 * @param seq its number in the draft, from 1; never given again
 * @param planned the instant that stands for the publishing in {@code edits}: whatever begins or
 *     ends exactly then begins or ends when the draft is published
 */
public record DraftEdit(int seq, PersonId author, Instant planned, Act act, List<Edit> edits) {

  /** The same with the publishing at another instant. */
  DraftEdit at(Instant instant) {
    return new DraftEdit(
        seq,
        author,
        instant,
        act,
        edits.stream()
            .map(e -> new Edit(e.key(), moved(e.base(), instant), moved(e.wanted(), instant)))
            .toList());
  }

  private @Nullable Spell moved(@Nullable Spell spell, Instant instant) {
    if (spell == null) {
      return null;
    }
    Instant from = spell.from().equals(planned) ? instant : spell.from();
    Instant until = spell.until().equals(planned) ? instant : spell.until();
    // A time that is over by now is left as it was, and told as over.
    return from.isBefore(until) ? new Spell(spell.value(), from, until) : spell;
  }
}
