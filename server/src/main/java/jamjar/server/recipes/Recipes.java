package jamjar.server.recipes;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.collect.recipe.Fault;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeBook;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.Rule;
import jamjar.server.problems.Problem;
import jamjar.server.settings.Settings;
import jamjar.store.Store;
import jamjar.store.instances.InstanceMapper.ReadBy;
import jamjar.store.instances.InstanceRow;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** The recipes in use: those that are shipped, and a person's own in the data folder. */
@Component
public class Recipes {
  private static final Logger LOG = LoggerFactory.getLogger(Recipes.class);

  private static final int MOST_AT_HAND = 10_000;
  private static final int UNKNOWN_SECONDS = 10;

  private final Store store;
  private final Path own;
  private final Cache<Integer, ReadBy> readBy =
      Caffeine.newBuilder().maximumSize(MOST_AT_HAND).build();
  private volatile RecipeBook book;

  Recipes(Settings settings, Store store) {
    this.store = store;
    this.own = settings.data().resolve("recipes");
    read();
  }

  /**
   * Looks at a person's own files again.
   *
   * @return the recipes that are other ones than before
   */
  public synchronized Set<String> read() {
    RecipeBook before = book;
    book = RecipeBook.read(own, Optional.ofNullable(before));
    tellFaults();
    return changed(before, book);
  }

  private static Set<String> changed(RecipeBook before, RecipeBook now) {
    Set<String> changed = new HashSet<>();
    if (before != null) {
      for (LoadedRecipe recipe : now.usable()) {
        // as texts: what a recipe is made of holds patterns, which are never equal
        boolean same =
            before
                .find(recipe.key())
                .filter(w -> w.toString().equals(recipe.toString()))
                .isPresent();
        if (!same) {
          changed.add(recipe.key());
        }
      }
    }
    return changed;
  }

  private void tellFaults() {
    for (Fault fault : book.faults()) {
      LOG.warn("event=recipe-faulty fault=\"{}\"", fault);
    }
  }

  /** Where a person's own file of a recipe lies, or would. */
  Path file(String key) {
    return own.resolve(key + ".yaml");
  }

  /**
   * What a file would be, without saving it.
   *
   * @throws jamjar.collect.recipe.RecipeFaulty with all that is wrong in it
   */
  LoadedRecipe tried(String key, String text) {
    return book.tried(key, text);
  }

  public Optional<LoadedRecipe> find(String key) {
    return book.find(key).filter(recipe -> !recipe.base());
  }

  /** One by its key; a problem where there is none. */
  public LoadedRecipe one(String key) {
    return find(key).orElseThrow(() -> Problem.unknown("There is no recipe '" + key + "'."));
  }

  public List<LoadedRecipe> all() {
    return book.usable();
  }

  public List<Fault> faults() {
    return book.faults();
  }

  /** The counters of an instance; none when its recipe is not there any more. */
  public Recipe of(InstanceRow row) {
    return of(row.recipe(), row.kind());
  }

  /** The counters of an instance, be it removed since. */
  public Recipe ofInstance(int instance) {
    return scheduleOf(instance).recipe();
  }

  /** How often each counter of an instance is read, be it removed since. */
  public Schedule scheduleOf(int instance) {
    ReadBy found =
        readBy.get(
            instance, id -> store.instances().readBy(id).orElse(new ReadBy("", UNKNOWN_SECONDS)));
    return new Schedule(of(found.recipe(), ""), found.intervalS());
  }

  /** The instance is read in another way. */
  public void changed(int instance) {
    readBy.invalidate(instance);
  }

  private Recipe of(String key, String kind) {
    return find(key).map(LoadedRecipe::recipe).orElseGet(() -> Recipe.without(kind));
  }

  /** A counter of any recipe. */
  public Optional<CounterDefinition> counter(String key) {
    return all().stream().flatMap(recipe -> recipe.recipe().counter(key).stream()).findFirst();
  }

  public List<Rule> shippedLimits() {
    return all().stream().flatMap(recipe -> recipe.limits().stream()).toList();
  }
}
