package jamjar.server.watch;

import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.core.counter.Recipe;
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
        Recipe recipe = recipes.one(row.recipe()).recipe();
        Set<String> groups = recipe.groups();
        found.put(Source.FAST, PostgresCollector.fast(target, own, clock).onlyFor(groups));
        String slow = Source.SLOW.pace();
        if (groups.stream().anyMatch(group -> slow.equals(recipe.paceOf().get(group)))) {
          found.put(Source.SLOW, PostgresCollector.slow(target, own, clock).onlyFor(groups));
        }
      }
      case InstanceRow.OWN ->
          found.put(
              Source.FAST,
              JmxCollector.own(
                  ManagementFactory.getPlatformMBeanServer(), recipes.one(row.recipe()), clock));
      default -> found.put(Source.FAST, JmxCollector.of(target, recipes.one(row.recipe()), clock));
    }
    return found;
  }
}
