package eleutheria.core.access.engine;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import org.hipparchus.linear.EigenDecompositionSymmetric;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;

/**
 * Puts things in an order in which what is alike stands together: spectral seriation (Atkins, Boman
 * and Hendrickson, "A spectral algorithm for seriation and the consecutive ones problem", SIAM
 * Journal on Computing 28, 1998). Likeness is the cosine of the angle between two rows; things that
 * are linked by any likeness are ordered by the Fiedler vector of their graph's Laplacian; parts
 * without a link stand one after the other, the largest first, and what is all zeros last.
 *
 * <p>Where some order makes likeness fall off on both sides of every thing, that order is found, up
 * to its direction, which begins with the end that came first. Cost: the cube of the number.
 */
final class Seriation {
  private Seriation() {}

  /** The places of rows in the order of likeness. */
  static int[] order(double[][] rows) {
    int n = rows.length;
    double[][] alike = new double[n][n];
    double[] lengths = new double[n];
    for (int i = 0; i < n; i++) {
      lengths[i] = Math.sqrt(dot(rows[i], rows[i]));
    }
    for (int i = 0; i < n; i++) {
      for (int j = 0; j < i; j++) {
        if (lengths[i] > 0 && lengths[j] > 0) {
          alike[i][j] = dot(rows[i], rows[j]) / (lengths[i] * lengths[j]);
          alike[j][i] = alike[i][j];
        }
      }
    }
    List<int[]> parts = parts(alike);
    parts.sort(
        Comparator.comparing((int[] part) -> part.length == 1 && lengths[part[0]] == 0)
            .thenComparing(part -> -part.length)
            .thenComparing(part -> part[0]));
    return parts.stream().flatMapToInt(part -> Arrays.stream(ordered(alike, part))).toArray();
  }

  private static double dot(double[] one, double[] other) {
    double sum = 0;
    for (int i = 0; i < one.length; i++) {
      sum += one[i] * other[i];
    }
    return sum;
  }

  /** What is linked by any likeness, in the order of first places. */
  private static List<int[]> parts(double[][] alike) {
    List<int[]> parts = new ArrayList<>();
    boolean[] seen = new boolean[alike.length];
    for (int first = 0; first < alike.length; first++) {
      if (seen[first]) {
        continue;
      }
      IntList part = new IntList();
      ArrayDeque<Integer> next = new ArrayDeque<>(List.of(first));
      seen[first] = true;
      while (!next.isEmpty()) {
        int at = next.remove();
        part.add(at);
        for (int other = 0; other < alike.length; other++) {
          if (!seen[other] && alike[at][other] > 0) {
            seen[other] = true;
            next.add(other);
          }
        }
      }
      int[] members = part.toArray();
      Arrays.sort(members);
      parts.add(members);
    }
    return parts;
  }

  private static int[] ordered(double[][] alike, int[] part) {
    int n = part.length;
    if (n < 3) {
      return part;
    }
    RealMatrix laplacian = MatrixUtils.createRealMatrix(n, n);
    for (int i = 0; i < n; i++) {
      double degree = 0;
      for (int j = 0; j < n; j++) {
        if (i != j) {
          laplacian.setEntry(i, j, -alike[part[i]][part[j]]);
          degree += alike[part[i]][part[j]];
        }
      }
      laplacian.setEntry(i, i, degree);
    }
    EigenDecompositionSymmetric eigen = new EigenDecompositionSymmetric(laplacian, 1e-12, false);
    // Ascending: the smallest value is 0, with the vector of all ones.
    double[] fiedler = eigen.getEigenvector(1).toArray();
    Integer[] places = new Integer[n];
    Arrays.setAll(places, i -> i);
    Arrays.sort(places, Comparator.comparing((Integer i) -> fiedler[i]).thenComparing(i -> i));
    int[] found = Arrays.stream(places).mapToInt(i -> part[i]).toArray();
    if (found[0] > found[n - 1]) {
      for (int i = 0; i < n / 2; i++) {
        int kept = found[i];
        found[i] = found[n - 1 - i];
        found[n - 1 - i] = kept;
      }
    }
    return found;
  }
}
