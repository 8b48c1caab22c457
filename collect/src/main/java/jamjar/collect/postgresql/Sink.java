package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;

/** Where a query puts what it read. */
final class Sink {
  private final List<RawValue> values = new ArrayList<>();

  void put(RawValue value) {
    values.add(value);
  }

  void level(String counter, double value) {
    put(new RawValue.Level(SeriesKey.of(counter), value));
  }

  void level(String counter, String subject, String label, double value) {
    put(new RawValue.Level(key(counter, subject, label), value));
  }

  void total(String counter, long value, long epoch) {
    put(new RawValue.Total(SeriesKey.of(counter), value, epoch));
  }

  void total(String counter, long value, long epoch, OptionalLong fromEntries) {
    put(new RawValue.Total(SeriesKey.of(counter), value, epoch, fromEntries));
  }

  void total(String counter, String subject, String label, long value, long epoch) {
    put(new RawValue.Total(key(counter, subject, label), value, epoch));
  }

  void nothing(String counter, WhyNothing why) {
    put(new RawValue.Nothing(SeriesKey.of(counter), why));
  }

  void nothing(String counter, String subject, String label, WhyNothing why) {
    put(new RawValue.Nothing(key(counter, subject, label), why));
  }

  private static SeriesKey key(String counter, String subject, String label) {
    return SeriesKey.of(counter, subject, Bounds.label(label));
  }

  /** What came before a query failed is taken back. */
  void backTo(int size) {
    values.subList(size, values.size()).clear();
  }

  int size() {
    return values.size();
  }

  List<RawValue> values() {
    return values;
  }
}
