package jamjar.bench;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.Sealer;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.IntStream;

/**
 * Days go by within seconds while somebody reads all the time, each time for longer than a day
 * lasts: the tables of days are made, packed and dropped, and the longest that a writer waits is
 * told.
 */
final class MidnightBench {
  private static final Instant START = Instant.parse("2026-11-20T00:00:00Z");
  private static final Duration EVERY = Duration.ofMinutes(5);
  private static final int SERIES = 100;
  private static final int DAYS = 12;

  private MidnightBench() {}

  static void run(String[] options) throws Exception {
    TemporaryCluster cluster = TemporaryCluster.start(Map.of("synchronous_commit", "on"));
    String database = cluster.newDatabase();
    List<SeriesKey> keys =
        IntStream.range(0, SERIES).mapToObj(s -> SeriesKey.of("counter." + s)).toList();
    SeriesMix mix = new SeriesMix(1, SERIES);
    AtomicReference<Instant> now = new AtomicReference<>(START);
    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      int instance = store.instances().add(StoreBench.instance("instance"));
      CompletableFuture<Integer> reading =
          CompletableFuture.supplyAsync(() -> read(cluster, database, now));
      CompletableFuture<Integer> sealing = CompletableFuture.supplyAsync(() -> seal(store, now));
      int n = (int) Duration.ofDays(DAYS).dividedBy(EVERY);
      double[] waited = new double[n];
      for (int r = 0; r < n; r++) {
        Instant at = START.plus(EVERY.multipliedBy(r));
        now.set(at);
        Reading values =
            new Reading(at, EVERY.toMillis(), keys, mix.next(), new WhyNothing[SERIES]);
        LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
        KeptReading kept =
            new KeptReading(
                instance,
                1,
                (int) EVERY.toSeconds(),
                r + 1,
                at,
                new Increases.Step(values, last),
                Judged.NOTHING);
        long began = System.nanoTime();
        store.readings().write(List.of(kept));
        waited[r] = (System.nanoTime() - began) / 1e6;
        Thread.sleep(10);
      }
      now.set(null);
      int dropped = sealing.get();
      Arrays.sort(waited);
      System.out.printf(
          "%d days of %d readings while %d readers, one after the other, held the tables for 5 s"
              + " each: %d days dropped; a write waited p50 %.1f ms, p99 %.1f ms, at most %.0f ms%n",
          DAYS, n, reading.get(), dropped, waited[n / 2], waited[n * 99 / 100], waited[n - 1]);
    } finally {
      cluster.cluster().remove();
    }
  }

  private static int seal(Store store, AtomicReference<Instant> now) {
    int dropped = 0;
    for (Instant at = now.get(); at != null; at = now.get()) {
      Sealer.Done done = store.readings().sealer().run(at);
      dropped += done.dropped();
    }
    return dropped;
  }

  private static int read(TemporaryCluster cluster, String database, AtomicReference<Instant> now) {
    int readers = 0;
    while (now.get() != null) {
      try (Connection connection = cluster.connect(database);
          Statement statement = connection.createStatement()) {
        connection.setAutoCommit(false);
        statement.execute("select count(*) from reading");
        statement.execute("select pg_sleep(5)");
        readers++;
      } catch (java.sql.SQLException e) {
        throw new IllegalStateException(e);
      }
    }
    return readers;
  }
}
