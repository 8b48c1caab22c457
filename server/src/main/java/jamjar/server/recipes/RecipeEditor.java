package jamjar.server.recipes;

import jamjar.collect.recipe.Fault;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeBook;
import jamjar.collect.recipe.RecipeFaulty;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.springframework.stereotype.Service;

/**
 * A person's own recipes: tells what a change would do before it is saved, and puts it in force
 * without a restart. What was read so far is kept; a counter that is left out and taken in again
 * goes on as the same series.
 */
@Service
public class RecipeEditor {
  private static final Pattern KEY = Pattern.compile("[a-z][a-z0-9-]{0,39}");

  private final Recipes recipes;
  private final List<RecipesChanged> listeners;
  private final Changes changes;
  private final Store store;
  private final Scopes scopes;

  RecipeEditor(
      Recipes recipes,
      List<RecipesChanged> listeners,
      Changes changes,
      Store store,
      Scopes scopes) {
    this.recipes = recipes;
    this.listeners = listeners;
    this.changes = changes;
    this.store = store;
    this.scopes = scopes;
  }

  /**
   * A counter as one chooses it.
   *
   * @param depth essential, useful or deep
   * @param questions the plain questions that it answers
   */
  public record Named(
      String key,
      String title,
      String group,
      String pace,
      String unit,
      String depth,
      String meaning,
      List<String> questions) {}

  /**
   * A recipe as its file stands.
   *
   * @param own whether it is a person's own file; else the text is one to begin with
   * @param shipped whether one is shipped under this name
   * @param paces seconds between two readings, per pace; the fast one is each instance's own
   * @param counters those that are read
   * @param left those that it leaves out
   * @param usedBy the instances that are read by it
   */
  public record Text(
      String key,
      String name,
      String kind,
      boolean own,
      boolean shipped,
      String text,
      Map<String, Integer> paces,
      List<Named> counters,
      List<Named> left,
      List<String> usedBy) {}

  /**
   * What a change does.
   *
   * @param faults what is wrong in it, each with line and field; then nothing else is told
   * @param changed counters that are defined or read in another way
   * @param usedBy the instances that go on with it
   * @param saved whether it is in force now
   */
  public record Change(
      List<String> faults,
      List<Named> added,
      List<Named> dropped,
      List<Named> changed,
      List<String> usedBy,
      boolean saved) {}

  /** Looks at the own files again; those that were changed there are in force from now on. */
  void look() {
    Set<String> changed = recipes.read();
    listeners.forEach(listener -> listener.recipesChanged(changed));
  }

  public Text text(String key) {
    requireKey(key);
    LoadedRecipe recipe = recipes.one(key);
    boolean own = Files.exists(recipes.file(key));
    return new Text(
        key,
        recipe.recipe().name(),
        recipe.recipe().kind(),
        own,
        RecipeBook.isShipped(key),
        own ? read(recipes.file(key)) : copyOf(recipe),
        paces(recipe.recipe()),
        named(recipe, recipe.recipe().counters().values()),
        named(recipe, recipe.left()),
        usedBy(key));
  }

  private static Map<String, Integer> paces(Recipe recipe) {
    Map<String, Integer> paces = new TreeMap<>();
    recipe.paces().forEach((pace, seconds) -> paces.put(pace.word(), seconds));
    return paces;
  }

  /** An own file that takes the place of a shipped one, and leaves nothing out yet. */
  private static String copyOf(LoadedRecipe recipe) {
    return "kind: "
        + recipe.recipe().kind()
        + "\nname: "
        + recipe.recipe().name()
        + "\nbasedOn: ["
        + recipe.key()
        + "]\nwithout: []\n";
  }

