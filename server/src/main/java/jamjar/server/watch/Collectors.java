package jamjar.server.watch;

import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.core.counter.CounterDefinition;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.stereotype.Component;

/** Makes what reads an instance, by its kind. */
@Component
class Collectors {
  private final Store store;
  private final Recipes recipes;
  private final Clock clock;

  Collectors(Store store, Recipes recipes, Clock clock) {
    this.store = store;
    this.recipes = recipes;
    this.clock = clock;
  }

  /** Per source of the instance what reads it. */
  Map<Source, Collector> of(InstanceRow row, Target target) {
    Map<Source, Collector> found = new TreeMap<>();
    switch (row.kind()) {
      case "postgresql" -> {
        OwnCommits own =
            OwnCommits.after(
                store.readings().last(row.id(), Source.FAST.code()), target.database());
        Set<String> groups =
            recipe(row.recipe()).recipe().counters().values().stream()
                .map(CounterDefinition::group)
                .collect(java.util.stream.Collectors.toSet());
        found.put(Source.FAST, PostgresCollector.fast(target, own, clock).onlyFor(groups));
        found.put(Source.SLOW, PostgresCollector.slow(target, own, clock).onlyFor(groups));
      }
      case InstanceRow.OWN ->
          found.put(
              Source.FAST,
              JmxCollector.own(
                  ManagementFactory.getPlatformMBeanServer(), recipe(row.recipe()), clock));
      default -> found.put(Source.FAST, JmxCollector.of(target, recipe(row.recipe()), clock));
    }
    return found;
  }

  private LoadedRecipe recipe(String key) {
    return recipes
        .find(key)
        .orElseThrow(() -> Problem.unknown("There is no recipe '" + key + "'."));
  }
}
