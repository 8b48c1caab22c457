package jamjar.server.watch;

import jamjar.core.baseline.Departing.Departure;
import jamjar.core.reading.Shown;
import jamjar.server.instances.InstanceState;
import jamjar.server.live.Greeting.Told;
import jamjar.server.live.LiveStreams;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Tells the live streams what the watchers see. */
@Component
class LiveReadings implements WatchEvents {
  private final LiveStreams streams;

  LiveReadings(LiveStreams streams) {
    this.streams = streams;
  }

  static Told told(InstanceState state) {
    return new Told("state", state.instance(), "", "state/" + state.instance(), state);
  }

  @Override
  public void read(
      int instance, Instant at, int[] ids, List<Shown> shown, Map<Integer, Departure> departed) {
    if (!streams.wanted(instance)) {
      return;
    }
    List<Integer> series = new ArrayList<>(ids.length);
    List<Double> values = new ArrayList<>(ids.length);
    List<String> why = new ArrayList<>(ids.length);
    List<Double> distance = new ArrayList<>(ids.length);
    for (int i = 0; i < ids.length; i++) {
      Shown value = shown.get(i);
      boolean there = value.why() == null && Double.isFinite(value.value());
      series.add(ids[i]);
      values.add(there ? (Double) value.value() : null);
      why.add(value.why() == null ? "" : value.why().words());
      Departure departure = departed.get(ids[i]);
      distance.add(departure == null ? null : (Double) departure.distance());
    }
    LiveReading reading =
        new LiveReading(instance, at.toEpochMilli(), series, values, why, distance);
    streams.tellWho(new Told("reading", instance, instance + "@" + at.toEpochMilli(), "", reading));
  }

  @Override
  public void state(InstanceState state) {
    streams.tell(told(state));
  }

  @Override
  public void removed(int instance) {
    streams.tell(new Told("removed", instance, "", "", Map.of("instance", instance)));
  }
}
