package eleutheria.core.facts;

import java.util.List;

/**
 * An edit that cannot be applied, because what it starts from is no longer so or time forbids it.
 *
 * @param actual what the key says from the act's instant on
 */
public record Clash(Edit edit, Reason reason, List<Spell> actual) {
  public enum Reason {
    /** The base is not what the key says now: someone else changed it. */
    CHANGED_MEANWHILE,
    /** It would begin, end or vanish before the act: the past is never rewritten. */
    BEFORE_THE_ACT,
    /** The key would have two values at one moment. */
    OVERLAP
  }
}
