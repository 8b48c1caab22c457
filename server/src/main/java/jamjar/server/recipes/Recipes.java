package jamjar.server.recipes;

import jamjar.collect.recipe.Fault;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeBook;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Rule;
import jamjar.server.Settings;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** The recipes in use: those that are shipped, and a person's own in the data folder. */
@Component
public class Recipes {
  private static final Logger LOG = LoggerFactory.getLogger(Recipes.class);

  private final Store store;
  private final Path own;
  private final Map<Integer, String> keys = new ConcurrentHashMap<>();
  private volatile RecipeBook book;

  Recipes(Settings settings, Store store) {
    this.store = store;
    this.own = settings.data().resolve("recipes");
    read();
  }

  /** Looks at a person's own files again. */
  public void read() {
    book = RecipeBook.read(own, Optional.ofNullable(book));
    for (Fault fault : book.faults()) {
      LOG.warn("event=recipe-faulty fault=\"{}\"", fault);
    }
  }

  public Optional<LoadedRecipe> find(String key) {
    return book.find(key).filter(recipe -> !recipe.base());
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
    String key = keys.computeIfAbsent(instance, id -> store.instances().recipeOf(id).orElse(""));
    return of(key, "");
  }

  /** The instance is read by another recipe. */
  public void changed(int instance) {
    keys.remove(instance);
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
