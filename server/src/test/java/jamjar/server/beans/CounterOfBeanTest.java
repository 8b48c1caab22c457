package jamjar.server.beans;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.collect.recipe.AttributeRead;
import jamjar.collect.recipe.BeanQuery;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.server.problems.Problem;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a person says of an attribute becomes a recipe that reads it. */
class CounterOfBeanTest {
  private static final String OURS =
      "# ours\nkind: jvm\nname: Ours\nbasedOn: [jvm]\nwithout: [threads.daemon] # too many\n";
  private static final String CACHE = "app:name=\"fares, winter\",type=Cache";
  private static final Recipe JVM = RecipeFile.shipped("jvm").recipe();

  @Test
  void a_total_told_in_milliseconds_is_shown_in_seconds_a_second() {
    LoadedRecipe recipe =
        read(
            counter("Time spent loading", "LoadMillis", "", "total", "s", 0.001, false)
                .in(JVM, OURS));
    CounterDefinition made = recipe.recipe().counter("own.time_spent_loading").orElseThrow();
    assertThat(made.shape()).isEqualTo(Shape.TOTAL);
    assertThat(made.unit()).isEqualTo("s/s");
    assertThat(made.factor()).isEqualTo(0.001);
    assertThat(made.labelled()).isFalse();
    assertThat(made.meaning()).isEqualTo("It's what it says: 'so'.");
    assertThat(recipe.recipe().pace(made)).isEqualTo(Pace.FAST);
    BeanQuery query = queryOf(recipe, made);
    assertThat(query.names()).extracting(Object::toString).containsExactly(CACHE);
  }

  @Test
  void a_part_of_the_name_becomes_the_label_of_all_that_are_like_it() {
    LoadedRecipe recipe =
        read(counter("Entries", "Size.now", "name", "level", "", 1, false).in(JVM, OURS));
    CounterDefinition made = recipe.recipe().counter("own.entries").orElseThrow();
    assertThat(made.subject()).isEqualTo("name");
    BeanQuery query = queryOf(recipe, made);
    assertThat(query.names()).extracting(Object::toString).containsExactly("app:name=*,type=Cache");
    assertThat(query.labels()).containsOnlyKeys("name");
    assertThat(query.reads().get(0).path()).containsExactly("Size", "now");
  }

  @Test
  void true_and_false_are_read_as_one_and_zero() {
    LoadedRecipe recipe = read(counter("On", "Enabled", "", "level", "", 1, true).in(JVM, OURS));
    CounterDefinition made = recipe.recipe().counter("own.on").orElseThrow();
    assertThat(queryOf(recipe, made).reads())
        .extracting(AttributeRead::words)
        .containsExactly(Map.of("true", 1.0, "false", 0.0));
  }

  @Test
  void two_of_one_bean_are_read_in_one_call_and_the_text_around_them_stays() {
    String one = counter("Hits", "Hits", "", "total", "", 1, false).in(JVM, OURS);
    Recipe with = read(one).recipe();
    String two = counter("Misses", "Misses", "", "total", "", 1, false).in(with, one);
    assertThat(two).startsWith(OURS);
    LoadedRecipe recipe = read(two);
    BeanQuery query = queryOf(recipe, recipe.recipe().counter("own.misses").orElseThrow());
    assertThat(query.reads())
        .extracting(AttributeRead::counter)
        .containsExactly("own.hits", "own.misses");
    assertThat(recipe.recipe().counters()).doesNotContainKey("threads.daemon");
  }

  @Test
  void a_title_that_is_taken_or_says_nothing_and_a_part_that_is_not_there_are_told() {
    String one = counter("Hits", "Hits", "", "total", "", 1, false).in(JVM, OURS);
    assertThatThrownBy(
            () -> counter("hits!", "Other", "", "level", "", 1, false).in(read(one).recipe(), one))
        .isInstanceOf(Problem.class)
        .hasMessageStartingWith("There is a counter 'own.hits' already");
    assertThatThrownBy(() -> counter("…", "Hits", "", "level", "", 1, false).in(JVM, OURS))
        .isInstanceOf(Problem.class)
        .hasMessage("A title has letters or digits.");
    assertThatThrownBy(() -> counter("Hits", "Hits", "zone", "level", "", 1, false).in(JVM, OURS))
        .isInstanceOf(Problem.class)
        .hasMessage("The bean's name has no part 'zone'.");
  }

  private static CounterOfBean counter(
      String title,
      String path,
      String label,
      String shape,
      String unit,
      double factor,
      boolean flag) {
    return new CounterOfBean(
        CACHE, label, path, flag, title, unit, shape, factor, "up", "It's what it\n says: 'so'.");
  }

  private static LoadedRecipe read(String text) {
    return RecipeFile.read("ours", "ours.yaml", text, RecipeFile::shipped);
  }

  private static BeanQuery queryOf(LoadedRecipe recipe, CounterDefinition counter) {
    return recipe.beans().stream()
        .filter(query -> query.group().equals(counter.group()))
        .findFirst()
        .orElseThrow();
  }
}
