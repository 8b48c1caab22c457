package jamjar.core.session;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;

/**
 * Sessions that run a statement, over time, split by what they have in common. Mean number in a
 * step = Σ busy sessions of its samples ÷ its samples; so the parts add up to the whole. Parallel
 * workers count with the session that they work for, once; the engine's own workers not at all.
 */
public final class Busy {
  /** The parts that are not among the largest, together. */
  public static final String OTHERS = "all others";

  /** By what sessions are split. */
  public enum By {
    WAIT(Busy::waitOf),
    USER(s -> s.who().user()),
    PROGRAM(s -> s.who().program()),
    MODULE(s -> s.module()),
    STATEMENT(s -> s.statement() == 0 ? "" : Long.toHexString(s.statement())),
    DATABASE(s -> s.who().database()),
    CLIENT(s -> s.who().client());

    private final Function<Session, String> key;

    By(Function<Session, String> key) {
      this.key = key;
    }

    /**
     * @param word as told by a person or a program, such as wait
     * @throws IllegalArgumentException when it is none of these
     */
    public static By of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT));
    }

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * @param name what all sessions of the part have in common; empty where they say nothing
   * @param mean how many there are, per step; NaN where there is no sample
   */
  public record Part(String name, double[] mean) {}

  /**
   * @param at begin of each step, epoch ms
   * @param all of all parts together, per step; NaN where there is no sample
   * @param parts the largest over the window first, then all others together
   */
  public record Split(long[] at, double[] all, List<Part> parts) {}

  private Busy() {}

  static String waitOf(Session session) {
    return switch (session.waitsFor().kind()) {
      // that it does not wait is not said: it may wait where nobody looks
      case "" -> "no wait reported";
      case "Client" -> "waits for its client";
      default -> session.waitsFor().kind();
    };
  }

  /**
   * @param samples in order of time
   * @param from begin of the first step, epoch ms
   * @param stepMs length of a step, ms
   * @param most so many parts at most, all others not counted
   */
  public static Split split(
      List<Sample> samples, By by, long from, long stepMs, int steps, int most) {
    int[] taken = new int[steps];
    Map<String, double[]> sums = new HashMap<>();
    double[] all = new double[steps];
    for (Sample sample : samples) {
      long step = Math.floorDiv(sample.at().toEpochMilli() - from, stepMs);
      if (step < 0 || step >= steps) {
        continue;
      }
      taken[(int) step]++;
      for (Session session : sample.sessions()) {
        if (session.isBusy()) {
          String key = by.key.apply(session);
          sums.computeIfAbsent(key, k -> new double[steps])[(int) step]++;
          all[(int) step]++;
        }
      }
    }
    List<Map.Entry<String, double[]>> largest = new ArrayList<>(sums.entrySet());
    largest.sort(
        Comparator.comparingDouble(
                (Map.Entry<String, double[]> e) -> Arrays.stream(e.getValue()).sum())
            .reversed()
            .thenComparing(Map.Entry::getKey));
    Map<String, double[]> shown = new LinkedHashMap<>();
    for (Map.Entry<String, double[]> entry : largest) {
      if (shown.size() < most || largest.size() == most + 1) {
        shown.put(entry.getKey(), entry.getValue());
      } else {
        double[] rest = shown.computeIfAbsent(OTHERS, k -> new double[steps]);
        Arrays.setAll(rest, i -> rest[i] + entry.getValue()[i]);
      }
    }
    long[] at = new long[steps];
    Arrays.setAll(at, i -> from + i * stepMs);
    List<Part> parts = new ArrayList<>();
    shown.forEach((name, sum) -> parts.add(new Part(name, means(sum, taken))));
    return new Split(at, means(all, taken), parts);
  }

  private static double[] means(double[] sums, int[] taken) {
    double[] means = new double[sums.length];
    Arrays.setAll(means, i -> taken[i] == 0 ? Double.NaN : sums[i] / taken[i]);
    return means;
  }
}
