package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactValue;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class NameOrderTest {
  @Test
  void sortsByFamilyNameInEveryScript() {
    List<String> names =
        List.of(
            "Aho, Åse",
            "Åkerlund, Nils",
            "de Vries, Bram",
            "Holm, Mikkel",
            "O'Hara, Una",
            "Παπαδάκη, Ελένη",
            "Коваль, Олена",
            "حداد, ليلى",
            "王, 小明");
    List<String> sorted =
        names.reversed().stream().sorted((a, b) -> Arrays.compareUnsigned(key(a), key(b))).toList();
    assertThat(sorted).isEqualTo(names);
  }

  private static byte[] key(String familyFirst) {
    String[] parts = familyFirst.split(", ");
    return NameOrder.key(new FactValue.PersonName(parts[1], parts[0], parts[1] + " " + parts[0]));
  }
}
