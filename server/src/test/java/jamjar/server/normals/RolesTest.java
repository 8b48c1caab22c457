package jamjar.server.normals;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.store.facts.FactRow;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class RolesTest {
  private static FactRow role(String value, long from, long to) {
    return new FactRow(
        1, "role", value, Instant.ofEpochMilli(from), to == 0 ? null : Instant.ofEpochMilli(to));
  }

  @Test
  void the_time_in_another_role_is_left_out() {
    List<FactRow> facts =
        List.of(
            role("reader", 1_000, 5_000), role("writer", 5_000, 9_000), role("reader", 9_000, 0));
    assertThat(Roles.others(facts, 0, 20_000))
        .containsExactly(new LeftOut(5_000, 9_000, "role: writer"));
    assertThat(Roles.others(facts, 6_000, 8_000))
        .containsExactly(new LeftOut(6_000, 8_000, "role: writer"));
    assertThat(Roles.others(facts, 9_000, 20_000)).isEmpty();
  }

  @Test
  void the_first_one_is_no_change() {
    List<FactRow> facts = List.of(role("reader", 1_000, 5_000), role("writer", 5_000, 0));
    assertThat(Roles.changedSince(facts, Instant.ofEpochMilli(4_999))).isTrue();
    assertThat(Roles.changedSince(facts, Instant.ofEpochMilli(5_000))).isFalse();
    assertThat(Roles.changedSince(facts.subList(0, 1), Instant.EPOCH)).isFalse();
    assertThat(Roles.changedSince(List.of(), Instant.EPOCH)).isFalse();
  }

  @Test
  void before_any_is_known_it_had_the_first_one() {
    List<FactRow> facts = List.of(role("reader", 5_000, 9_000), role("writer", 9_000, 0));
    assertThat(Roles.others(facts, 0, 20_000))
        .containsExactly(new LeftOut(0, 9_000, "role: reader"));
    assertThat(Roles.others(List.of(), 0, 20_000)).isEmpty();
    assertThat(Roles.others(List.of(role("writer", 5_000, 0)), 0, 20_000)).isEmpty();
  }

  @Test
  void while_it_was_not_told_it_had_the_one_before() {
    List<FactRow> facts = List.of(role("reader", 1_000, 2_000), role("writer", 4_000, 0));
    assertThat(Roles.others(facts, 0, 20_000))
        .containsExactly(new LeftOut(0, 4_000, "role: reader"));
  }
}
