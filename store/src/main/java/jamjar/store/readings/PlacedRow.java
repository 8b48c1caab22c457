package jamjar.store.readings;

/** Some places of a reading's array. */
record PlacedRow(long at, int elapsedMs, double[] vals) {}
