package jamjar.core.chart;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.chart.Ranking.Row;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class RankingTest {
  private static final double NONE = Double.NaN;
  private static final List<Row<String>> ROWS =
      List.of(
          Row.of("gate", NONE, new Summary(NONE, NONE, NONE)),
          Row.of("refund", 1, new Summary(2, 9, 20)),
          Row.of("manifest", 5, new Summary(6, 8, 60)));

  @Test
  void the_greatest_mean_comes_first_and_what_has_none_last_with_shares_of_the_sum() {
    Ranking<String> ranking = Ranking.of(ROWS, Optional.empty(), true);
    assertThat(ranking.rows()).extracting(Row::of).containsExactly("manifest", "refund", "gate");
    assertThat(ranking.rows()).extracting(Row::share).containsExactly(0.75, 0.25, NONE);
    Row<String> all = ranking.all().orElseThrow();
    assertThat(all.value()).isEqualTo(6);
    // the greatest readings are not of one moment
    assertThat(all.summary()).isEqualTo(new Summary(8, NONE, 80));
  }

  @Test
  void a_series_of_all_together_that_is_kept_is_taken_as_it_is() {
    Row<String> whole = Row.of("all", 7, new Summary(10, 12, 100));
    Ranking<String> ranking = Ranking.of(ROWS, Optional.of(whole), true);
    assertThat(ranking.all()).contains(whole);
    assertThat(ranking.rows().get(0).share()).isEqualTo(0.6);
  }

  @Test
  void quotients_do_not_add_up_and_nothing_is_shared_where_all_is_nothing() {
    assertThat(Ranking.of(ROWS, Optional.empty(), false).all()).isEmpty();
    assertThat(Ranking.of(ROWS, Optional.empty(), false).rows())
        .allSatisfy(row -> assertThat(row.share()).isNaN());
    List<Row<String>> idle = List.of(Row.of("idle", 0, new Summary(0, 0, 0)));
    assertThat(Ranking.of(idle, Optional.empty(), true).rows().get(0).share()).isNaN();
    assertThat(Ranking.of(List.<Row<String>>of(), Optional.empty(), true).all()).isEmpty();
  }
}
