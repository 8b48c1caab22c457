package jamjar.standins.servers;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.management.openmbean.CompositeData;
import javax.management.openmbean.CompositeDataSupport;
import javax.management.openmbean.CompositeType;
import javax.management.openmbean.OpenDataException;
import javax.management.openmbean.OpenType;
import javax.management.openmbean.SimpleType;
import javax.management.openmbean.TabularDataSupport;
import javax.management.openmbean.TabularType;

/** The composite values that the beans of a JVM give. */
final class Composites {
  private static final CompositeType USAGE;
  private static final CompositeType THREAD;
  private static final CompositeType POOL_ROW;
  private static final CompositeType LAST_COLLECTION;
  private static final TabularType POOLS;

  static {
    try {
      String[] parts = {"init", "used", "committed", "max"};
      OpenType<?>[] longs = {SimpleType.LONG, SimpleType.LONG, SimpleType.LONG, SimpleType.LONG};
      USAGE = new CompositeType("java.lang.management.MemoryUsage", "usage", parts, parts, longs);
      String[] state = {"threadState"};
      THREAD =
          new CompositeType(
              "java.lang.management.ThreadInfo",
              "thread",
              state,
              state,
              new OpenType<?>[] {SimpleType.STRING});
      String[] row = {"key", "value"};
      POOL_ROW =
          new CompositeType("row", "row", row, row, new OpenType<?>[] {SimpleType.STRING, USAGE});
      POOLS = new TabularType("pools", "pools", POOL_ROW, new String[] {"key"});
      String[] last = {"memoryUsageAfterGc"};
      LAST_COLLECTION =
          new CompositeType("last", "last collection", last, last, new OpenType<?>[] {POOLS});
    } catch (OpenDataException e) {
      throw new IllegalStateException(e);
    }
  }

  private static final Map<String, CompositeData> THREADS = new ConcurrentHashMap<>();

  private Composites() {}

  static CompositeData usage(double used, long max) {
    long bytes = (long) used;
    return of(
        USAGE, Map.of("init", 0L, "used", bytes, "committed", Math.max(bytes, max), "max", max));
  }

  static CompositeData thread(String state) {
    return THREADS.computeIfAbsent(state, s -> of(THREAD, Map.of("threadState", s)));
  }

  static CompositeData lastCollection(String pool, double used, long max) {
    TabularDataSupport pools = new TabularDataSupport(POOLS);
    pools.put(of(POOL_ROW, Map.of("key", pool, "value", usage(used, max))));
    return of(LAST_COLLECTION, Map.of("memoryUsageAfterGc", pools));
  }

  private static CompositeData of(CompositeType type, Map<String, Object> items) {
    try {
      return new CompositeDataSupport(type, items);
    } catch (OpenDataException e) {
      throw new IllegalStateException(e);
    }
  }
}
