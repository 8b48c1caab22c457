package jamjar.server.watch;

/**
 * What it took to take a reading, in s.
 *
 * @param roundTrip of the smallest question; NaN where none was asked
 * @param whole from the first question to the last answer
 * @param late how long after its time it began
 */
public record Taken(double roundTrip, double whole, double late) {
  static final Taken NONE = new Taken(Double.NaN, Double.NaN, Double.NaN);
}
