package jamjar.store.readings;

/** A source of an instance, by their numbers. */
record SourceKey(int instance, int source) {}
