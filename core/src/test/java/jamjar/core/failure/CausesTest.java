package jamjar.core.failure;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.FileNotFoundException;
import java.io.IOException;
import org.junit.jupiter.api.Test;

class CausesTest {
  private final IOException root = new FileNotFoundException("gone");
  private final Throwable wrapped =
      new IllegalStateException("outer", new RuntimeException("middle", root));

  @Test
  void the_root_is_the_last_cause() {
    assertThat(Causes.root(wrapped)).isSameAs(root);
    assertThat(Causes.root(root)).isSameAs(root);
    assertThat(Causes.words(wrapped)).isEqualTo("gone");
    assertThat(Causes.words(new IllegalStateException())).isEqualTo("IllegalStateException");
  }

  @Test
  void one_of_a_kind_is_found_at_any_depth() {
    assertThat(Causes.of(wrapped, IOException.class)).hasValue(root);
    assertThat(Causes.has(wrapped, RuntimeException.class)).isTrue();
    assertThat(Causes.of(wrapped, RuntimeException.class)).hasValue((RuntimeException) wrapped);
    assertThat(Causes.has(wrapped, Error.class)).isFalse();
  }

  @Test
  void two_that_cause_each_other_come_to_an_end() {
    RuntimeException one = new RuntimeException("one");
    one.initCause(new RuntimeException("other", one));
    assertThat(Causes.of(one)).hasSize(20);
    assertThat(Causes.has(one, IOException.class)).isFalse();
  }
}
