package jamjar.store.alerts;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Rule.Hold;
import jamjar.core.limit.Scope;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.intake.Intake;
import jamjar.store.readings.Instances;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class JudgedStoreTest {
  private static final long START = Instant.parse("2026-11-25T02:00:00Z").toEpochMilli();
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();
  private static final SeriesKey WAITERS = SeriesKey.of("waiters");
  private static final int SERIES = 7;
  private static final CounterDefinition COUNTER =
      new CounterDefinition(
          "waiters",
          "Waiters",
          "g",
          "",
          Shape.LEVEL,
          "",
          false,
          0,
          1,
          0,
          Worse.UP,
          false,
          "",
          "",
          List.of(),
          List.of(),
          "",
          List.of(),
          1,
          20);

  @TempDir private Path folder;
  private Store store;
  private Intake intake;
  private int instance;
  private Docket docket;
  private int second;

  @BeforeEach
  void open() throws InterruptedException {
    store =
        Store.open(
            CLUSTER.cluster().url(CLUSTER.newDatabase()), "postgres", CLUSTER.cluster().password());
    instance = store.instances().add(Instances.named("booking-db-a"));
    docket = docket(START);
    intake = store.intake(folder, 1 << 20, Clock.systemUTC(), what -> {});
    intake.start();
  }

  @AfterEach
  void close() throws Exception {
    intake.close();
    store.close();
  }

  @Test
  void an_alert_is_stored_with_all_its_transitions_and_values() {
    read(1, 12, 13, 30, 30, 2, 2, 2);

    AlertRow alert = store.alerts().touching(Instant.EPOCH, Instant.now(), null, 10).get(0);
    assertThat(alert.state()).isEqualTo("calm");
    assertThat(alert.severity()).isEqualTo("critical");
    assertThat(alert.worst()).isEqualTo(30);
    assertThat(alert.endedAt()).isNotNull();
    assertThat(store.alerts().open()).isEmpty();
    assertThat(store.alerts().transitions(new long[] {alert.id()}))
        .extracting(TransitionRow::toState, TransitionRow::value)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple("building", 12.0),
            org.assertj.core.groups.Tuple.tuple("warning", 13.0),
            org.assertj.core.groups.Tuple.tuple("critical", 30.0),
            org.assertj.core.groups.Tuple.tuple("settling", 2.0),
            org.assertj.core.groups.Tuple.tuple("calm", 2.0));
    // one state is kept for what flapping needs to know, and it is calm
    assertThat(store.states().ofInstance(instance).values())
        .allSatisfy(state -> assertThat(state.open()).isFalse());
  }

  @Test
  void a_hold_goes_on_after_a_restart_and_there_is_one_alert() {
    read(12);
    restart(12);
    read(13);
    restart(13);
    read(14, 15);

    assertThat(store.alerts().open()).hasSize(1);
    AlertRow alert = store.alerts().open().get(0);
    assertThat(alert.since().toEpochMilli()).isEqualTo(START + 3_000);
    assertThat(store.alerts().transitions(new long[] {alert.id()}))
        .extracting(TransitionRow::toState)
        .containsExactly("building", "warning");
  }

  @Test
  void many_edges_judged_at_once_after_a_long_silence_are_stored_together() {
    read(12, 13, 14);
    assertThat(store.alerts().open()).hasSize(1);
    second += 3600;
    // an hour of missing judgings, and then a value that settles it
    read(1, 1, 1);

    AlertRow alert = store.alerts().touching(Instant.EPOCH, Instant.now(), null, 10).get(0);
    assertThat(store.alerts().transitions(new long[] {alert.id()}))
        .extracting(TransitionRow::toState)
        .containsExactly("building", "warning", "not measured", "warning", "settling", "calm");
  }

  @Test
  void what_was_said_to_an_alert_stays_with_it() {
    read(12, 13, 14);
    long id = store.alerts().open().get(0).id();
    store
        .alerts()
        .acknowledge(
            id,
            Instant.ofEpochMilli(at()),
            "local",
            "looking",
            Instant.ofEpochMilli(Long.MAX_VALUE / 1_000_000),
            "warning");
    store.alerts().addNote(new NoteRow(id, Instant.ofEpochMilli(at()), "local", "fare reload"));
    read(15, 16);

    AlertRow alert = store.alerts().byId(id).orElseThrow();
    assertThat(alert.seenNote()).isEqualTo("looking");
    assertThat(store.alerts().notes(new long[] {id}))
        .extracting(NoteRow::note)
        .containsExactly("fare reload");
    assertThat(alert.worst()).isEqualTo(15);
  }

  /** Reads at 3 s past each edge; a value is judged with the next reading. */
  private void read(double... values) {
    for (double value : values) {
      List<Shown> shown = List.of(new Shown(WAITERS, value, null, value, 1));
      List<Docket.Change> changes = docket.read(at(), at() + 5, new int[] {SERIES}, shown);
      intake.judged(
          new Judged(instance, changes, changes.stream().map(c -> WAITERS).toList()),
          Instant.ofEpochMilli(at()));
      second += 10;
    }
    try {
      intake.awaitBrought(Duration.ofSeconds(60));
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * Goes on from what is stored: the states, and the last reading, which belongs to an open edge.
   */
  private void restart(double lastValue) {
    long last = at() - 10_000;
    docket = docket(last);
    docket.gather(
        last,
        last + 5,
        new int[] {SERIES},
        List.of(new Shown(WAITERS, lastValue, null, lastValue, 1)));
  }

  private long at() {
    return START + 1000L * second + 3_000;
  }

  private Docket docket(long from) {
    Rule rule =
        new Rule(
            1,
            "waiters",
            Map.of(),
            Scope.instance(instance),
            Condition.ABOVE,
            10.0,
            25.0,
            new Hold(2, 2),
            new Hold(1, 1),
            5.0,
            null,
            10,
            true);
    InForce.Place place = new InForce.Place(instance, "", "postgresql");
    InForce inForce = InForce.of(List.of(rule), place, WAITERS, COUNTER, true, 10_000).get(0);
    return new Docket(
        List.of(new Docket.Entry(SERIES, COUNTER, inForce)),
        store.states().ofInstance(instance),
        from,
        from,
        (series, at) -> Normal.NONE);
  }
}
