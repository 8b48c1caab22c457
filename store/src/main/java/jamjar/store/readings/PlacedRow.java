package jamjar.store.readings;

/**
 * Some places of a reading's array.
 *
 * @param at epoch µs
 */
record PlacedRow(long at, int elapsedMs, double[] vals) {}
