package jamjar.server.gaps;

import jamjar.core.counter.Pace;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How far back anything is kept, and when nobody was watched: what a strip of time is drawn on. */
@RestController
@RequestMapping(path = "/api/gaps", produces = "application/json")
class GapController {
  private static final int MOST_INSTANCES = 200;

  /** Gaps that are nearer to each other than this part of the window are one to look at. */
  private static final int PARTS = 2_000;

  private final Store store;
  private final Scopes scopes;
  private final InstanceService instances;
  private final Clock clock;

  GapController(Store store, Scopes scopes, InstanceService instances, Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.instances = instances;
    this.clock = clock;
  }

  /**
   * The gaps of a window, oldest first: those in which Jam Jar watched nobody, and of the instances
   * that are asked for those in which they did not answer.
   *
   * @param from epoch ms, as is the end
   * @param instance whose; of none, what holds for all
   */
  @GetMapping
  GapsView gaps(
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(required = false, defaultValue = "") List<Integer> instance) {
    Times.requireWindow(from, to);
    if (instance.size() > MOST_INSTANCES) {
      throw Problem.field("instance", "Ask for " + MOST_INSTANCES + " instances at most.");
    }
    Instant begin = Instant.ofEpochMilli(from);
    Instant end = Instant.ofEpochMilli(to);
    List<GapsView.Without> found = new ArrayList<>();
    store.watching().touching(begin, end).stream()
        .filter(gap -> !gap.overlaps())
        .map(gap -> new GapsView.Without(gap.from(), gap.to(), "", gap.words(), 1))
        .forEach(found::add);
    for (int id : instance) {
      String name = instances.row(id).name();
      store.silences().touching(id, begin, end).stream()
          .filter(silence -> silence.source() == Pace.FAST.code())
          .map(
              silence ->
                  new GapsView.Without(
                      silence.from().toEpochMilli(),
                      silence.to() == null ? clock.millis() : silence.to().toEpochMilli(),
                      name,
                      silence.words(),
                      1))
          .forEach(found::add);
    }
    found.sort(Comparator.comparingLong(GapsView.Without::from));
    int[] asked =
        instance.isEmpty()
            ? scopes.instances().stream().mapToInt(row -> row.id()).toArray()
            : instance.stream().mapToInt(Integer::intValue).toArray();
    return new GapsView(
        store.readings().first(asked).map(Instant::toEpochMilli).orElse(null),
        together(found, (to - from) / PARTS));
  }

  /** A target that comes and goes for weeks leaves more gaps than anybody can look at. */
  private static List<GapsView.Without> together(List<GapsView.Without> sorted, long near) {
    List<GapsView.Without> found = new ArrayList<>();
    Map<String, Integer> last = new HashMap<>();
    for (GapsView.Without gap : sorted) {
      Integer place = last.get(gap.instance());
      if (place != null && gap.from() - found.get(place).to() < near) {
        found.set(place, found.get(place).and(gap));
      } else {
        last.put(gap.instance(), found.size());
        found.add(gap);
      }
    }
    return found;
  }
}
