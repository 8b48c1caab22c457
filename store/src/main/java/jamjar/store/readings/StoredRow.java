package jamjar.store.readings;

import java.time.Instant;

/** A whole reading as it lies in its table. */
record StoredRow(Instant at, Instant arrived, int elapsedMs, int layout, double[] vals) {}
