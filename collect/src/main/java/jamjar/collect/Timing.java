package jamjar.collect;

import java.util.Locale;

/** How far away a target is in time: its round trip, and its clock. */
public final class Timing {
  private static final double SLOW_MILLIS = 100;
  private static final double WRONG_SECONDS = 2;

  private Timing() {}

  /** Something that asks the target the smallest question. */
  @FunctionalInterface
  public interface Question<E extends Exception> {
    void ask() throws E;
  }

  /**
   * Asks five times; the shortest counts.
   *
   * @param questions how many round trips a reading takes
   */
  public static <E extends Exception> CheckResult roundTrip(Question<E> question, int questions)
      throws E {
    double best = Double.MAX_VALUE;
    for (int i = 0; i < 5; i++) {
      long began = System.nanoTime();
      question.ask();
      best = Math.min(best, (System.nanoTime() - began) / 1e6);
    }
    String check = "Round trip";
    String found = String.format(Locale.ROOT, "%.1f ms", best);
    if (best < SLOW_MILLIS) {
      return CheckResult.pass(check, found);
    }
    return CheckResult.warn(
        check,
        found
            + String.format(Locale.ROOT, ": a reading takes about %.1f s", best * questions / 1000),
        "less than " + (int) SLOW_MILLIS + " ms",
        "Let a Jam Jar on the target's own site watch it, or choose a longer interval.",
        "");
  }

  /**
   * @param ahead how far its clock is before ours, in s
   * @param unsure half of the time that asking took, in s
   */
  public static CheckResult clock(double ahead, double unsure) {
    String check = "Clock";
    double off = Math.abs(ahead) - unsure;
    if (off < WRONG_SECONDS) {
      return CheckResult.pass(
          check, String.format(Locale.ROOT, "within %.1f s of ours", Math.max(0.1, off + unsure)));
    }
    return CheckResult.warn(
        check,
        String.format(
            Locale.ROOT, "%.1f s %s ours", Math.abs(ahead), ahead > 0 ? "ahead of" : "behind"),
        "less than " + (int) WRONG_SECONDS + " s apart",
        "Readings carry the time of this machine, ages that of the engine. One of the two clocks is"
            + " wrong: let both machines follow a time server.",
        "timedatectl set-ntp true");
  }
}
