package eleutheria.measure;

import java.util.Arrays;

/** Times in nanoseconds of something that is done many times. */
final class Timing {
  /** Something that answers a number, so that no work can be left out. */
  interface Task {
    long run(int turn) throws Exception;
  }

  private static volatile long seen;

  private Timing() {}

  /** The median of single runs. */
  static double median(int runs, Task task) throws Exception {
    double[] times = each(runs, task);
    Arrays.sort(times);
    return times[times.length / 2];
  }

  static double[] each(int runs, Task task) throws Exception {
    double[] times = new double[runs];
    long sum = 0;
    for (int i = 0; i < runs; i++) {
      long begun = System.nanoTime();
      sum += task.run(i);
      times[i] = System.nanoTime() - begun;
    }
    seen = sum;
    return times;
  }

  /** The mean over many runs in one go, for what is too short for a clock. */
  static double mean(int runs, Task task) throws Exception {
    long sum = 0;
    long begun = System.nanoTime();
    for (int i = 0; i < runs; i++) {
      sum += task.run(i);
    }
    double time = System.nanoTime() - begun;
    seen = sum;
    return time / runs;
  }

  static double percentile(double[] times, double part) {
    double[] sorted = times.clone();
    Arrays.sort(sorted);
    return sorted[Math.min(sorted.length - 1, (int) Math.ceil(part * sorted.length) - 1)];
  }

  static double average(double[] times) {
    return Arrays.stream(times).average().orElseThrow();
  }

  /** What was answered last; read so that nothing is thought useless. */
  static long seen() {
    return seen;
  }
}
