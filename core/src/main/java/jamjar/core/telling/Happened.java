package jamjar.core.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import java.util.List;

/** What telling hears of. */
public sealed interface Happened {
  /** When it arrived, epoch ms. */
  long at();

  /**
   * An alert has risen, got worse or better, or ended.
   *
   * @param open whether it is open after it
   * @param severity after it; none where it stays as it was
   * @param flapping whether it comes and goes
   */
  record Passed(
      int instance,
      int series,
      Condition condition,
      long at,
      boolean open,
      Severity severity,
      boolean flapping,
      Subject subject,
      Figures figures)
      implements Happened {}

  /**
   * Somebody knows of an alert that is open.
   *
   * @param until until when it steps back, epoch ms
   * @param upTo what is worse than that steps forward again
   */
  record Known(
      int instance, int series, Condition condition, long at, long until, Severity upTo, String who)
      implements Happened {}

  /**
   * Somebody was told before this process began.
   *
   * @param severity of what they were told
   * @param ways by which they were to be told
   */
  record WasTold(
      long at,
      String matter,
      Told.Kind kind,
      String recipient,
      Severity severity,
      String rule,
      List<Way> ways,
      List<AlertKey> alerts)
      implements Happened {}
}
