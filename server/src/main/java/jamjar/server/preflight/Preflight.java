package jamjar.server.preflight;

import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCheck;
import jamjar.collect.postgresql.PostgresCheck;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.server.instances.CheckView;
import jamjar.server.instances.Checks;
import jamjar.server.instances.InstanceBody;
import jamjar.server.instances.Targets;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.store.instances.InstanceRow;
import java.util.Comparator;
import java.util.List;
import org.springframework.stereotype.Component;

/** Tries an instance as it would be watched. */
@Component
public class Preflight implements Checks {
  private final Targets targets;
  private final Recipes recipes;

  Preflight(Targets targets, Recipes recipes) {
    this.targets = targets;
    this.recipes = recipes;
  }

  /**
   * What a person has typed.
   *
   * @param before the instance that is changed; null for a new one
   */
  @Override
  public List<CheckView> of(InstanceBody body, InstanceRow before) {
    return tried(body.kind(), body.recipe(), targets.of(body, before));
  }

  /** An instance as it is stored. */
  public List<CheckView> of(InstanceRow row) {
    return tried(row.kind(), row.recipe(), targets.of(row));
  }

  private List<CheckView> tried(String kind, String recipe, Target target) {
    return switch (kind) {
      case "postgresql" -> CheckView.of(PostgresCheck.check(target));
      case InstanceRow.OWN -> List.of();
      default -> CheckView.of(JmxCheck.check(target, recipe(recipe), othersOf(kind, recipe)));
    };
  }

  private List<LoadedRecipe> othersOf(String kind, String recipe) {
    return recipes.all().stream()
        .filter(other -> other.recipe().kind().equals(kind) && !other.key().equals(recipe))
        .sorted(Comparator.comparing(LoadedRecipe::key))
        .toList();
  }

  private LoadedRecipe recipe(String key) {
    return recipes
        .find(key)
        .orElseThrow(() -> Problem.field("recipe", "There is no recipe '" + key + "'."));
  }
}
