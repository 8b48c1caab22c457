package jamjar.store.alerts;

import java.time.Instant;

/** A transition of an alert as stored; NaN for numbers that there were none of. */
public record TransitionRow(
    long alert,
    Instant at,
    Instant arrived,
    String fromState,
    String toState,
    double value,
    double normalLow,
    double normal,
    double normalHigh,
    double number,
    double distance) {}
