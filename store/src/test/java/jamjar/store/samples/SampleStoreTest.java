package jamjar.store.samples;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
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
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SampleStoreTest {
  private static final Instant NIGHT = Instant.parse("2026-11-26T01:50:00Z");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  @TempDir private Path folder;
  private Store store;
  private Intake intake;
  private int engine;
  private int other;

  @BeforeEach
  void open() throws Exception {
    String url = CLUSTER.cluster().url(CLUSTER.newDatabase());
    store = Store.open(url, "postgres", CLUSTER.cluster().password());
    engine = store.instances().add(Instances.named("booking-db-a"));
    other = store.instances().add(Instances.named("freight-db"));
    intake = store.intake(folder, 1 << 24, Clock.systemUTC(), kind -> {});
    intake.start();
  }

  @AfterEach
  void close() throws Exception {
    intake.close();
    store.close();
  }

  private static Sample sample(Instant at, int sessions) {
    long engineAt = at.toEpochMilli();
    List<Session> all = new ArrayList<>();
    for (int i = 0; i < sessions; i++) {
      all.add(
          new Session(
              new Who(100 + i, 1_700_000_000_000L, Who.Kind.CLIENT, "web", "p", "bookings", ""),
              Session.State.ACTIVE,
              new Session.Wait("Lock", "transactionid"),
              42,
              "",
              new Session.Since(engineAt - 5, engineAt - 5, engineAt - 9, 0),
              0,
              0,
              List.of(99)));
    }
    return new Sample(
        at, engineAt, all, List.of(new Sample.Idle("web", "p", "bookings", 7)), List.of());
  }

  private List<Sample> between(int instance, Instant from, Instant to) {
    List<Sample> all = new ArrayList<>();
    store.samples().between(instance, from, to, all::add);
    return all;
  }

  private void keep(int instance, Instant from, Duration every, int count) throws Exception {
    for (int i = 0; i < count; i++) {
      intake.sampled(instance, sample(from.plus(every.multipliedBy(i)), i % 4), Map.of());
    }
    intake.awaitBrought(Duration.ofSeconds(30));
  }

  @Test
  void any_moment_is_the_same_before_and_after_it_is_packed() throws Exception {
    keep(engine, NIGHT, Duration.ofSeconds(5), 300);
    keep(other, NIGHT, Duration.ofSeconds(60), 3);
    List<Sample> before = between(engine, NIGHT, NIGHT.plusSeconds(5000));
    assertThat(before).hasSize(300).contains(sample(NIGHT.plusSeconds(10), 2));
    assertThat(store.samples().bytes(engine, NIGHT, NIGHT.plusSeconds(60))).isZero();
    assertThat(store.samples().seal(NIGHT.plusSeconds(1500))).isEqualTo(2);
    assertThat(store.samples().bytes(engine, NIGHT, NIGHT.plusSeconds(60))).isPositive();
    assertThat(store.samples().bytes(engine, NIGHT.plusSeconds(7200), NIGHT.plusSeconds(9000)))
        .isZero();
    assertThat(between(engine, NIGHT, NIGHT.plusSeconds(5000))).isEqualTo(before);
    // the hour that is not over, and nothing twice
    assertThat(store.samples().seal(NIGHT.plusSeconds(1500))).isZero();
    assertThat(between(engine, NIGHT.plusSeconds(3), NIGHT.plusSeconds(15)))
        .extracting(Sample::at)
        .containsExactly(NIGHT.plusSeconds(5), NIGHT.plusSeconds(10));
    assertThat(store.samples().at(engine, NIGHT.plusSeconds(12), Duration.ofSeconds(15)))
        .hasValue(sample(NIGHT.plusSeconds(10), 2));
    assertThat(store.samples().at(engine, NIGHT.plusSeconds(10), Duration.ofSeconds(15)))
        .hasValue(sample(NIGHT.plusSeconds(10), 2));
    assertThat(store.samples().lastTwo(engine, NIGHT.plusSeconds(12), Duration.ofSeconds(15)))
        .containsExactly(sample(NIGHT.plusSeconds(10), 2), sample(NIGHT.plusSeconds(5), 1));
    assertThat(store.samples().at(engine, NIGHT.minusSeconds(1), Duration.ofSeconds(15))).isEmpty();
  }

  @Test
  void what_is_packed_while_it_is_read_is_read_once() throws Exception {
    keep(engine, NIGHT, Duration.ofSeconds(5), 300);
    List<Instant> seen = new ArrayList<>();
    // the first one is handed over between reading what is packed and what is not
    store
        .samples()
        .between(
            engine,
            NIGHT,
            NIGHT.plusSeconds(5000),
            sample -> {
              if (seen.isEmpty()) {
                store.samples().seal(NIGHT.plus(Duration.ofHours(3)));
              }
              seen.add(sample.at());
            });
    assertThat(seen).hasSize(300).doesNotHaveDuplicates();
    List<Instant> again = new ArrayList<>();
    keep(engine, NIGHT.plus(Duration.ofHours(1)), Duration.ofSeconds(5), 100);
    store
        .samples()
        .between(
            engine,
            NIGHT,
            NIGHT.plus(Duration.ofHours(3)),
            sample -> {
              if (again.isEmpty()) {
                store.samples().seal(NIGHT.plus(Duration.ofHours(4)));
              }
              again.add(sample.at());
            });
    assertThat(again).hasSize(400).doesNotHaveDuplicates();
  }

  @Test
  void what_comes_late_is_packed_into_its_hour() throws Exception {
    keep(engine, NIGHT, Duration.ofSeconds(10), 30);
    store.samples().seal(NIGHT.plus(Duration.ofHours(2)));
    keep(engine, NIGHT.plusSeconds(5), Duration.ofSeconds(10), 30);
    List<Sample> all = between(engine, NIGHT, NIGHT.plusSeconds(600));
    assertThat(all).hasSize(60);
    assertThat(store.samples().seal(NIGHT.plus(Duration.ofHours(2)))).isEqualTo(1);
    assertThat(between(engine, NIGHT, NIGHT.plusSeconds(600)))
        .hasSize(60)
        .isSortedAccordingTo((a, b) -> a.at().compareTo(b.at()))
        .containsExactlyInAnyOrderElementsOf(all);
  }

  @Test
  void a_text_is_kept_once_and_goes_with_the_samples() throws Exception {
    intake.sampled(engine, sample(NIGHT, 1), Map.of(42L, "select ?", -7L, "update t set a = ?"));
    intake.sampled(engine, sample(NIGHT.plusSeconds(5), 1), Map.of(42L, "select ?"));
    keep(other, NIGHT, Duration.ofSeconds(5), 1);
    assertThat(store.statements().texts(engine, Set.of(42L, -7L, 9L)))
        .isEqualTo(Map.of(42L, "select ?", -7L, "update t set a = ?"));
    assertThat(store.statements().texts(other, Set.of(42L))).isEmpty();
    store.samples().seal(NIGHT.plus(Duration.ofHours(2)));
    assertThat(store.samples().age(NIGHT.minusSeconds(3600))).isZero();
    assertThat(store.samples().age(NIGHT.plusSeconds(2))).isEqualTo(2);
    store.statements().age(NIGHT, NIGHT.plusSeconds(2));
    assertThat(between(engine, NIGHT, NIGHT.plusSeconds(60))).isEmpty();
    assertThat(store.statements().texts(engine, Set.of(42L, -7L))).containsOnlyKeys(42L);
  }
}
