package jamjar.collect.jmx;

import jamjar.collect.Target;
import jamjar.collect.recipe.AttributeRead;
import jamjar.collect.recipe.BeanQuery;
import jamjar.core.counter.WhyNothing;
import jamjar.core.heap.Floor;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import javax.management.AttributeNotFoundException;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.ObjectName;
import javax.management.ReflectionException;
import javax.management.openmbean.CompositeData;
import javax.management.openmbean.TabularData;

/** What a JVM tells only when more is asked than its attributes. */
final class Specials {
  private static final ObjectName COLLECTORS;

  static {
    try {
      COLLECTORS = new ObjectName("java.lang:type=GarbageCollector,name=*");
    } catch (JMException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Those that a thread that runs can be in, by name. */
  private static final Map<String, String> STATES =
      Arrays.stream(Thread.State.values())
          .filter(state -> state != Thread.State.NEW && state != Thread.State.TERMINATED)
          .map(Thread.State::name)
          .collect(
              Collectors.toMap(
                  name -> name, name -> name.toLowerCase(Locale.ROOT).replace('_', ' ')));

  private final Target target;
  private final Map<String, SeriesKey> ofStates = new HashMap<>();
  private final Map<String, Floor> floors = new HashMap<>();
  private Map<Long, Long> allocatedBefore = Map.of();
  private long allocated;
  private long countedSince;

  Specials(Target target) {
    this.target = target;
  }

  /** What was kept of the reading before says nothing any more. */
  void forget() {
    allocatedBefore = Map.of();
  }

  /**
   * Reads one bean.
   *
   * @return how many calls it took beyond the first
   */
  int read(
      MBeanServerConnection server,
      BeanQuery query,
      ObjectName name,
      Instant at,
      List<RawValue> into)
      throws IOException, JMException {
    List<String> counters = query.reads().stream().map(AttributeRead::counter).toList();
    return switch (query.special()) {
      case BeanQuery.THREADS -> threads(server, name, counters, at, into);
      case BeanQuery.DEADLOCKED -> deadlocked(server, name, counters.get(0), into);
      case BeanQuery.FLOOR -> floor(server, name, counters, at, into);
      default -> resident(server, name, counters.get(0), into);
    };
  }

  /**
   * The first counter gets the threads by state, the second what they allocated, the third those
   * that are blocked.
   */
  private int threads(
      MBeanServerConnection server,
      ObjectName name,
      List<String> counters,
      Instant at,
      List<RawValue> into)
      throws IOException, JMException {
    long[] ids = (long[]) server.getAttribute(name, "AllThreadIds");
    CompositeData[] infos =
        (CompositeData[])
            server.invoke(
                name, "getThreadInfo", new Object[] {ids}, new String[] {long[].class.getName()});
    Map<String, Integer> states = new HashMap<>();
    STATES.keySet().forEach(state -> states.put(state, 0));
    for (CompositeData info : infos) {
      if (info != null) {
        // one that has ended meanwhile is none
        states.computeIfPresent((String) info.get("threadState"), (state, n) -> n + 1);
      }
    }
    into.add(
        new RawValue.Level(SeriesKey.of(counters.get(2)), states.get(Thread.State.BLOCKED.name())));
    states.forEach(
        (state, count) ->
            into.add(
                new RawValue.Level(
                    ofStates.computeIfAbsent(
                        state, s -> SeriesKey.of(counters.get(0), "state", STATES.get(s))),
                    count)));
    into.add(allocation(server, name, ids, SeriesKey.of(counters.get(1)), at));
    return 2;
  }

  /**
   * Added up thread by thread, as a JVM before 21 tells no total: what a thread allocated after the
   * reading before it ended is missed, so that it is a least value.
   */
  private RawValue allocation(
      MBeanServerConnection server, ObjectName name, long[] ids, SeriesKey key, Instant at)
      throws IOException, JMException {
    long[] bytes;
    try {
      bytes =
          (long[])
              server.invoke(
                  name,
                  "getThreadAllocatedBytes",
                  new Object[] {ids},
                  new String[] {long[].class.getName()});
    } catch (ReflectionException e) {
      return new RawValue.Nothing(key, WhyNothing.NONE_THERE);
    }
    Map<Long, Long> now = new HashMap<>();
    long increase = 0;
    for (int i = 0; i < ids.length; i++) {
      if (bytes[i] >= 0) {
        now.put(ids[i], bytes[i]);
        increase += Math.max(0, bytes[i] - allocatedBefore.getOrDefault(ids[i], 0L));
      }
    }
    boolean first = allocatedBefore.isEmpty();
    allocatedBefore = now;
    if (first) {
      // counted anew from here: no increase, and no zero either
      countedSince = at.toEpochMilli();
      return new RawValue.Total(key, allocated, countedSince);
    }
    allocated += increase;
    return new RawValue.Total(key, allocated, countedSince, OptionalLong.of(increase));
  }

  private static int deadlocked(
      MBeanServerConnection server, ObjectName name, String counter, List<RawValue> into)
      throws IOException, JMException {
    long[] ids = (long[]) server.invoke(name, "findDeadlockedThreads", null, null);
    into.add(new RawValue.Level(SeriesKey.of(counter), ids == null ? 0 : ids.length));
    return 0;
  }

  /**
   * The first counter gets the floor, the second the most that the generation may grow to, the
   * third, where there is one, how long ago a collection looked.
   */
  private int floor(
      MBeanServerConnection server,
      ObjectName pool,
      List<String> counters,
      Instant at,
      List<RawValue> into)
      throws IOException, JMException {
    CompositeData usage = (CompositeData) server.getAttribute(pool, "Usage");
    CompositeData looked = (CompositeData) server.getAttribute(pool, "CollectionUsage");
    double afterLooked = looked == null ? 0 : ((Number) looked.get("used")).doubleValue();
    double afterAny = Double.NaN;
    int calls = 1;
    String poolName = pool.getKeyProperty("name");
    // asked only as long as it stands in
    if (afterLooked == 0) {
      calls++;
      for (ObjectName collector : server.queryNames(COLLECTORS, null)) {
        calls++;
        afterAny = least(afterAny, after(server, collector, poolName));
      }
    }
    Floor kept = floors.computeIfAbsent(poolName, p -> new Floor());
    double floor = kept.after(afterLooked, afterAny, at.toEpochMilli());
    long max = ((Number) usage.get("max")).longValue();
    into.add(known(SeriesKey.of(counters.get(0)), floor));
    into.add(known(SeriesKey.of(counters.get(1)), max < 0 ? Double.NaN : max));
    if (counters.size() > 2) {
      into.add(known(SeriesKey.of(counters.get(2)), kept.sinceLooked(at.toEpochMilli())));
    }
    return calls;
  }

  private static RawValue known(SeriesKey key, double value) {
    return Double.isNaN(value)
        ? new RawValue.Nothing(key, WhyNothing.NOT_YET_KNOWN)
        : new RawValue.Level(key, value);
  }

  private static double least(double a, double b) {
    return Double.isNaN(a) ? b : Double.isNaN(b) ? a : Math.min(a, b);
  }

  /** What a collector's last run left in a pool; NaN when it has not run or does not tell. */
  private static double after(MBeanServerConnection server, ObjectName collector, String pool)
      throws IOException, JMException {
    try {
      CompositeData last = (CompositeData) server.getAttribute(collector, "LastGcInfo");
      if (last == null || !last.containsKey("memoryUsageAfterGc")) {
        return Double.NaN;
      }
      CompositeData row = ((TabularData) last.get("memoryUsageAfterGc")).get(new Object[] {pool});
      return row == null
          ? Double.NaN
          : ((Number) ((CompositeData) row.get("value")).get("used")).doubleValue();
    } catch (AttributeNotFoundException e) {
      return Double.NaN;
    }
  }

  /** No bean tells it; the kernel does, where the process is one of this machine. */
  private int resident(
      MBeanServerConnection server, ObjectName name, String counter, List<RawValue> into)
      throws IOException, JMException {
    SeriesKey key = SeriesKey.of(counter);
    if (target.port() != 0) {
      into.add(new RawValue.Nothing(key, WhyNothing.NONE_THERE));
      return 0;
    }
    // such as 4711@nq-app-1
    String process = Plain.text(server.getAttribute(name, "Name")).split("@")[0];
    for (String line : Files.readAllLines(Path.of("/proc/" + process + "/status"))) {
      if (line.startsWith("VmRSS:")) {
        long kib = Long.parseLong(line.replaceAll("\\D", ""));
        into.add(new RawValue.Level(key, kib * 1024.0));
      }
    }
    return 0;
  }
}
