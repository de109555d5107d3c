package eleutheria.core.directory;

import com.ibm.icu.text.Collator;
import com.ibm.icu.text.RuleBasedCollator;
import com.ibm.icu.util.ULocale;
import eleutheria.core.facts.FactValue;
import java.util.Comparator;

/**
 * The one order of names: the Unicode collation algorithm (UTS #10, root order) over "family, given
 * displayed". Keys are made here and stored, so that engine and SQL sort alike.
 */
public final class NameOrder {
  private static final Collator ROOT = Collator.getInstance(ULocale.ROOT).freeze();

  /** The same with numbers by what they count: "Ferry 2" before "Ferry 10". */
  public static final Comparator<String> NATURAL = natural();

  private NameOrder() {}

  private static Comparator<String> natural() {
    RuleBasedCollator collator = (RuleBasedCollator) ROOT.cloneAsThawed();
    collator.setNumericCollation(true);
    collator.freeze();
    return collator::compare;
  }

  /** The key of a person's name; compared byte by byte, unsigned. */
  public static byte[] key(FactValue.PersonName name) {
    return key(name.familyFirst() + " " + name.displayed());
  }

  /** The key of any other name. */
  public static byte[] key(String text) {
    byte[] key = ROOT.getCollationKey(text).toByteArray();
    return key.length <= 400 ? key : java.util.Arrays.copyOf(key, 400);
  }
}
