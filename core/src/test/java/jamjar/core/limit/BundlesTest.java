package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.limit.Bundles.Bundle;
import jamjar.core.limit.Bundles.Risen;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

class BundlesTest {
  private static final long BEGAN = 1_800_000_000_000L;
  private static final int DATABASE = 100;

  private static Risen of(long alert, long seconds, int instance, String group, Integer... uses) {
    return new Risen(alert, BEGAN + 1000 * seconds, instance, group, "", Set.of(uses));
  }

  /** As they rise, each joins what is there or begins a bundle of its own. */
  private static List<Bundle> bundled(Risen... risen) {
    List<Bundle> all = new ArrayList<>();
    for (Risen one : risen) {
      Optional<Bundle> joined = Bundles.of(one, all);
      all.removeAll(joined.stream().toList());
      all.add(joined.map(bundle -> bundle.with(one)).orElse(new Bundle(List.of(one))));
    }
    return all;
  }

  @Test
  void a_pool_that_runs_empty_on_six_nodes_and_the_locks_of_its_database_are_one() {
    List<Bundle> bundles =
        bundled(
            of(1, 0, 1, "booking", DATABASE),
            of(2, 5, 2, "booking", DATABASE),
            of(3, 10, 3, "booking", DATABASE),
            of(4, 20, DATABASE, "booking-db"),
            of(5, 60, 4, "booking", DATABASE),
            of(6, 90, 5, "booking", DATABASE),
            of(7, 180, 6, "booking", DATABASE));
    assertThat(bundles).hasSize(1);
    assertThat(bundles.get(0).first()).isEqualTo(1);
  }

  @Test
  void what_begins_more_than_three_minutes_after_the_first_is_another() {
    assertThat(bundled(of(1, 0, 1, "booking"), of(2, 180, 2, "booking"))).hasSize(1);
    assertThat(bundled(of(1, 0, 1, "booking"), of(2, 181, 2, "booking"))).hasSize(2);
    // the three minutes are of the first, so that a bundle does not grow all day
    assertThat(bundled(of(1, 0, 1, "booking"), of(2, 120, 2, "booking"), of(3, 240, 3, "booking")))
        .hasSize(2);
  }

  @Test
  void what_has_nothing_in_common_stays_apart() {
    assertThat(bundled(of(1, 0, 1, "booking", DATABASE), of(2, 0, 2, "freight", 101))).hasSize(2);
    assertThat(bundled(of(1, 0, 1, ""), of(2, 0, 2, ""))).hasSize(2);
    assertThat(bundled(of(1, 0, 1, ""), of(2, 0, 1, ""))).hasSize(1);
    // about a group or a site, not about the one that counts them
    assertThat(bundled(of(1, 0, 0, "gates"), of(2, 0, 0, "booking"))).hasSize(2);
  }

  @Test
  void silences_of_one_site_are_one() {
    Risen site = new Risen(1, BEGAN, 0, "", "Southmole", Set.of());
    Risen gate = new Risen(2, BEGAN, 7, "gates", "Southmole", Set.of());
    Risen slow = new Risen(3, BEGAN, 8, "freight", "", Set.of());
    assertThat(bundled(site, gate, slow)).hasSize(2);
  }

  @Test
  void of_two_that_it_joins_it_is_the_older_one() {
    List<Bundle> there =
        List.of(
            new Bundle(List.of(of(2, 50, 2, "gates", DATABASE))),
            new Bundle(List.of(of(1, 10, 1, "booking", DATABASE))));
    assertThat(Bundles.of(of(3, 60, DATABASE, "booking-db"), there).orElseThrow().first())
        .isEqualTo(1);
  }
}