  /**
   * Puts a text in force as a recipe, where nothing is wrong in it.
   *
   * @param dry whether only to tell what it would do
   */
  public Change change(String key, String text, boolean dry) {
    requireKey(key);
    LoadedRecipe next;
    try {
      next = recipes.tried(key, text);
    } catch (RecipeFaulty e) {
      return new Change(
          e.faults().stream().map(Fault::toString).toList(),
          List.of(),
          List.of(),
          List.of(),
          List.of(),
          false);
    }
    Optional<LoadedRecipe> before = recipes.find(key);
    if (before.isPresent() && !before.get().recipe().kind().equals(next.recipe().kind())) {
      throw Problem.field("kind", "A recipe stays of its kind: give it another name.");
    }
    Change change = difference(before, next, usedBy(key), !dry);
    if (!dry) {
      String was = before.isPresent() ? text(key).text() : null;
      store.inOne(
          () -> {
            changes.add(What.RECIPE, key, was, text);
            write(recipes.file(key), text);
          });
      look();
    }
    return change;
  }

  /** Takes an own file away: the shipped one is in force again. */
  void remove(String key) {
    requireKey(key);
    if (!Files.exists(recipes.file(key))) {
      throw Problem.unknown("There is no recipe of your own named '" + key + "'.");
    }
    if (!RecipeBook.isShipped(key) && !usedBy(key).isEmpty()) {
      throw Problem.field(
          "key", "Instances are read by it: " + String.join(", ", usedBy(key)) + ".");
    }
    store.inOne(
        () -> {
          changes.add(What.RECIPE, key, read(recipes.file(key)), null);
          delete(recipes.file(key));
        });
    look();
  }

  private static Change difference(
      Optional<LoadedRecipe> before, LoadedRecipe next, List<String> usedBy, boolean saved) {
    Map<String, CounterDefinition> was =
        before.map(recipe -> recipe.recipe().counters()).orElse(Map.of());
    List<CounterDefinition> added = new ArrayList<>();
    List<CounterDefinition> changed = new ArrayList<>();
    for (CounterDefinition counter : next.recipe().counters().values()) {
      CounterDefinition old = was.get(counter.key());
      if (old == null) {
        added.add(counter);
      } else if (!old.equals(counter)
          || !pace(before.get().recipe(), old).equals(pace(next.recipe(), counter))) {
        changed.add(counter);
      }
    }
    List<CounterDefinition> dropped =
        was.values().stream().filter(c -> !next.recipe().counters().containsKey(c.key())).toList();
    return new Change(
        List.of(),
        named(next, added),
        before.map(old -> named(old, dropped)).orElse(List.of()),
        named(next, changed),
        usedBy,
        saved);
  }

  private static String pace(Recipe recipe, CounterDefinition counter) {
    Pace pace = recipe.pace(counter);
    return pace == null ? "" : pace.word() + " " + recipe.paces().get(pace);
  }

  private static List<Named> named(LoadedRecipe recipe, Iterable<CounterDefinition> counters) {
    List<Named> all = new ArrayList<>();
    for (CounterDefinition counter : counters) {
      all.add(
          new Named(
              counter.key(),
              counter.title(),
              counter.group(),
              word(recipe.recipe().pace(counter)),
              counter.unit(),
              recipe.depths().get(counter.key()).name().toLowerCase(Locale.ROOT),
              counter.meaning(),
              counter.questions()));
    }
    return all;
  }

  private static String word(Pace pace) {
    return pace == null ? "" : pace.word();
  }

  private List<String> usedBy(String key) {
    return scopes.instances().stream()
        .filter(row -> row.recipe().equals(key))
        .map(InstanceRow::name)
        .toList();
  }

  /** It is part of the name of a file. */
  private static void requireKey(String key) {
    if (!KEY.matcher(key).matches()) {
      throw Problem.field(
          "key", "A recipe is named by small letters, digits and dashes: '" + key + "' is not.");
    }
  }

  private static void delete(Path file) {
    try {
      Files.delete(file);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String read(Path file) {
    try {
      return Files.readString(file);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Never half written: what is being read stays whole. */
  private static void write(Path file, String text) {
    try {
      Files.createDirectories(file.getParent());
      Path next = Files.createTempFile(file.getParent(), "next", ".tmp");
      Files.writeString(next, text);
      Files.move(next, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
