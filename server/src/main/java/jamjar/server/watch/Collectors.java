package jamjar.server.watch;

import jamjar.collect.Collector;
import jamjar.collect.Sampler;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.postgresql.PostgresSampler;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.core.counter.Pace;
import jamjar.server.heads.HeadCounts;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;

/** Makes what reads an instance, by its kind. */
@Component
class Collectors {
  private final Store store;
  private final Recipes recipes;
  private final HeadCounts heads;
  private final Clock clock;

  Collectors(Store store, Recipes recipes, HeadCounts heads, Clock clock) {
    this.store = store;
    this.recipes = recipes;
    this.heads = heads;
    this.clock = clock;
  }

  /**
   * Per pace what reads it. Asks the store when the first is made: what was read before then is
   * stored by then.
   */
  Made of(InstanceRow row, Target target) {
    LoadedRecipe recipe = recipes.one(row.recipe());
    return switch (row.kind()) {
      case "postgresql" -> {
        Engine engine = new Engine(row, target, recipe);
        yield new Made(engine, Optional.of(engine::sampler));
      }
      case InstanceRow.OWN ->
          Made.readers(
              pace ->
                  OwnCollector.of(
                      JmxCollector.own(
                          ManagementFactory.getPlatformMBeanServer(), recipe, pace, clock),
                      pace,
                      heads));
      default -> Made.readers(pace -> JmxCollector.of(target, recipe, pace, clock));
    };
  }

  /**
   * What reads an instance.
   *
   * @param readers per pace
   * @param sampler of its sessions; empty where it has none that can be sampled
   */
  record Made(Function<Pace, Collector> readers, Optional<Supplier<Sampler>> sampler) {
    static Made readers(Function<Pace, Collector> readers) {
      return new Made(readers, Optional.empty());
    }
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
    public Collector apply(Pace pace) {
      return PostgresCollector.of(target, recipe.recipe(), pace, own(), clock);
    }

    Sampler sampler() {
      Sampler sampler = new PostgresSampler(target, own(), clock);
      store.logs().last(row.id(), clock.instant()).ifPresent(sampler::readOnFrom);
      return sampler;
    }

    private synchronized OwnCommits own() {
      if (own == null) {
        own =
            OwnCommits.after(store.readings().last(row.id(), Pace.FAST.code()), target.database());
      }
      return own;
    }
  }
}
