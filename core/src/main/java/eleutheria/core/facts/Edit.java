package eleutheria.core.facts;

import org.jspecify.annotations.Nullable;

/**
 * One wanted change: what the key was believed to say, and what it should say. No base opens a
 * fact; nothing wanted drops one that never came into force; both move an end or replace a value.
 *
 * @param base the spell that the edit starts from, exactly as it stands
 * @param wanted the spell to be, which begins no earlier than the act unless it only moves an end
 */
public record Edit(FactKey key, @Nullable Spell base, @Nullable Spell wanted) {
  public Edit {
    if (base == null && wanted == null) {
      throw new IllegalArgumentException("an edit without base and wanted says nothing");
    }
  }
}
