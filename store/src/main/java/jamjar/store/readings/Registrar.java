package jamjar.store.readings;

import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.List;

/** Keeps which number was given to what, before it is used for the first time. */
public interface Registrar {
  /** New series of one instance. */
  void series(List<SeriesRow> rows, Instant at);

  void layout(LayoutRow row);
}
