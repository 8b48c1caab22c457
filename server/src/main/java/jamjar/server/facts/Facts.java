package jamjar.server.facts;

import jakarta.annotation.PreDestroy;
import jamjar.collect.Collector;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.reading.Shown;
import jamjar.server.heads.Heads;
import jamjar.server.instances.InstanceState;
import jamjar.server.normals.NormalsService;
import jamjar.server.watch.WatchEvents;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import jamjar.store.intake.Intake;
import jamjar.store.markers.MarkerRow;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Keeps what instances say of themselves as changes, and marks each change on the rail. */
@Component
class Facts implements WatchEvents {
  private static final Logger LOG = LoggerFactory.getLogger(Facts.class);

  /** Other ones at each start: a start is seen by itself, not as a change of the settings. */
  private static final Set<String> OF_THE_PROCESS = Set.of("started", "process");

  /**
   * Some hold the process or a moment, and of heads an alert tells: they are kept, but are no
   * change to mark.
   */
  private static final List<String> UNMARKED = List.of("properties/", Heads.FACT);

  private static final int WAITING = 2000;
  private static final int NAMED = 3;
  private static final Duration MARKED_ONCE_IN = Duration.ofMinutes(5);
  private static final int MOST_MARKED = 500;

  /** What it says of itself that its normal follows. */
  private static final String ROLE = NormalsService.ROLE;

  private static final Duration BROUGHT_WITHIN = Duration.ofSeconds(30);

  private final Store store;
  private final Intake intake;
  private final NormalsService normals;

  /** What each said last. */
  private final Map<Integer, Map<String, String>> said = new ConcurrentHashMap<>();

  private final Map<Integer, Map<String, Instant>> marked = new ConcurrentHashMap<>();
  private final ThreadPoolExecutor keeping =
      new ThreadPoolExecutor(
          1,
          1,
          10,
          TimeUnit.SECONDS,
          new ArrayBlockingQueue<>(WAITING),
          task -> {
            Thread thread = new Thread(task, "facts");
            thread.setDaemon(true);
            return thread;
          },
          new ThreadPoolExecutor.DiscardPolicy());

  Facts(Store store, Intake intake, NormalsService normals) {
    this.store = store;
    this.intake = intake;
    this.normals = normals;
  }

  @Override
  public void facts(int instance, Instant at, Map<String, String> facts) {
    keeping.execute(
        () -> {
          try {
            keep(instance, at, facts);
          } catch (RuntimeException e) {
            LOG.warn("event=facts-not-kept instance={} why=\"{}\"", instance, e.getMessage());
          }
        });
  }

  private void keep(int instance, Instant at, Map<String, String> facts) {
    Map<String, String> before = said.computeIfAbsent(instance, this::stored);
    List<String> ended = new ArrayList<>();
    Map<String, String> begun = new TreeMap<>();
    List<String> changes = new ArrayList<>();
    Set<String> names = new TreeSet<>(before.keySet());
    names.addAll(facts.keySet());
    for (String name : names) {
      String was = before.get(name);
      String is = facts.get(name);
      if (Objects.equals(was, is)) {
        continue;
      }
      if (was != null) {
        ended.add(name);
      }
      if (is != null) {
        begun.put(name, is);
      }
      // who says it for the first time says nothing new; pools come and go with each start
      boolean first =
          was == null && name.equals(ROLE)
              || (was == null || is == null) && name.startsWith(Collector.LEADS_TO);
      boolean marks =
          !first && !OF_THE_PROCESS.contains(name) && UNMARKED.stream().noneMatch(name::startsWith);
      if (marks && !before.isEmpty() && !markedLately(instance, name, at)) {
        changes.add(words(name, was, is));
      }
    }
    // the first look is no change
    boolean tell = !before.isEmpty() && !changes.isEmpty();
    Optional<MarkerRow> marker =
        tell ? Optional.of(marker(instance, at, changes)) : Optional.empty();
    intake.facts(instance, at, ended, begun, marker);
    said.put(instance, Map.copyOf(facts));
    if (ended.contains(ROLE) && begun.containsKey(ROLE)) {
      becomesAnother(instance);
    }
  }

  /** As a writer nothing is as it was as a reader: what is stored tells which time counts. */
  private void becomesAnother(int instance) {
    try {
      intake.awaitBrought(BROUGHT_WITHIN);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } finally {
      normals.becomesAnother(instance);
    }
  }

  private Map<String, String> stored(int instance) {
    Map<String, String> stored = new HashMap<>();
    for (FactRow row : store.facts().now(instance)) {
      stored.put(row.name(), row.value());
    }
    return stored;
  }

  /** What changes all the time is marked once in a while; all of its changes are kept. */
  private boolean markedLately(int instance, String name, Instant at) {
    Map<String, Instant> names = marked.computeIfAbsent(instance, i -> new HashMap<>());
    names.values().removeIf(then -> Duration.between(then, at).abs().compareTo(MARKED_ONCE_IN) > 0);
    // a flood of ever other names is no news either
    return names.size() >= MOST_MARKED || names.putIfAbsent(name, at) != null;
  }

  private static String words(String name, String was, String is) {
    String plain = name.substring(name.indexOf('/') + 1);
    return plain + " " + shortened(was) + " → " + shortened(is);
  }

  private static String shortened(String value) {
    if (value == null) {
      return "nothing";
    }
    return value.length() <= 40 ? value : value.substring(0, 40) + "…";
  }

  private static MarkerRow marker(int instance, Instant at, List<String> changes) {
    int more = changes.size() - NAMED;
    String title =
        String.join(", ", changes.subList(0, Math.min(NAMED, changes.size())))
            + (more > 0 ? " and " + more + " more" : "");
    return MarkerRow.once(
        0,
        "change",
        title,
        String.join("\n", changes),
        at,
        null,
        "instance",
        Integer.toString(instance),
        at,
        "Jam Jar");
  }

  @Override
  public void read(
      int instance, Instant at, int[] ids, List<Shown> shown, Map<Integer, Departure> departed) {
    // only what it says of itself is of interest
  }

  @Override
  public void state(InstanceState state) {
    // as above
  }

  @Override
  public void removed(int instance) {
    // what it said is kept
    marked.remove(instance);
    said.remove(instance);
  }

  @PreDestroy
  void end() {
    keeping.shutdown();
  }
}
