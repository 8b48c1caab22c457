package jamjar.collect.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;

/** An entry is put into a file as a person would, and the rest of it stays. */
class RecipeTextTest {
  @Test
  void a_field_that_is_not_there_comes_at_the_end() {
    assertThat(RecipeText.with("kind: jvm\n\n", "counters", "{key: a}", true))
        .isEqualTo("kind: jvm\ncounters:\n  - {key: a}\n");
    assertThat(RecipeText.with("kind: jvm", "groups", "a: fast", false))
        .isEqualTo("kind: jvm\ngroups:\n  a: fast\n");
  }

  @Test
  void one_that_is_empty_is_opened() {
    assertThat(RecipeText.with("counters: []\nkind: jvm\n", "counters", "{key: a}", true))
        .isEqualTo("counters:\n  - {key: a}\nkind: jvm\n");
  }

  @Test
  void a_list_grows_at_its_end_with_the_indent_that_it_has() {
    String text =
        """
        counters: # ours
            # the first
            - {key: a}
            - key: b

        # what follows
        kind: jvm
        """;
    assertThat(RecipeText.with(text, "counters", "{key: c}", true))
        .isEqualTo(text.replace("- key: b\n", "- key: b\n    - {key: c}\n"));
    String flush = "counters:\n- {key: a}\nkind: jvm\n";
    assertThat(RecipeText.with(flush, "counters", "{key: b}", true))
        .isEqualTo("counters:\n- {key: a}\n- {key: b}\nkind: jvm\n");
  }

  @Test
  void one_in_brackets_grows_in_them() {
    assertThat(RecipeText.with("groups: {a: fast} # two\n", "groups", "b: slow", false))
        .isEqualTo("groups: {a: fast, b: slow}\n");
    assertThat(RecipeText.with("counters: [{key: a}]", "counters", "{key: b}", true))
        .isEqualTo("counters: [{key: a}, {key: b}]\n");
  }

  @Test
  void brackets_over_several_lines_are_left_to_the_person() {
    assertThatThrownBy(
            () -> RecipeText.with("groups: {a: fast,\n  b: fast}\n", "groups", "c: fast", false))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("put this in by hand: c: fast");
  }
}
