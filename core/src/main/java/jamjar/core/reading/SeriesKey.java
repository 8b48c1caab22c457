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
  private final int hashOfLabels;
  private final int hash;

  /**
   * @param counter key of the counter
   * @param labels label names and values; empty when the counter has none
   */
  public SeriesKey(String counter, Map<String, String> labels) {
    this(
        counter,
        labels.isEmpty() ? NONE : Collections.unmodifiableSortedMap(new TreeMap<>(labels)),
        labels.hashCode());
  }

  private SeriesKey(String counter, SortedMap<String, String> labels, int hashOfLabels) {
    this.counter = counter;
    this.labels = labels;
    this.hashOfLabels = hashOfLabels;
    this.hash = counter.hashCode() * 31 + hashOfLabels;
  }

  public static SeriesKey of(String counter) {
    return new SeriesKey(counter, NONE, 0);
  }

  public static SeriesKey of(String counter, String subject, String label) {
    return new SeriesKey(counter, Map.of(subject, label));
  }

  public SeriesKey withCounter(String other) {
    return new SeriesKey(other, labels, hashOfLabels);
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
            && (key.labels == labels || key.labels.equals(labels)));
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
