package jamjar.server.recipes;

import jamjar.collect.recipe.Fault;
import java.util.Comparator;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The recipes that an instance can be read by. */
@RestController
@RequestMapping(path = "/api/recipes", produces = "application/json")
class RecipeController {
  private final Recipes recipes;

  RecipeController(Recipes recipes) {
    this.recipes = recipes;
  }

  /** A recipe as one picks it. */
  record Choice(String key, String kind, String name, int counters) {}

  /**
   * All of them, and what is wrong in a person's own files.
   *
   * @param faults each with file, line and field
   */
  record Offered(List<Choice> recipes, List<String> faults) {}

  /** Own files are looked at again each time: whoever asks has just written one. */
  @GetMapping
  Offered all() {
    recipes.read();
    return new Offered(
        recipes.all().stream()
            .map(
                recipe ->
                    new Choice(
                        recipe.key(),
                        recipe.recipe().kind(),
                        recipe.recipe().name(),
                        recipe.recipe().counters().size()))
            .sorted(Comparator.comparing(Choice::kind).thenComparing(Choice::name))
            .toList(),
        recipes.faults().stream().map(Fault::toString).toList());
  }
}
