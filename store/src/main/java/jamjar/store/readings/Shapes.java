package jamjar.store.readings;

import jamjar.core.counter.Shape;
import jamjar.core.reading.SeriesKey;
import java.util.Optional;

/** Tells what the readings of a series are. */
@FunctionalInterface
public interface Shapes {
  /** Level or total; empty where it is not known any more. */
  Optional<Shape> of(int instance, SeriesKey series);
}
