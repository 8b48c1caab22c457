package jamjar.store.readings;

import java.time.Instant;

/** A reading as stored: one row. */
public record ReadingRow(
    int instance,
    Instant at,
    int source,
    int layout,
    int elapsedMs,
    long seq,
    Instant arrived,
    double[] vals) {}
