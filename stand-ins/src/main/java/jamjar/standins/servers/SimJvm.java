package jamjar.standins.servers;

import java.util.Map;
import java.util.function.LongSupplier;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;

/** The JVM of a stand-in: what it allocates, collects and keeps follows from the work it does. */
final class SimJvm {
  private static final long MIB = 1 << 20;
  private static final long MAX = 1024 * MIB;
  private static final long EDEN = 256 * MIB;
  private static final long OLD_MAX = MAX - EDEN;
  private static final String OLD = "Tenured Gen";
  private static final double SURVIVES = 0.004;

  private final Noise noise;
  private final LongSupplier millis;
  private long start;
  private double floor;
  private double eden;
  private double old;
  private double afterOld;
  private double afterAny;
  private double allocated;
  private double cpuNanos;
  private long youngCount;
  private long youngMillis;
  private long oldCount;
  private long oldMillis;
  private int threads = 48;
  private int busy;
  private int blocked;
  private Map<String, Integer> waiting = Map.of();
  private boolean ring;
  private volatile SimThreads told =
      new SimThreads(new SimThreads.Moment(0, 0, 0, Map.of(), false));

  /**
   * @param floorShare what is kept of the old generation for good, 0 to 1
   * @param millis its clock, which never goes back
   */
  SimJvm(long seed, double floorShare, LongSupplier millis) {
    this.noise = new Noise(seed);
    this.millis = millis;
    this.start = millis.getAsLong();
    this.floor = floorShare * OLD_MAX;
    began();
  }

  /** Starting took memory and a collection already. */
  private void began() {
    old = floor;
    afterAny = floor;
    youngCount = 1;
    youngMillis = 9;
  }

  /**
   * As if it had run for long: the old generation was collected before.
   *
   * @param share of the way from there to the next time
   */
  void hasRun(double share) {
    collectOld();
    old = floor + share * Math.max(0, 0.75 * OLD_MAX - floor);
  }

  /** What is kept of the old generation from now on, 0 to 1. */
  void keeps(double floorShare) {
    floor = Math.min(0.99, floorShare) * OLD_MAX;
    old = Math.max(old, floor);
  }

  /**
   * What its threads wait for from now on.
   *
   * @param pools how many for a connection, by pool
   * @param each whether two wait for each other
   */
  void waits(Map<String, Integer> pools, boolean each) {
    waiting = pools;
    ring = each;
  }

  /**
   * Some seconds of work.
   *
   * @param requests how many were worked on in a second
   * @param workers threads that work now
   * @param leak share of the old generation that is kept on top in a second, for good
   */
  void pass(int seconds, double requests, int workers, double leak) {
    busy = workers;
    blocked = noise.count(workers * 0.02) > 0 ? 1 : 0;
    threads = 48 + Math.max(8, workers);
    floor = Math.min(OLD_MAX * 0.99, floor + leak * seconds * OLD_MAX);
    double bytes = (200_000 * requests + 400_000) * noise.next(seconds) * seconds;
    allocated += bytes;
    cpuNanos += (requests * 1.6e6 + 8e6) * noise.next(seconds) * seconds;
    eden += bytes;
    while (eden >= EDEN) {
      eden -= EDEN;
      old += EDEN * SURVIVES + leak * OLD_MAX;
      youngCount++;
      youngMillis += 6 + noise.count(6);
      afterAny = old;
      if (old > Math.max(0.75 * OLD_MAX, floor * 1.1) || old >= OLD_MAX) {
        collectOld();
      }
    }
    if (leak > 0) {
      old = Math.max(old, floor);
      if (old > 0.75 * OLD_MAX) {
        collectOld();
      }
    }
  }

  private void collectOld() {
    old = floor;
    afterOld = old;
    afterAny = old;
    oldCount++;
    oldMillis += 60 + Math.round(240 * floor / OLD_MAX) + noise.count(20);
  }

  /** A new process: all counts begin anew. */
  void restart(double floorShare) {
    start = millis.getAsLong();
    floor = floorShare * OLD_MAX;
    eden = 0;
    afterOld = 0;
    allocated = 0;
    cpuNanos = 0;
    began();
    oldCount = 0;
    oldMillis = 0;
  }

