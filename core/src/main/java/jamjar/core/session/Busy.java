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
import java.util.stream.IntStream;

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
    STATEMENT(s -> Fingerprint.hex(s.statement())),
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
   * @param at begin of each step, epoch ms; a step without a sample stands there only where samples
   *     are missing: between two that are as far apart as others there is nothing to tell
   * @param all of all parts together, per step; NaN where there is no sample
   * @param parts the largest over the window first, then all others together
   */
  public record Split(long[] at, double[] all, List<Part> parts) {}

  /**
   * Two samples that are so many times as far apart as those beside them have a gap between them.
   */
  private static final double MISSING = 2.5;

  private final By by;
  private final long from;
  private final long stepMs;
  private final int[] taken;
  private final double[] all;
  private final Map<String, double[]> sums = new HashMap<>();

  /**
   * @param from begin of the first step, epoch ms
   * @param stepMs length of a step, ms
   */
  public Busy(By by, long from, long stepMs, int steps) {
    this.by = by;
    this.from = from;
    this.stepMs = stepMs;
    this.taken = new int[steps];
    this.all = new double[steps];
  }

  static String waitOf(Session session) {
    return switch (session.waitsFor().kind()) {
      // that it does not wait is not said: it may wait where nobody looks
      case "" -> "no wait reported";
      case "Client" -> "waits for its client";
      default -> session.waitsFor().kind();
    };
  }

  /** A sample; one of another time counts nowhere. */
  public void add(Sample sample) {
    long step = Math.floorDiv(sample.at().toEpochMilli() - from, stepMs);
    if (step < 0 || step >= taken.length) {
      return;
    }
    taken[(int) step]++;
    for (Session session : sample.sessions()) {
      if (session.isBusy()) {
        String key = by.key.apply(session);
        sums.computeIfAbsent(key, k -> new double[taken.length])[(int) step]++;
        all[(int) step]++;
      }
    }
  }

  /**
   * @param most so many parts at most, all others not counted
   */
  public Split split(int most) {
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
        double[] rest = shown.computeIfAbsent(OTHERS, k -> new double[taken.length]);
        Arrays.setAll(rest, i -> rest[i] + entry.getValue()[i]);
      }
    }
    int[] told = told();
    long[] at = new long[told.length];
    Arrays.setAll(at, i -> from + told[i] * stepMs);
    List<Part> parts = new ArrayList<>();
    shown.forEach((name, sum) -> parts.add(new Part(name, means(sum, told))));
    return new Split(at, means(all, told), parts);
  }

  /**
   * The steps that tell something: with a sample, or where samples are missing. How far they are
   * apart changes: where somebody blocked others they lie closer.
   */
  private int[] told() {
    int[] full = IntStream.range(0, taken.length).filter(i -> taken[i] > 0).toArray();
    int[] apart = IntStream.range(1, full.length).map(i -> full[i] - full[i - 1]).toArray();
    boolean[] leftOut = new boolean[taken.length];
    for (int i = 0; i < apart.length; i++) {
      int before = i > 0 ? apart[i - 1] : 1;
      int after = i + 1 < apart.length ? apart[i + 1] : 1;
      if (apart[i] <= MISSING * Math.max(before, after)) {
        Arrays.fill(leftOut, full[i] + 1, full[i + 1], true);
      }
    }
    // the next sample may be still to come
    int end = full.length == 0 ? taken.length : full[full.length - 1] + 1;
    if (taken.length - end < MISSING * (apart.length == 0 ? 1 : apart[apart.length - 1])) {
      Arrays.fill(leftOut, end, taken.length, true);
    }
    return IntStream.range(0, taken.length).filter(i -> !leftOut[i]).toArray();
  }

  private double[] means(double[] sums, int[] told) {
    double[] means = new double[told.length];
    Arrays.setAll(means, i -> taken[told[i]] == 0 ? Double.NaN : sums[told[i]] / taken[told[i]]);
    return means;
  }
}
