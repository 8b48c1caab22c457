package jamjar.store.readings;

import java.time.Instant;

/**
 * A reading as it was stored.
 *
 * @param series numbers of its series; the same array for all readings of one layout
 * @param values per series the level or increase; NaN where there is none
 */
public record StoredReading(
    Instant at,
    Instant arrived,
    long elapsedMillis,
    int source,
    int intervalS,
    int[] series,
    double[] values) {}
