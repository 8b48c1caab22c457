package jamjar.server.watch;

import jamjar.core.baseline.Departing.Departure;
import jamjar.core.reading.Shown;
import jamjar.server.instances.InstanceState;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** Who wants to know what the watchers see. Called by their threads: must not block. */
public interface WatchEvents {
  /**
   * A reading has been stored.
   *
   * @param ids the numbers of the series, in the order of shown
   * @param departed those that have left their normal
   */
  void read(
      int instance, Instant at, int[] ids, List<Shown> shown, Map<Integer, Departure> departed);

  /** What an instance says of itself has changed, or is told for the first time. */
  default void facts(int instance, Instant at, Map<String, String> facts) {}

  void state(InstanceState state);

  void removed(int instance);
}
