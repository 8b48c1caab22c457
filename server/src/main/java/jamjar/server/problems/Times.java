package jamjar.server.problems;

import java.time.Instant;

/** Times as they are asked for. */
public final class Times {
  /**
   * The years 1970 to 2200: what lies outside is no time of a reading, and no database takes it.
   */
  private static final long LAST = 7_258_118_400_000L;

  private Times() {}

  /**
   * A time of a request.
   *
   * @param field the field to be told as at fault
   * @param millis epoch ms
   */
  public static Instant of(String field, long millis) {
    if (millis < 0 || millis > LAST) {
      throw Problem.field(field, millis + " is no time between 1970 and 2200, in ms.");
    }
    return Instant.ofEpochMilli(millis);
  }

  /** A window of a request, both ends in epoch ms: it must end after it begins. */
  public static void requireWindow(long from, long to) {
    of("from", from);
    of("to", to);
    if (to <= from) {
      throw Problem.field("to", "The window must end after it begins.");
    }
  }
}
