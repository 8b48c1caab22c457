package jamjar.store.alerts;

import java.time.Instant;
import java.util.SortedMap;

/**
 * An alert as stored.
 *
 * @param id 0 before it is stored
 * @param series 0 for the whole instance
 * @param endedAt null while it is open
 * @param value as last judged; NaN for none, as are the other numbers
 * @param seenAt when somebody acknowledged it; null when nobody did
 * @param seenUntil until when it steps back; null where nobody acknowledged it
 * @param seenSeverity what it was when it was acknowledged: what is worse steps forward again;
 *     critical where it steps back whatever it becomes
 * @param bundle the first alert of those that belong together; null while that is not known
 * @param afterwards whether it was judged over what was kept, and told to nobody
 * @param assigned to whom it was given; empty for nobody
 */
public record AlertRow(
    long id,
    int rule,
    int instance,
    int series,
    String counter,
    SortedMap<String, String> labels,
    String condition,
    String state,
    String severity,
    Instant since,
    Instant endedAt,
    double value,
    double normalLow,
    double normalHigh,
    double number,
    double worst,
    boolean flapping,
    Instant seenAt,
    String seenBy,
    String seenNote,
    Instant seenUntil,
    String seenSeverity,
    Long bundle,
    boolean afterwards,
    String assigned) {

  /** One that nobody has seen, and that is not stored yet. */
  public static AlertRow unseen(
      int rule,
      int instance,
      int series,
      String counter,
      SortedMap<String, String> labels,
      String condition,
      String state,
      String severity,
      Instant since,
      Instant endedAt,
      double value,
      double normalLow,
      double normalHigh,
      double number,
      double worst,
      boolean flapping) {
    return new AlertRow(
        0,
        rule,
        instance,
        series,
        counter,
        labels,
        condition,
        state,
        severity,
        since,
        endedAt,
        value,
        normalLow,
        normalHigh,
        number,
        worst,
        flapping,
        null,
        "",
        "",
        null,
        "",
        null,
        false,
        "");
  }
}
