package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SeriationTest {
  /** Rows whose likeness falls off with distance: overlapping runs of ones. */
  private static double[][] runs(int rows, int length) {
    double[][] found = new double[rows][rows + length];
    for (int i = 0; i < rows; i++) {
      Arrays.fill(found[i], i, i + length, 1);
    }
    return found;
  }

  @Test
  void findsTheOrderThatThereIs() {
    double[][] runs = runs(40, 6);
    List<Integer> shuffled = new ArrayList<>();
    for (int i = 0; i < runs.length; i++) {
      shuffled.add(i);
    }
    for (int seed = 1; seed <= 20; seed++) {
      Collections.shuffle(shuffled, new Random(seed));
      double[][] rows = shuffled.stream().map(i -> runs[i]).toArray(double[][]::new);
      List<Integer> found = Arrays.stream(Seriation.order(rows)).mapToObj(shuffled::get).toList();
      List<Integer> wanted = new ArrayList<>(found);
      Collections.sort(wanted);
      if (found.getFirst() > found.getLast()) {
        Collections.reverse(wanted);
      }
      assertThat(found).as("seed %d", seed).isEqualTo(wanted);
    }
  }

  @Test
  void whatHasNothingInCommonStandsApartAndWhatHasNothingLast() {
    double[][] rows = {
      {0, 0, 0, 0, 0},
      {0, 0, 0, 1, 1},
      {1, 1, 0, 0, 0},
      {0, 0, 0, 1, 0},
      {0, 1, 1, 0, 0},
      {1, 0, 0, 0, 0},
    };
    assertThat(Seriation.order(rows)).containsExactly(4, 2, 5, 1, 3, 0);
  }

  @Test
  void fewRowsStayAsTheyAre() {
    assertThat(Seriation.order(new double[0][0])).isEmpty();
    assertThat(Seriation.order(new double[][] {{1}, {1}})).containsExactly(0, 1);
  }
}
