package jamjar.core.reading;

import java.util.Collections;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What tells a series from the others of its instance: the key of its counter, and its labels by
 * name. Looked up many times a reading, so that it keeps its hash.
 */
public final class SeriesKey implements Comparable<SeriesKey> {
  private static final SortedMap<String, String> NONE =
      Collections.unmodifiableSortedMap(new TreeMap<>());

  private final String counter;
  private final SortedMap<String, String> labels;
  private final int hash;

  /**
   * @param counter key of the counter
   * @param labels label names and values; empty when the counter has none
   */
  public SeriesKey(String counter, Map<String, String> labels) {
    this.counter = counter;
    this.labels =
        labels.isEmpty() ? NONE : Collections.unmodifiableSortedMap(new TreeMap<>(labels));
    this.hash = counter.hashCode() * 31 + this.labels.hashCode();
  }

  public static SeriesKey of(String counter) {
    return new SeriesKey(counter, NONE);
  }

  public static SeriesKey of(String counter, String subject, String label) {
    return new SeriesKey(counter, Map.of(subject, label));
  }

  public SeriesKey withCounter(String other) {
    return new SeriesKey(other, labels);
  }

  public String counter() {
    return counter;
  }

  /** Label names and values, sorted by name. */
  public SortedMap<String, String> labels() {
    return labels;
  }

  @Override
  public boolean equals(Object other) {
    return other == this
        || (other instanceof SeriesKey key
            && key.hash == hash
            && key.counter.equals(counter)
            && key.labels.equals(labels));
  }

  @Override
  public int hashCode() {
    return hash;
  }

  @Override
  public int compareTo(SeriesKey other) {
    int byCounter = counter.compareTo(other.counter);
    return byCounter != 0 ? byCounter : labels.toString().compareTo(other.labels.toString());
  }

  @Override
  public String toString() {
    return labels.isEmpty() ? counter : counter + labels;
  }
}