  void register(MBeanServer server, String name, Runnable asked) throws JMException {
    put(
        server,
        "java.lang:type=Runtime",
        new SimBean(asked)
            .with("StartTime", () -> start)
            .with("Uptime", () -> millis.getAsLong() - start)
            .with("VmName", () -> "Skerry stand-in VM")
            .with("VmVersion", () -> "17.0")
            .with("VmVendor", () -> "Skerry Line")
            .with("SpecVersion", () -> "17")
            .with("Pid", () -> 0L)
            .with("Name", () -> name));
    put(
        server,
        "java.lang:type=Memory",
        new SimBean(asked)
            .with("HeapMemoryUsage", () -> Composites.usage(eden + old, MAX))
            .with("NonHeapMemoryUsage", () -> Composites.usage(96 * MIB, -1)));
    put(
        server,
        "java.lang:type=MemoryPool,name=Eden Space",
        new SimBean(asked)
            .with("Usage", () -> Composites.usage(eden, EDEN))
            .with("CollectionUsage", () -> Composites.usage(0, EDEN)));
    put(
        server,
        "java.lang:type=MemoryPool,name=" + OLD,
        new SimBean(asked)
            .with("Usage", () -> Composites.usage(old, OLD_MAX))
            .with(
                "CollectionUsage", () -> Composites.usage(afterOld, afterOld == 0 ? 0 : OLD_MAX)));
    put(
        server,
        "java.lang:type=GarbageCollector,name=Copy",
        new SimBean(asked)
            .with("CollectionCount", () -> youngCount)
            .with("CollectionTime", () -> youngMillis)
            .with("LastGcInfo", () -> last(youngCount)));
    put(
        server,
        "java.lang:type=GarbageCollector,name=MarkSweepCompact",
        new SimBean(asked)
            .with("CollectionCount", () -> oldCount)
            .with("CollectionTime", () -> oldMillis)
            .with("LastGcInfo", () -> last(oldCount)));
    put(
        server,
        "java.lang:type=Threading",
        new SimBean(asked)
            .with("ThreadCount", () -> threads)
            .with("DaemonThreadCount", () -> threads - 6)
            .with("TotalStartedThreadCount", () -> 200L + youngCount / 10)
            .with("AllThreadIds", () -> threads().ids())
            .does("getThreadInfo", arguments -> threads().of((long[]) arguments[0]))
            .does("getThreadAllocatedBytes", arguments -> shares((long[]) arguments[0]))
            .does("findDeadlockedThreads", arguments -> threads().ring()));
    put(
        server,
        "java.lang:type=ClassLoading",
        new SimBean(asked)
            .with("LoadedClassCount", () -> 11_400)
            .with("UnloadedClassCount", () -> 12L));
    put(
        server,
        "java.lang:type=OperatingSystem",
        new SimBean(asked)
            .with("ProcessCpuTime", () -> (long) cpuNanos)
            .with("OpenFileDescriptorCount", () -> 210L + 3L * busy)
            .with("MaxFileDescriptorCount", () -> 8192L)
            .with("CommittedVirtualMemorySize", () -> 3 * MAX)
            .with("CpuLoad", () -> Math.min(1, 0.08 + busy / 120.0))
            .with("SystemLoadAverage", () -> 0.3 + busy / 15.0)
            .with("AvailableProcessors", () -> 8)
            .with("TotalMemorySize", () -> 16 * 1024 * MIB)
            .with("FreeMemorySize", () -> 5 * 1024 * MIB));
    put(
        server,
        "java.nio:type=BufferPool,name=direct",
        new SimBean(asked)
            .with("MemoryUsed", () -> (40L + busy) * 65_536)
            .with("Count", () -> 40L + busy));
  }

  private CompositeData last(long count) {
    return count == 0 ? null : Composites.lastCollection(OLD, afterAny, OLD_MAX);
  }

  /** The same three times in a reading: each asks for something else of them. */
  private SimThreads threads() {
    SimThreads.Moment now =
        new SimThreads.Moment(threads, Math.min(busy, threads), blocked, waiting, ring);
    SimThreads found = told;
    if (!found.isOf(now)) {
      found = new SimThreads(now);
      told = found;
    }
    return found;
  }

  /** All is allocated by the first thread: only the sum matters. */
  private long[] shares(long[] ids) {
    long[] bytes = new long[ids.length];
    if (bytes.length > 0) {
      bytes[0] = (long) allocated;
    }
    return bytes;
  }

  static void put(MBeanServer server, String name, SimBean bean) throws JMException {
    server.registerMBean(bean, new ObjectName(name));
  }
}
