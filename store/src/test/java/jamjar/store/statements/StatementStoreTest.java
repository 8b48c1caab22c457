package jamjar.store.statements;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.intake.Intake;
import jamjar.store.readings.Instances;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StatementStoreTest {
  private static final Instant NIGHT = Instant.parse("2026-11-26T01:50:00Z");
  private static final StatementKey PAY = new StatementKey("booking_app", "bookings", 42, true);
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  @TempDir private Path folder;
  private Store store;
  private Intake intake;
  private int engine;

  @BeforeEach
  void open() throws Exception {
    String url = CLUSTER.cluster().url(CLUSTER.newDatabase());
    store = Store.open(url, "postgres", CLUSTER.cluster().password());
    engine = store.instances().add(Instances.named("booking-db-a"));
    intake = store.intake(folder, 1 << 24, Clock.systemUTC(), kind -> {});
    intake.start();
  }

  @AfterEach
  void close() throws Exception {
    intake.close();
    store.close();
  }

  /** The nth minute of the night, with n calls. */
  private static Counted minute(int n) {
    StatementCounts counts = new StatementCounts(n, 1000L * n, n, 2L * n, 1, 0);
    return new Counted(
        NIGHT.plusSeconds(60L * n), 60_000, n % 7 == 0 ? 1 : 0, new TreeMap<>(Map.of(PAY, counts)));
  }

  private void keep(int from, int to) throws Exception {
    for (int n = from; n < to; n++) {
      intake.counted(engine, minute(n), Map.of());
    }
    intake.awaitBrought(Duration.ofSeconds(30));
  }

  private List<Counted> between(int from, int to) {
    List<Counted> all = new ArrayList<>();
    Instant begin = NIGHT.plusSeconds(60L * from);
    store.statements().between(engine, begin, NIGHT.plusSeconds(60L * to), all::add);
    return all;
  }

  private Counted sum(int from, int to, List<Integer> pieces) {
    Counted.Sum sum = new Counted.Sum();
    int[] taken = {0};
    store
        .statements()
        .sums(
            engine,
            NIGHT.plusSeconds(60L * from),
            NIGHT.plusSeconds(60L * to),
            counted -> {
              sum.add(counted);
              taken[0]++;
            });
    pieces.add(taken[0]);
    return sum.until(NIGHT);
  }

  @Test
  void minutes_and_their_sums_are_the_same_before_and_after_they_are_packed() throws Exception {
    keep(1, 250);
    List<Counted> before = between(0, 1000);
    assertThat(before).hasSize(249).contains(minute(17));
    List<Integer> pieces = new ArrayList<>();
    Counted all = sum(5, 220, pieces);
    // 5 + 6 + … + 219
    assertThat(all.statements().get(PAY).calls()).isEqualTo(215L * 224 / 2);
    assertThat(all.elapsedMs()).isEqualTo(215L * 60_000);
    assertThat(all.evicted()).isEqualTo(31);

    assertThat(store.statements().seal(NIGHT.plus(Duration.ofMinutes(200)))).isEqualTo(4);
    assertThat(between(0, 1000)).isEqualTo(before);
    assertThat(sum(5, 220, pieces)).isEqualTo(all);
    // 5 minutes until two o'clock, three hours, and 30 minutes that lie open
    assertThat(pieces).containsExactly(215, 5 + 3 + 30);
    assertThat(sum(12, 14, pieces).statements().get(PAY).calls()).isEqualTo(12 + 13);
    assertThat(sum(1_000, 1_010, pieces).elapsedMs()).isZero();
  }

  @Test
  void what_comes_late_counts_in_the_sum_of_its_hour() throws Exception {
    keep(11, 30);
    store.statements().seal(NIGHT.plus(Duration.ofHours(3)));
    keep(30, 40);
    List<Integer> pieces = new ArrayList<>();
    // nothing is told twice, and nothing before it is packed once more
    assertThat(store.statements().seal(NIGHT.plus(Duration.ofHours(3)))).isEqualTo(1);
    Counted hour = sum(10, 70, pieces);
    assertThat(hour.statements().get(PAY).calls()).isEqualTo((11L + 39) * 29 / 2);
    assertThat(pieces).containsExactly(1);
  }

  @Test
  void sums_stay_when_minutes_go_and_a_text_says_when_it_was_seen_first() throws Exception {
    keep(11, 130);
    store.statements().seal(NIGHT.plus(Duration.ofHours(4)));
    store.statements().tell(engine, Map.of(42L, "select ?"), NIGHT.plusSeconds(600));
    store.statements().tell(engine, Map.of(42L, "select ?"), NIGHT.minusSeconds(86_400));
    assertThat(store.statements().age(NIGHT.plus(Duration.ofHours(1)), Instant.EPOCH)).isEqualTo(1);
    List<Integer> pieces = new ArrayList<>();
    assertThat(between(0, 70)).isEmpty();
    assertThat(sum(10, 70, pieces).statements().get(PAY).calls()).isEqualTo((11L + 69) * 59 / 2);
    assertThat(store.statements().seen(engine, Set.of(42L, 7L)))
        .isEqualTo(Map.of(42L, new StatementStore.Text("select ?", NIGHT.minusSeconds(86_400))));
    store.statements().age(NIGHT, NIGHT.plusSeconds(601));
    assertThat(store.statements().texts(engine, Set.of(42L))).isEmpty();
    assertThat(sum(10, 70, pieces).elapsedMs()).isZero();
  }
}
