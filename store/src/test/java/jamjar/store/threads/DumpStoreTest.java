package jamjar.store.threads;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import jamjar.core.threads.ThreadDump;
import jamjar.core.threads.ThreadDump.Seen;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.intake.Intake;
import jamjar.store.readings.Instances;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DumpStoreTest {
  private static final Instant NOON = Instant.parse("2026-11-27T12:00:00.123Z");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  @TempDir private Path folder;

  private static ThreadDump dump(Instant at) {
    return new ThreadDump(
        at,
        "Connections waiting · bookingPool is critical",
        List.of(List.of("skerry.pool.Pool.borrow:214", "skerry.web.Step.work:41"), List.of()),
        List.of(
            new Seen(1, "exec-1", "BLOCKED", "skerry.Fares@1f", 2, 0),
            new Seen(2, "exec-2", "RUNNABLE", "", -1, 1)),
        3);
  }

  @Test
  void what_was_kept_is_there_as_it_was_by_its_moment_until_it_is_too_old() throws Exception {
    String url = CLUSTER.cluster().url(CLUSTER.newDatabase());
    try (Store store = Store.open(url, "postgres", CLUSTER.cluster().password());
        Intake intake = store.intake(folder, 1 << 24, Clock.systemUTC(), kind -> {})) {
      int server = store.instances().add(Instances.named("booking-1"));
      intake.start();
      intake.dumped(server, dump(NOON));
      intake.dumped(server, dump(NOON.plusSeconds(600)));
      // told twice it is there once
      intake.dumped(server, dump(NOON));
      intake.awaitBrought(Duration.ofSeconds(30));

      DumpStore dumps = store.dumps();
      assertThat(dumps.between(server, NOON, NOON.plusSeconds(600), 10))
          .extracting(DumpRow::at, DumpRow::threads, DumpRow::blocked)
          .containsExactly(tuple(NOON.plusSeconds(600), 2, 1), tuple(NOON, 2, 1));
      assertThat(dumps.at(server, NOON)).contains(dump(NOON));
      assertThat(dumps.at(server, NOON.plusSeconds(1))).isEmpty();
      assertThat(dumps.age(NOON.plusSeconds(1))).isEqualTo(1);
      assertThat(dumps.at(server, NOON)).isEmpty();
    }
  }
}
