package jamjar.collect.jmx;

import jamjar.collect.ByHand;
import jamjar.collect.recipe.AttributeRead;
import jamjar.collect.recipe.BeanQuery;
import jamjar.core.reading.SeriesKey;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.management.ObjectName;

/** Which bean and attribute gives the raw value of a series, to be looked at by a person. */
final class AttributesByHand {
  private static final String ATTRIBUTE = "attribute of a managed bean";

  /** Of one counter several beans may be read into one series. */
  private static final int MOST = 5;

  private AttributesByHand() {}

  /**
   * @param found the beans of each query
   */
  static Optional<ByHand> of(SeriesKey series, Map<BeanQuery, List<ObjectName>> found) {
    List<ByHand> all = new ArrayList<>();
    found.forEach(
        (query, names) ->
            query.reads().stream()
                .filter(read -> read.counter().equals(series.counter()))
                .forEach(read -> add(all, query, read, fitting(query, series, names))));
    if (all.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new ByHand(
            all.get(0).how(),
            all.stream().map(ByHand::text).limit(MOST).collect(Collectors.joining("\n"))));
  }

  private static List<ObjectName> fitting(
      BeanQuery query, SeriesKey series, List<ObjectName> names) {
    // what a special reads has labels that no name tells
    return query.special().isEmpty()
        ? names.stream().filter(name -> series.labels().equals(query.labelsOf(name))).toList()
        : names;
  }

  private static void add(
      List<ByHand> all, BeanQuery query, AttributeRead read, List<ObjectName> names) {
    for (ObjectName name : names) {
      all.add(
          switch (query.special()) {
            case BeanQuery.THREADS ->
                new ByHand(
                    "operations of a managed bean; threads are counted by threadState, bytes are"
                        + " added up thread by thread",
                    name + ": getThreadInfo(AllThreadIds), getThreadAllocatedBytes(AllThreadIds)");
            case BeanQuery.DEADLOCKED ->
                new ByHand(
                    "an operation of a managed bean; how many it tells of",
                    name + ": findDeadlockedThreads()");
            case BeanQuery.FLOOR ->
                new ByHand(
                    "attributes of a managed bean; where CollectionUsage.used is 0, what the last"
                        + " collections left, of LastGcInfo",
                    name + ": CollectionUsage.used, Usage.max");
            case BeanQuery.RESIDENT ->
                new ByHand("a file of the machine that it runs on", "grep VmRSS /proc/PID/status");
            default ->
                new ByHand(
                    ATTRIBUTE
                        + (read.scale() == 1 ? "" : ", times " + plain(read.scale()))
                        + (read.needs().isEmpty()
                            ? ""
                            : ", known while " + String.join(".", read.needs()) + " is above 0"),
                    name + ": " + String.join(".", read.path()));
          });
    }
  }

  private static String plain(double scale) {
    return scale == Math.rint(scale) ? Long.toString((long) scale) : Double.toString(scale);
  }
}
