package jamjar.collect.recipe;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/** All recipes: those that are shipped, and a person's own files. */
public final class RecipeBook {
  private static final List<String> SHIPPED =
      List.of("postgresql", "jvm", "appserver", "tomcat", "stand-in", "jamjar");
  private static final String ENDING = ".yaml";

  private final Map<String, LoadedRecipe> recipes;
  private final List<Fault> faults;

  private RecipeBook(Map<String, LoadedRecipe> recipes, List<Fault> faults) {
    this.recipes = Map.copyOf(recipes);
    this.faults = List.copyOf(faults);
  }

  /**
   * Reads all.
   *
   * @param own folder of a person's own files; need not exist. One named as a shipped one takes its
   *     place. The faults of one that can't be used are kept, and what it was before is used on.
   * @param before what was read before; empty at first
   */
  public static RecipeBook read(Path own, Optional<RecipeBook> before) {
    Map<String, LoadedRecipe> recipes = new LinkedHashMap<>();
    SHIPPED.forEach(key -> recipes.put(key, RecipeFile.shipped(key)));
    List<Fault> faults = new ArrayList<>();
    Map<String, String> texts = texts(own, faults);
    texts
        .keySet()
        .forEach(
            key -> {
              try {
                recipes.put(key, load(key, texts, recipes, List.of()));
              } catch (RecipeFaulty e) {
                // those of a file that others are based on are told once
                e.faults().stream().filter(f -> !faults.contains(f)).forEach(faults::add);
                before.flatMap(book -> book.find(key)).ifPresent(was -> recipes.put(key, was));
              }
            });
    return new RecipeBook(recipes, faults);
  }

  private static LoadedRecipe load(
      String key, Map<String, String> texts, Map<String, LoadedRecipe> others, List<String> under) {
    List<String> way = new ArrayList<>(under);
    way.add(key);
    return RecipeFile.read(
        key,
        key + ENDING,
        texts.get(key),
        base -> {
          // one that takes the place of a shipped one may begin with it
          if (base.equals(key) && SHIPPED.contains(base)) {
            return RecipeFile.shipped(base);
          }
          if (way.contains(base)) {
            throw new IllegalArgumentException("'" + base + "' is based on itself");
          }
          if (texts.containsKey(base)) {
            return load(base, texts, others, way);
          }
          LoadedRecipe found = others.get(base);
          if (found == null) {
            throw new IllegalArgumentException("there is no recipe '" + base + "'");
          }
          return found;
        });
  }

  private static Map<String, String> texts(Path own, List<Fault> faults) {
    Map<String, String> texts = new TreeMap<>();
    if (!Files.isDirectory(own)) {
      return texts;
    }
    try (Stream<Path> files = Files.list(own)) {
      for (Path file : files.filter(f -> f.toString().endsWith(ENDING)).sorted().toList()) {
        String name = file.getFileName().toString();
        texts.put(name.substring(0, name.length() - ENDING.length()), Files.readString(file));
      }
    } catch (IOException e) {
      faults.add(new Fault(own.toString(), 0, "", "can't be read: " + e.getMessage()));
    }
    return texts;
  }

  /**
   * What a file would be among these, without putting it there.
   *
   * @throws RecipeFaulty with all that is wrong in it
   */
  public LoadedRecipe tried(String key, String text) {
    return load(key, Map.of(key, text), recipes, List.of());
  }

  /** Whether one is shipped under this name. */
  public static boolean isShipped(String key) {
    return SHIPPED.contains(key);
  }

  public Optional<LoadedRecipe> find(String key) {
    return Optional.ofNullable(recipes.get(key));
  }

  /** Those that an instance can be read by. */
  public List<LoadedRecipe> usable() {
    return recipes.values().stream().filter(recipe -> !recipe.base()).toList();
  }

  /** What is wrong in a person's own files. */
  public List<Fault> faults() {
    return faults;
  }
}
