package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.Collector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * A bean with an attribute of a class that nobody knows, one that blocks for half a minute and one
 * that throws, each made a counter: they cost themselves and nothing else.
 */
class OddAttributesTest {
  private static final Map<String, String> OPEN = Map.of("authenticate", "false", "ssl", "false");
  private static final LoadedRecipe RECIPE =
      RecipeFile.read(
          "odd",
          "odd.yaml",
          """
          kind: jvm
          name: Odd
          paces: {fast: 10}
          groups: {heap: fast, odd: fast}
          beans:
            - group: odd
              name: test:type=Odd
              read:
                - {counter: blocking, attribute: Blocking}
                - {counter: foreign, attribute: Foreign}
                - {counter: good, attribute: Good}
                - {counter: throwing, attribute: Throwing}
            - group: heap
              name: java.lang:type=Memory
              read:
                - {counter: heap, attribute: HeapMemoryUsage.used, needs: committed}
                - {counter: outside, attribute: NonHeapMemoryUsage.used, needs: max}
          counters:
            - {key: blocking, title: B, group: odd, shape: level, worse: up, meaning: B.}
            - {key: foreign, title: F, group: odd, shape: level, worse: up, meaning: F.}
            - {key: good, title: G, group: odd, shape: level, worse: up, meaning: G.}
            - {key: throwing, title: T, group: odd, shape: level, worse: up, meaning: T.}
            - {key: heap, title: H, group: heap, shape: level, worse: up, meaning: H.}
            - {key: outside, title: O, group: heap, shape: level, worse: up, meaning: O.}
          """,
          key -> {
            throw new IllegalArgumentException(key);
          });

  @Test
  void each_costs_its_own_counter_and_is_told_apart() throws Exception {
    try (ChildJvm jvm = ChildJvm.start(OPEN);
        JmxCollector collector =
            JmxCollector.of(jvm.target(), RECIPE, Pace.FAST, Clock.systemUTC())) {
      Map<String, Object> first = values(collector.read());
      assertThat(first.get("heap")).as("the rest is read at once").isInstanceOf(Double.class);
      // its most is −1: what it needs is not there
      assertThat(first).containsEntry("outside", WhyNothing.NOT_YET_KNOWN);
      Map<String, Object> values = first;
      long until = System.nanoTime() + 60_000_000_000L;
      while (!values.get("throwing").equals(WhyNothing.FAILS)
          || !values.get("blocking").equals(WhyNothing.BLOCKS)) {
        assertThat(System.nanoTime()).as("found out in time: %s", values).isLessThan(until);
        Thread.onSpinWait();
        values = values(collector.read());
        assertThat(values.get("heap")).isInstanceOf(Double.class);
      }
      assertThat(values)
          .containsEntry("good", 7.0)
          .containsEntry("foreign", WhyNothing.FOREIGN)
          .containsEntry("blocking", WhyNothing.BLOCKS)
          .containsEntry("throwing", WhyNothing.FAILS);
      assertThat(collector.facts())
          .containsEntry("not read/Foreign of test:type=Odd", "of a class that is not taken")
          .hasEntrySatisfying(
              "not read/Blocking of test:type=Odd", why -> assertThat(why).contains("it blocks"))
          .hasEntrySatisfying(
              "not read/Throwing of test:type=Odd",
              why -> assertThat(why).contains("out of order"));
      // the call that was for all of them, and the one that found out; there is never a third
      assertThat(hanging(jvm)).as("calls that hang over there").isLessThanOrEqualTo(2);
      long before = hanging(jvm);
      browsing(jvm);
      assertThat(hanging(jvm)).as("browsing adds none").isLessThanOrEqualTo(before);
    }
  }

  /** Where a pool leads to is asked of it once, and of none any more when it does not answer. */
  @Test
  void an_address_that_does_not_come_costs_no_reading() throws Exception {
    LoadedRecipe recipe =
        RecipeFile.read(
            "odd",
            "odd.yaml",
            """
            kind: jvm
            name: Odd
            paces: {fast: 10}
            groups: {odd: fast}
            beans:
              - group: odd
                name: test:type=Odd
                leadsTo: Blocking
                read: [{counter: good, attribute: Good}]
            counters:
              - {key: good, title: G, group: odd, shape: level, worse: up, meaning: G.}
            """,
            key -> {
              throw new IllegalArgumentException(key);
            });
    try (ChildJvm jvm = ChildJvm.start(OPEN);
        JmxCollector collector =
            JmxCollector.of(jvm.target(), recipe, Pace.FAST, Clock.systemUTC())) {
      for (int i = 0; i < 3; i++) {
        assertThat(values(collector.read())).containsEntry("good", 7.0);
      }
      assertThat(hanging(jvm)).isLessThanOrEqualTo(1);
      assertThat(collector.facts().keySet()).noneMatch(n -> n.startsWith(Collector.LEADS_TO));
    }
  }

  /** A person who looks at the bean sees the others, and does not make a second one hang. */
  private static void browsing(ChildJvm jvm) throws Exception {
    for (int i = 0; i < 3; i++) {
      try (ManagedBeans beans = ManagedBeans.of(jvm.target())) {
        List<BeanAttribute> attributes = beans.attributes(ChildJvm.ODD);
        Map<String, String> told = new HashMap<>();
        attributes.forEach(a -> told.put(a.name(), a.value() + a.why()));
        assertThat(told)
            .containsEntry("Good", "7")
            .containsEntry("Foreign", "of a class that is not taken")
            .containsEntry("Throwing", "out of order");
        assertThat(told.get("Blocking")).contains("did not answer");
      }
    }
  }

  private static long hanging(ChildJvm jvm) throws Exception {
    return jvm.tool("Thread.print").lines().filter(l -> l.contains("Odd.getBlocking")).count();
  }

  /** Per counter its value, or why there is none. */
  private static Map<String, Object> values(RawReading reading) {
    Map<String, Object> values = new HashMap<>();
    for (RawValue value : reading.values()) {
      values.put(
          value.series().counter(),
          value instanceof RawValue.Level level
              ? (Object) level.value()
              : ((RawValue.Nothing) value).why());
    }
    return values;
  }
}
