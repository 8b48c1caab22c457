package jamjar.server.beans;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jamjar.collect.CollectFailed;
import jamjar.collect.jmx.BeanAttribute;
import jamjar.collect.jmx.ManagedBeans;
import jamjar.collect.recipe.BeanQuery;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.server.instances.InstanceService;
import jamjar.server.instances.Targets;
import jamjar.server.numbers.Numbers;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.RecipeEditor;
import jamjar.server.recipes.Recipes;
import jamjar.store.instances.InstanceRow;
import java.lang.management.ManagementFactory;
import java.util.List;
import javax.management.MalformedObjectNameException;
import javax.management.ObjectName;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The managed beans of an instance, and how an attribute of one becomes a counter. */
@RestController
@RequestMapping(path = "/api/instances/{id}/beans", produces = "application/json")
class BeanController {
  private final InstanceService instances;
  private final Targets targets;
  private final Recipes recipes;
  private final RecipeEditor editor;

  BeanController(InstanceService instances, Targets targets, Recipes recipes, RecipeEditor editor) {
    this.instances = instances;
    this.targets = targets;
    this.recipes = recipes;
    this.editor = editor;
  }

  /**
   * A number that can become a counter.
   *
   * @param path the attribute, and the items inside it, with dots between
   * @param value null where it is none just now
   * @param flag whether it is true or false, told as 1 or 0
   * @param counter key of the counter that is filled from it; empty for none yet
   */
  record BeanNumber(
      String path,
      @Schema(types = {"number", "null"}) Double value,
      boolean flag,
      String counter) {}

  /**
   * What can be read of a bean.
   *
   * @param value as a text; empty where it could not be read
   * @param why why it could not be read; empty where it could
   */
  @Schema(name = "BeanAttribute")
  record Attribute(
      String name,
      String type,
      String description,
      String value,
      String why,
      List<BeanNumber> numbers) {}

  @GetMapping
  ManagedBeans.All all(@PathVariable int id) {
    return asked(instances.row(id), ManagedBeans::all);
  }

  /** The attributes of one bean with their values now. */
  @GetMapping("/attributes")
  List<Attribute> attributes(@PathVariable int id, @RequestParam String bean) {
    InstanceRow row = instances.row(id);
    List<BeanQuery> queries = recipes.find(row.recipe()).map(LoadedRecipe::beans).orElse(List.of());
    ObjectName name = name(bean);
    return asked(row, beans -> beans.attributes(bean)).stream()
        .map(attribute -> view(attribute, name, queries))
        .toList();
  }

  /**
   * Makes a counter of an attribute, in the recipe that the instance is read by.
   *
   * @param dry whether only to tell what it would do
   */
  @PostMapping("/counter")
  RecipeEditor.Change counter(
      @PathVariable int id,
      @Valid @RequestBody CounterOfBean body,
      @RequestParam(defaultValue = "false") boolean dry) {
    InstanceRow row = instances.row(id);
    LoadedRecipe recipe = recipes.one(row.recipe());
    String text = editor.text(row.recipe()).text();
    return editor.change(row.recipe(), body.in(recipe.recipe(), text), dry);
  }

  private static Attribute view(BeanAttribute attribute, ObjectName bean, List<BeanQuery> queries) {
    return new Attribute(
        attribute.name(),
        attribute.type(),
        attribute.description(),
        attribute.value(),
        attribute.why(),
        attribute.numbers().stream()
            .map(
                inside ->
                    new BeanNumber(
                        inside.path(),
                        Numbers.known(inside.value()),
                        inside.flag(),
                        queries.stream()
                            .flatMap(query -> query.counterOf(bean, inside.path()).stream())
                            .findFirst()
                            .orElse("")))
            .toList());
  }

  private interface Asked<T> {
    T of(ManagedBeans beans) throws CollectFailed;
  }

  private <T> T asked(InstanceRow row, Asked<T> asked) {
    try (ManagedBeans beans = open(row)) {
      return asked.of(beans);
    } catch (CollectFailed e) {
      throw Problem.noAnswer(
          row.name() + ": " + e.refusal().sentence() + ". " + e.refusal().advice());
    } catch (IllegalArgumentException e) {
      throw Problem.unknown(e.getMessage());
    }
  }

  private ManagedBeans open(InstanceRow row) throws CollectFailed {
    return switch (row.kind()) {
      case "postgresql" ->
          throw Problem.field(
              "id", row.name() + " has no managed beans: JVMs and application servers have.");
      case InstanceRow.OWN -> ManagedBeans.own(ManagementFactory.getPlatformMBeanServer());
      default -> ManagedBeans.of(targets.of(row));
    };
  }

  static ObjectName name(String bean) {
    try {
      return new ObjectName(bean);
    } catch (MalformedObjectNameException e) {
      throw Problem.field("bean", "'" + bean + "' is not the name of a managed bean.");
    }
  }
}
