package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.ByHand;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import javax.management.openmbean.CompositeData;
import org.junit.jupiter.api.Test;

/** What a person finds at the bean that is named is what was read: theirs, ours, theirs. */
class AttributesByHandTest {
  private static final MBeanServer HERE = ManagementFactory.getPlatformMBeanServer();

  /** The JVM goes on meanwhile, and its heap rises and falls: each must agree once. */
  private static final int ROUNDS = 50;

  @Test
  void every_attribute_that_is_read_is_named() throws Exception {
    try (JmxCollector collector =
        JmxCollector.own(HERE, RecipeFile.shipped("jvm"), Pace.FAST, Clock.systemUTC())) {
      Set<SeriesKey> disagree = new LinkedHashSet<>();
      for (RawValue value : collector.read().values()) {
        SeriesKey key = value.series();
        if (!key.counter().startsWith("own.") && !Double.isNaN(number(value))) {
          assertThat(collector.byHand(key)).as(key.toString()).isPresent();
          if (of(collector, key).how().startsWith("attribute of")) {
            disagree.add(key);
          }
        }
      }
      assertThat(disagree).hasSizeGreaterThan(20);
      for (int round = 0; round < ROUNDS && !disagree.isEmpty(); round++) {
        Map<SeriesKey, Double> before = byHand(disagree, collector);
        RawReading ours = collector.read();
        Map<SeriesKey, Double> after = byHand(disagree, collector);
        for (RawValue value : ours.values()) {
          SeriesKey key = value.series();
          if (disagree.contains(key) && lies(number(value), before.get(key), after.get(key))) {
            disagree.remove(key);
          }
        }
      }
      assertThat(disagree).isEmpty();
    }
  }

  private static ByHand of(JmxCollector collector, SeriesKey key) {
    return collector.byHand(key).orElseThrow();
  }

  private static double number(RawValue value) {
    if (value instanceof RawValue.Total total) {
      return total.value();
    }
    return value instanceof RawValue.Level level ? level.value() : Double.NaN;
  }

  /** As kept: a total is whole. */
  private static boolean lies(double ours, double before, double after) {
    double slack = 1 + 1e-9 * Math.abs(ours);
    boolean whole = ours == Math.rint(ours);
    return ours >= Math.min(before, after) - (whole ? slack : 1e-9)
        && ours <= Math.max(before, after) + (whole ? slack : 1e-9);
  }

  private static Map<SeriesKey, Double> byHand(Set<SeriesKey> keys, JmxCollector collector)
      throws Exception {
    Map<SeriesKey, Double> all = new HashMap<>();
    for (SeriesKey key : keys) {
      ByHand how = of(collector, key);
      String[] line = how.text().split("\n")[0].split(": ");
      String[] path = line[1].split("\\.");
      Object value = HERE.getAttribute(new ObjectName(line[0]), path[0]);
      for (int i = 1; i < path.length; i++) {
        value = ((CompositeData) value).get(path[i]);
      }
      double times =
          how.how().contains("times ") ? Double.parseDouble(how.how().split("times ")[1]) : 1;
      all.put(key, ((Number) value).doubleValue() * times);
    }
    return all;
  }
}
