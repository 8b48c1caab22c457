package jamjar.core;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Small recipes for tests. */
public final class Recipes {
  public static final CounterDefinition USED = counter("used", Shape.LEVEL, "", false);
  public static final CounterDefinition MAXIMUM = counter("maximum", Shape.LEVEL, "", false);
  public static final CounterDefinition COMMITS = counter("commits", Shape.TOTAL, "database", true);
  public static final CounterDefinition HITS = counter("hits", Shape.TOTAL, "database", true);
  public static final CounterDefinition READS = counter("reads", Shape.TOTAL, "database", true);
  public static final CounterDefinition RATIO =
      quotient("ratio", "hits", List.of("hits", "reads"), 100, 20);
  public static final CounterDefinition SHARE =
      quotient("share", "used", List.of("maximum"), 100, 1);

  /** Good at zero only. */
  public static final CounterDefinition TROUBLE =
      new CounterDefinition(
          "trouble",
          "trouble",
          "g",
          "",
          Shape.LEVEL,
          "",
          false,
          0,
          1,
          0,
          Worse.UP,
          true,
          "",
          "",
          List.of(),
          List.of(),
          "",
          List.of(),
          1,
          20);

  private Recipes() {}

  public static Recipe recipe() {
    Map<String, CounterDefinition> counters = new LinkedHashMap<>();
    for (CounterDefinition c : List.of(USED, MAXIMUM, COMMITS, HITS, READS, RATIO, SHARE)) {
      counters.put(c.key(), c);
    }
    return new Recipe(
        "test", "Test", Map.of(Pace.FAST, 10), Map.of("g", Pace.FAST), counters, "used", List.of());
  }

  public static CounterDefinition counter(String key, Shape shape, String subject, boolean summed) {
    return new CounterDefinition(
        key, key, "g", "", shape, subject, summed, 0, 1, 0, Worse.UP, false, "", "", List.of(),
        List.of(), "", List.of(), 1, 20);
  }

  private static CounterDefinition quotient(
      String key, String numerator, List<String> denominators, double factor, double least) {
    return new CounterDefinition(
        key,
        key,
        "g",
        "%",
        Shape.QUOTIENT,
        "",
        false,
        0,
        1,
        0,
        Worse.UP,
        false,
        "",
        "",
        List.of(),
        List.of(),
        numerator,
        denominators,
        factor,
        least);
  }
}
