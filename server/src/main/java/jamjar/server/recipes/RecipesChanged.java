package jamjar.server.recipes;

import java.util.Set;

/** Who goes on with recipes as they are now. */
@FunctionalInterface
public interface RecipesChanged {
  /**
   * @param keys of the recipes that are other ones than before
   */
  void recipesChanged(Set<String> keys);
}
