package jamjar.standins.servers;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.management.openmbean.ArrayType;
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
  private static final CompositeType CALL;
  private static final CompositeType THREAD;
  private static final CompositeType POOL_ROW;
  private static final CompositeType LAST_COLLECTION;
  private static final TabularType POOLS;

  static {
    try {
      String[] parts = {"init", "used", "committed", "max"};
      OpenType<?>[] longs = {SimpleType.LONG, SimpleType.LONG, SimpleType.LONG, SimpleType.LONG};
      USAGE = new CompositeType("java.lang.management.MemoryUsage", "usage", parts, parts, longs);
      String[] call = {"className", "methodName", "lineNumber"};
      CALL =
          new CompositeType(
              "java.lang.StackTraceElement",
              "call",
              call,
              call,
              new OpenType<?>[] {SimpleType.STRING, SimpleType.STRING, SimpleType.INTEGER});
      String[] thread = {
        "threadId", "threadName", "threadState", "lockName", "lockOwnerId", "stackTrace"
      };
      THREAD =
          new CompositeType(
              "java.lang.management.ThreadInfo",
              "thread",
              thread,
              thread,
              new OpenType<?>[] {
                SimpleType.LONG,
                SimpleType.STRING,
                SimpleType.STRING,
                SimpleType.STRING,
                SimpleType.LONG,
                new ArrayType<>(1, CALL)
              });
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

  private static final Map<List<String>, CompositeData[]> STACKS = new ConcurrentHashMap<>();

  private Composites() {}

  static CompositeData usage(double used, long max) {
    long bytes = (long) used;
    return of(
        USAGE, Map.of("init", 0L, "used", bytes, "committed", Math.max(bytes, max), "max", max));
  }

  /**
   * @param lock null for none
   * @param stack class, method and, where there is one, the line
   */
  static CompositeData thread(
      long id, String name, String state, String lock, long owner, List<String> stack) {
    Map<String, Object> items = new HashMap<>();
    items.put("threadId", id);
    items.put("threadName", name);
    items.put("threadState", state);
    items.put("lockName", lock);
    items.put("lockOwnerId", owner);
    items.put("stackTrace", STACKS.computeIfAbsent(stack, Composites::calls));
    return of(THREAD, items);
  }

  private static CompositeData[] calls(List<String> stack) {
    return stack.stream()
        .map(
            call -> {
              String[] parts = call.split(":");
              int method = parts[0].lastIndexOf('.');
              return of(
                  CALL,
                  Map.of(
                      "className",
                      parts[0].substring(0, method),
                      "methodName",
                      parts[0].substring(method + 1),
                      "lineNumber",
                      parts.length > 1 ? Integer.parseInt(parts[1]) : -2));
            })
        .toArray(CompositeData[]::new);
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
