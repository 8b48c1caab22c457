package jamjar.bench;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.KeptReading;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import org.postgresql.PGConnection;

/**
 * Intake by the product's own path (one row a reading with the raw totals of each source, in
 * transactions of up to 200 readings as the writer forms them) beside a table with a row per value
 * and its key, filled by COPY.
 */
final class StoreBench {
  private static final int INSTANCES = 100;
  private static final int SERIES = 150;
  private static final int READINGS = 200;
  private static final int TOGETHER = 200;
  private static final int ROUNDS = 5;
  private static final Instant START = Instant.parse("2026-11-24T00:00:00Z");

  private StoreBench() {}

  static void run(String[] options) throws Exception {
    // durable as in operation: nothing of a temporary cluster's haste
    TemporaryCluster cluster =
        TemporaryCluster.start(
            Map.of(
                "fsync", "on",
                "synchronous_commit", "on",
                "full_page_writes", "on",
                "shared_buffers", "128MB",
                "max_wal_size", "1GB",
                "wal_compression", "on"));
    long values = (long) INSTANCES * SERIES * READINGS;
    double[] own = new double[ROUNDS];
    double[] copy = new double[ROUNDS];
    // round 0 is there for the compiler and counts for nothing
    for (int round = 0; round <= ROUNDS; round++) {
      String database = cluster.newDatabase();
      double ownNow = own(cluster, database, round);
      double ownBytes = bytes(cluster, database, "reading");
      double copyNow = copy(cluster, database, round);
      double copyBytes = bytes(cluster, database, "value");
      cluster.run("postgres", "drop database " + database);
      cluster.run("postgres", "checkpoint");
      if (round > 0) {
        own[round - 1] = ownNow;
        copy[round - 1] = copyNow;
        System.out.printf(
            "round %d: own path %,.0f values/s, %.1f B each; row per value by COPY %,.0f values/s,"
                + " %.1f B each; ratio %.1f%n",
            round, ownNow, ownBytes / values, copyNow, copyBytes / values, ownNow / copyNow);
      }
    }
    System.out.printf(
        "median of %d: %,.0f against %,.0f values/s, ratio %.1f%n",
        ROUNDS, median(own), median(copy), median(own) / median(copy));
  }

  private static double median(double[] values) {
    double[] sorted = values.clone();
    java.util.Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  private static double own(TemporaryCluster cluster, String database, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      List<SeriesKey> keys = new ArrayList<>();
      for (int s = 0; s < SERIES; s++) {
        keys.add(SeriesKey.of("counter." + s));
      }
      int[] instances = new int[INSTANCES];
      for (int i = 0; i < INSTANCES; i++) {
        instances[i] = store.instances().add(instance("instance-" + i));
      }
      write(store, instances, keys, 0, random);
      long began = System.nanoTime();
      for (int r = 1; r <= READINGS; r++) {
        write(store, instances, keys, r, random);
      }
      double seconds = (System.nanoTime() - began) / 1e9;
      return (double) INSTANCES * SERIES * READINGS / seconds;
    }
  }

  private static void write(
      Store store, int[] instances, List<SeriesKey> keys, int r, SplittableRandom random) {
    List<KeptReading> batch = new ArrayList<>();
    Instant at = START.plusSeconds(10L * r);
    for (int instance : instances) {
      double[] values = random.doubles(SERIES).map(v -> Math.rint(v * 1000)).toArray();
      Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
      for (int s = 0; s < SERIES; s += 2) {
        totals.put(keys.get(s), new LastTotals.Raw(random.nextLong(1L << 40), 0));
      }
      Reading reading = new Reading(at, 10_000, keys, values, new WhyNothing[SERIES]);
      LastTotals last =
          new LastTotals(at, 0, 0, 0, Set.of("counter.0", "counter.1"), totals, Set.of());
      batch.add(
          new KeptReading(
              instance, 1, 10, r + 1, at, new Increases.Step(reading, last), Judged.NOTHING));
      if (batch.size() == TOGETHER) {
        store.readings().write(batch);
        batch.clear();
      }
    }
    if (!batch.isEmpty()) {
      store.readings().write(batch);
    }
  }

  private static double copy(TemporaryCluster cluster, String database, long seed)
      throws Exception {
    SplittableRandom random = new SplittableRandom(seed);
    cluster.run(
        database,
        "create table value (series int, at timestamptz, value float8, primary key (series, at))");
    try (Connection connection = cluster.connect(database)) {
      // as the own path does
      connection.createStatement().execute("set synchronous_commit = off");
      var copy = connection.unwrap(PGConnection.class).getCopyAPI();
      long began = System.nanoTime();
      for (int r = 1; r <= READINGS; r++) {
        StringBuilder lines = new StringBuilder();
        String at = START.plusSeconds(10L * r).toString();
        for (int i = 0; i < INSTANCES * SERIES; i++) {
          lines
              .append(i)
              .append('\t')
              .append(at)
              .append('\t')
              .append(Math.rint(random.nextDouble() * 1000))
              .append('\n');
        }
        copy.copyIn(
            "copy value from stdin",
            new ByteArrayInputStream(lines.toString().getBytes(StandardCharsets.US_ASCII)));
      }
      double seconds = (System.nanoTime() - began) / 1e9;
      return (double) INSTANCES * SERIES * READINGS / seconds;
    }
  }

  private static double bytes(TemporaryCluster cluster, String database, String table)
      throws Exception {
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "select sum(pg_total_relation_size(relid)) from pg_partition_tree('"
                    + table
                    + "') union all select pg_total_relation_size('"
                    + table
                    + "')")) {
      double most = 0;
      while (row.next()) {
        most = Math.max(most, row.getDouble(1));
      }
      return most;
    }
  }

  private static InstanceRow instance(String name) {
    return new InstanceRow(
        0,
        name,
        "postgresql",
        "",
        "",
        "",
        new String[0],
        "127.0.0.1",
        5432,
        "postgres",
        "off",
        "",
        "reader",
        new byte[] {1},
        "postgresql",
        10,
        "UTC",
        START,
        null,
        false,
        new String[0]);
  }
}
