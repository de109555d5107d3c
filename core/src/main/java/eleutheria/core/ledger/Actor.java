package eleutheria.core.ledger;

import eleutheria.core.facts.PersonId;
import org.jspecify.annotations.Nullable;

/** Who acts: a person, the clock, or the product itself while it is being set up. */
public sealed interface Actor {
  /** As it stands in the ledger: {@code person:…}, {@code clock}, {@code setup}. */
  String text();

  default @Nullable PersonId person() {
    return null;
  }

  record OfPerson(PersonId person) implements Actor {
    @Override
    public String text() {
      return person.text();
    }
  }

  record Clock() implements Actor {
    @Override
    public String text() {
      return "clock";
    }
  }

  record Setup() implements Actor {
    @Override
    public String text() {
      return "setup";
    }
  }
}
