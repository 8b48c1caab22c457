package jamjar.store.readings;

import jamjar.core.chunk.ReadingTimes;
import java.time.Instant;
import java.util.List;

/**
 * A reading with all that is kept of it.
 *
 * @param overlapped whether it was stamped by a clock that was set back since
 */
record RawRow(
    Instant at,
    int source,
    int layout,
    int elapsedMs,
    long seq,
    Instant arrived,
    boolean overlapped,
    double[] vals) {

  static ReadingTimes times(List<RawRow> rows) {
    ReadingTimes times = ReadingTimes.of(rows.size());
    for (int i = 0; i < rows.size(); i++) {
      RawRow row = rows.get(i);
      times.at()[i] = Micros.of(row.at());
      times.elapsed()[i] = row.elapsedMs();
      times.arrived()[i] = Micros.of(row.arrived());
      times.seq()[i] = row.seq();
      times.marks()[i] = row.overlapped() ? 1 : 0;
    }
    return times;
  }

  /**
   * One of a sealed span.
   *
   * @param i its place among the times
   */
  static RawRow of(ReadingTimes times, int i, int source, int layout, double[] vals) {
    return new RawRow(
        Micros.instant(times.at()[i]),
        source,
        layout,
        (int) times.elapsed()[i],
        times.seq()[i],
        Micros.instant(times.arrived()[i]),
        times.marks()[i] == 1,
        vals);
  }

  /** One that is packed at once. */
  static RawRow of(ReadingRow row) {
    return new RawRow(
        row.at(),
        row.source(),
        row.layout(),
        row.elapsedMs(),
        row.seq(),
        row.arrived(),
        false,
        row.vals());
  }

  RawRow asOverlapped() {
    return new RawRow(at, source, layout, elapsedMs, seq, arrived, true, vals);
  }
}
