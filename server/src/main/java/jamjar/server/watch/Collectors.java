package jamjar.server.watch;

import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.core.counter.Pace;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.util.function.Function;
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

  /**
   * Per pace what reads it. Asks the store when the first is made: what was read before then is
   * stored by then.
   */
  Function<Pace, Collector> of(InstanceRow row, Target target) {
    LoadedRecipe recipe = recipes.one(row.recipe());
    return switch (row.kind()) {
      case "postgresql" -> new Engine(row, target, recipe);
      case InstanceRow.OWN ->
          pace -> JmxCollector.own(ManagementFactory.getPlatformMBeanServer(), recipe, pace, clock);
      default -> pace -> JmxCollector.of(target, recipe, pace, clock);
    };
  }

  /** The collectors of one engine count together what they commit themselves. */
  private final class Engine implements Function<Pace, Collector> {
    private final InstanceRow row;
    private final Target target;
    private final LoadedRecipe recipe;
    private OwnCommits own;

    Engine(InstanceRow row, Target target, LoadedRecipe recipe) {
      this.row = row;
      this.target = target;
      this.recipe = recipe;
    }

    @Override
    public synchronized Collector apply(Pace pace) {
      if (own == null) {
        own =
            OwnCommits.after(store.readings().last(row.id(), Pace.FAST.code()), target.database());
      }
      return PostgresCollector.of(target, recipe.recipe(), pace, own, clock);
    }
  }
}
