package eleutheria.core.directory;

import com.ibm.icu.text.Collator;
import com.ibm.icu.util.ULocale;
import eleutheria.core.facts.FactValue;

/**
 * The one order of names: the Unicode collation algorithm (UTS #10, root order) over "family, given
 * displayed". Keys are made here and stored, so that engine and SQL sort alike.
 */
public final class NameOrder {
  private static final Collator ROOT = Collator.getInstance(ULocale.ROOT).freeze();

  private NameOrder() {}

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
