package jamjar.server.beans;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Positive;
import jakarta.validation.constraints.Size;
import jamjar.collect.recipe.RecipeText;
import jamjar.core.counter.Recipe;
import jamjar.server.problems.Problem;
import java.util.Hashtable;
import java.util.Locale;
import javax.management.MalformedObjectNameException;
import javax.management.ObjectName;

/**
 * A counter that a person makes of an attribute.
 *
 * @param bean the name of the bean
 * @param label the part of that name which tells its like apart: it is read of all of them, and
 *     this part is the label; empty to read this one alone
 * @param path the attribute, and the items inside it, with dots between
 * @param flag whether it is true or false, told as 1 or 0
 * @param unit as shown; of a total without {@code /s}
 * @param shape level or total
 * @param factor what the value is multiplied with to be shown in the unit
 */
record CounterOfBean(
    @NotBlank(message = "is missing") @Size(max = 500) String bean,
    @NotNull @Size(max = 80) String label,
    @NotBlank(message = "is missing") @Size(max = 200) String path,
    boolean flag,
    @NotBlank(message = "is missing") @Size(max = 80) String title,
    @NotNull @Size(max = 10) String unit,
    @NotNull @Pattern(regexp = "level|total", message = "is level or total") String shape,
    @Positive(message = "is more than 0") double factor,
    @NotNull @Pattern(regexp = "up|down|both", message = "is up, down or both") String worse,
    @NotBlank(message = "is missing: what does it mean?") @Size(max = 500) String meaning) {
  private static final String PACE = "fast";

  /** The text of a recipe with this counter in it. */
  String in(Recipe recipe, String text) {
    String key = "own." + plain(title);
    if (recipe.counter(key).isPresent()) {
      throw Problem.field(
          "title", "There is a counter '" + key + "' already: give it another title.");
    }
    String names = names();
    String group = "own_" + plain(names);
    try {
      String more = text;
      if (!recipe.paceOf().containsKey(group)) {
        more = RecipeText.with(more, "groups", group + ": " + PACE, false);
      }
      more = RecipeText.with(more, "counters", counter(key, group), true);
      return RecipeText.with(more, "beans", bean(key, group, names), true);
    } catch (IllegalArgumentException e) {
      throw Problem.field("text", e.getMessage());
    }
  }

  private String counter(String key, String group) {
    String shown = shape.equals("total") ? unit + "/s" : unit;
    return "{key: "
        + key
        + ", title: "
        + quoted(title)
        + ", group: "
        + group
        + ", unit: "
        + quoted(shown)
        + ", shape: "
        + shape
        + (label.isEmpty() ? "" : ", subject: " + quoted(label))
        + (factor == 1 ? "" : ", factor: " + factor)
        + ", worse: "
        + worse
        + ", meaning: "
        + quoted(meaning)
        + "}";
  }

  private String bean(String key, String group, String names) {
    return "{group: "
        + group
        + ", name: "
        + quoted(names)
        + (label.isEmpty() ? "" : ", labels: {" + quoted(label) + ": " + quoted(label) + "}")
        + ", read: [{counter: "
        + key
        + ", attribute: "
        + quoted(path)
        + (flag ? ", words: {'true': 1, 'false': 0}" : "")
        + "}]}";
  }

  /** The bean's name; with a star for the label. */
  private String names() {
    ObjectName name = BeanController.name(bean);
    if (label.isEmpty()) {
      return name.getCanonicalName();
    }
    // the class that names of beans are made of takes no other map
    Hashtable<String, String> parts = new Hashtable<>(name.getKeyPropertyList());
    if (parts.replace(label, "*") == null) {
      throw Problem.field("label", "The bean's name has no part '" + label + "'.");
    }
    try {
      return new ObjectName(name.getDomain(), parts).getCanonicalName();
    } catch (MalformedObjectNameException e) {
      throw Problem.field("label", "It can't be read of all like it: " + e.getMessage());
    }
  }

  private static String plain(String text) {
    String plain =
        text.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "_").replaceAll("^_|_$", "");
    if (plain.isEmpty()) {
      throw Problem.field("title", "A title has letters or digits.");
    }
    return plain;
  }

  private static String quoted(String text) {
    return "'" + text.strip().replaceAll("\\s+", " ").replace("'", "''") + "'";
  }
}
