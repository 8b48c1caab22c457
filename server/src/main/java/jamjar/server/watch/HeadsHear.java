package jamjar.server.watch;

import jamjar.core.baseline.Departing.Departure;
import jamjar.core.reading.Shown;
import jamjar.server.heads.HeadCounts;
import jamjar.server.instances.InstanceState;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Tells who counts heads how each instance is doing. */
@Component
class HeadsHear implements WatchEvents {
  private final HeadCounts heads;

  HeadsHear(HeadCounts heads) {
    this.heads = heads;
  }

  @Override
  public void read(
      int instance, Instant at, int[] ids, List<Shown> shown, Map<Integer, Departure> departed) {
    // a state is told with each reading
  }

  @Override
  public void state(InstanceState state) {
    heads.state(state);
  }

  @Override
  public void removed(int instance) {
    heads.removed(instance);
  }
}
