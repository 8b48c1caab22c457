package jamjar.server.recipes;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import jamjar.collect.recipe.Fault;
import java.util.Comparator;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The recipes that an instance can be read by. */
@RestController
@RequestMapping(path = "/api/recipes", produces = "application/json")
class RecipeController {
  private final Recipes recipes;
  private final RecipeEditor editor;

  RecipeController(Recipes recipes, RecipeEditor editor) {
    this.recipes = recipes;
    this.editor = editor;
  }

  /** The text of a recipe. */
  @Schema(name = "RecipeBody")
  record Body(@NotNull @Size(max = 500_000) String text) {}

  @GetMapping("/{key}")
  RecipeEditor.Text one(@PathVariable String key) {
    return editor.text(key);
  }

  /**
   * Puts an own recipe in force.
   *
   * @param dry whether only to tell what it would do
   */
  @PutMapping("/{key}")
  RecipeEditor.Change change(
      @PathVariable String key,
      @Valid @RequestBody Body body,
      @RequestParam(defaultValue = "false") boolean dry) {
    return editor.change(key, body.text(), dry);
  }

  @DeleteMapping("/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String key) {
    editor.remove(key);
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
    editor.look();
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
