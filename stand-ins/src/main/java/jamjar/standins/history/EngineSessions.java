package jamjar.standins.history;

import jamjar.core.reading.SeriesKey;
import jamjar.standins.history.Calibration.Usual;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;

/** The sessions of an engine at a moment: counts whose parts add up. */
final class EngineSessions {
  static final String WAITING = "sessions.waiting";
  private static final String LOCK = "Lock";

  private final Calibration usual;
  private final Wander wander;
  private final Instant at;
  private final double load;
  private final double blocked;
  private final int behind;
  private final int opened;

  /**
   * @param load by how it was when it was calibrated
   * @param blocked for how long somebody has been blocking others, in s
   * @param behind how many wait for that
   * @param opened idle sessions beside the usual ones
   */
  EngineSessions(
      Calibration usual,
      Wander wander,
      Instant at,
      double load,
      double blocked,
      int behind,
      int opened) {
    this.usual = usual;
    this.wander = wander;
    this.at = at;
    this.load = load;
    this.blocked = blocked;
    this.behind = behind;
    this.opened = opened;
  }

  void addTo(Map<SeriesKey, Double> values) {
    double forLocks = blocked > 0 ? behind : counted("sessions.waiting_lock", 1);
    Map<SeriesKey, Double> waits = new HashMap<>();
    usual
        .series()
        .keySet()
        .forEach(
            key -> {
              if (key.counter().equals(WAITING) && !key.labels().isEmpty()) {
                boolean lock = key.labels().containsValue(LOCK);
                waits.put(key, lock ? forLocks : counted(key, 2 + waits.size()));
              }
            });
    waits.keySet().removeIf(key -> key.labels().containsValue(LOCK) && forLocks == 0);
    double waiting =
        Math.max(forLocks, waits.values().stream().mapToDouble(Double::doubleValue).sum());
    double running = counted("sessions.active_not_waiting", 41);
    double inTransaction = counted("sessions.idle_in_transaction", 43) + (blocked > 0 ? 1 : 0);
    double active = waiting + running;
    double total =
        Math.max(
            mean("sessions.total") + 8 * (wander.at(at) - 1) + opened + (blocked > 0 ? 1 : 0),
            active + inTransaction);
    total = Math.rint(total);
    values.putAll(waits);
    put(values, WAITING, waiting);
    put(values, "sessions.waiting_lock", forLocks);
    put(values, "sessions.active_not_waiting", running);
    put(values, "sessions.active", active);
    put(values, "sessions.idle_in_transaction", inTransaction);
    put(values, "sessions.idle_in_failed_transaction", 0);
    put(values, "sessions.other", 0);
    put(values, "sessions.total", total);
    put(values, "sessions.idle", total - active - inTransaction);
    put(
        values,
        "connections.used",
        Math.rint(mean("connections.used") - mean("sessions.total")) + total);
    put(values, "locks.waiters", forLocks);
    put(values, "locks.oldest_wait", blocked > 0 ? blocked : forLocks * 0.02);
    // it has been at work for a while when the first one waits
    put(values, "sessions.longest_transaction", longest("sessions.longest_transaction", 20));
    put(values, "sessions.longest_statement", longest("sessions.longest_statement", 0));
    put(
        values,
        "sessions.longest_idle_in_transaction",
        longest("sessions.longest_idle_in_transaction", 15));
  }

  private double longest(String counter, double more) {
    double usually = mean(counter) * wander.at(at) * wander.at(at.minusSeconds(5_000));
    return blocked > 0 ? Math.max(usually, blocked + more) : usually;
  }

  private void put(Map<SeriesKey, Double> values, String counter, double value) {
    SeriesKey key = SeriesKey.of(counter);
    if (usual.series().containsKey(key)) {
      values.put(key, value);
    }
  }

  private double mean(String counter) {
    Usual theirs = usual.series().get(SeriesKey.of(counter));
    return theirs == null ? 0 : theirs.mean();
  }

  private double counted(String counter, int which) {
    return counted(SeriesKey.of(counter), which);
  }

  private double counted(SeriesKey key, int which) {
    Usual theirs = usual.series().get(key);
    return theirs == null ? 0 : wander.counted(theirs.mean() * load, at.plusMillis(which));
  }
}
