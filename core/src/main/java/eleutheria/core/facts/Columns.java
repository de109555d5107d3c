package eleutheria.core.facts;

import java.util.List;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;

/**
 * Facts of the kinds that come by the hundred thousand, kept more tightly than as objects. {@link
 * Facts} asks it for those kinds; whoever owns it writes it.
 */
public interface Columns {
  /** Whether facts of this key's kind are kept here. */
  boolean keeps(FactKey key);

  /** Whether facts of this kind are kept here. */
  boolean keeps(Class<? extends FactKey> kind);

  /** All spells of a key that is kept here, in order of time, past ones too. */
  List<Spell> spells(FactKey key);

  /** Visits the keys kept here whose subject is this thing. */
  void about(ObjectId subject, Consumer<FactKey> visitor);

  /** Visits the groups that are or were in a group; its people may be many, and are passed over. */
  void nestedIn(GroupId group, Consumer<FactKey.Membership> visitor);

  /** All keys of a kind that is kept here, each once. */
  <K extends FactKey> Set<K> keys(Class<K> kind);

  void forEach(BiConsumer<FactKey, List<Spell>> visitor);

  /** How many facts are kept here. */
  int size();
}
