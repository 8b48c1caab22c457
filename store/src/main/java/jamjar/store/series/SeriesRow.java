package jamjar.store.series;

import java.util.SortedMap;

/** A series as stored: one counter of one instance, with its labels. */
public record SeriesRow(int id, int instance, String counter, SortedMap<String, String> labels) {}
