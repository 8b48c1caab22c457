package jamjar.bench;

import jamjar.core.chart.Charting;
import jamjar.core.chart.Points;
import jamjar.core.chart.Stepped;
import jamjar.core.chart.Steps;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.counter.Worse;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import jamjar.store.readings.KeptReading;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * The store beside a table with a row per value on the same server: intake by the product's own
 * path (one row a reading with the raw totals of each source, in transactions of up to 200 readings
 * as the writer forms them) while what is old enough is sealed, beside COPY; the size at rest; and
 * the time that a chart's points take.
 */
final class StoreBench {
  private static final int INSTANCES = 100;
  private static final int SERIES = 150;
  private static final int TOGETHER = 200;
  private static final int DAYS = 7;
  private static final int MOST_COPYING = 60;
  private static final int LOOK_EVERY = 60;

  /** A span of two hours is due five minutes after its end. */
  private static final Duration PACKED_AFTER = Duration.ofMinutes(125);

  private static final int POINTS = 300;
  private static final int DAY_SERIES = 50;
  private static final int TIMES = 15;
  private static final int YEAR = 365;
  private static final int YEAR_SERIES = 48;
  private static final Duration EVERY = Duration.ofSeconds(10);
  private static final Instant START = Instant.parse("2026-11-23T00:00:00Z");
  private static final CounterDefinition LEVEL =
      new CounterDefinition(
          "counter",
          "Counter",
          "all",
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
          0);

  private final TemporaryCluster cluster =
      // durable as in operation: nothing of a temporary cluster's haste
      TemporaryCluster.start(
          Map.of(
              "fsync", "on",
              "synchronous_commit", "on",
              "full_page_writes", "on",
              "shared_buffers", "128MB",
              "max_wal_size", "1GB",
              "wal_compression", "on"));

  private final List<SeriesKey> keys =
      IntStream.range(0, SERIES).mapToObj(s -> SeriesKey.of("counter." + s)).toList();

  /**
   * The journal is ahead of the database by no more than a reading may be late: in operation it is
   * told to the sealing how far it came.
   */
  private static final long MOST_BEHIND = 8L << 20;

  /** Readings come no faster than they can be packed: that would not go on for ever. */
  private static final Duration MOST_UNSEALED = Duration.ofHours(4);

  private StoreBench() {}

  static void run(String[] options) throws Exception {
    int seconds = Bench.minutes(options, 60);
    StoreBench bench = new StoreBench();
    bench.intake(seconds);
    bench.atRest();
    bench.year();
  }

  private Store open(String database) {
    return Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password());
  }

  private void intake(int seconds) throws Exception {
    // what is counted first is there for the compiler
    own(Math.min(10, seconds));
    double own = own(seconds);
    // the longer it goes on the slower it becomes, as its index outgrows the memory
    int copying = Math.min(seconds, MOST_COPYING);
    double asOwn = copied(copying, false);
    double durable = copied(copying, true);
    System.out.printf(
        "intake: own path for %d s, with journal, sealing and steps, %,.0f values/s; row per value by"
            + " COPY for %d s each %,.0f (ratio %.1f), committed one by one to the disk %,.0f (ratio"
            + " %.1f)%n",
        seconds, own, copying, asOwn, own / asOwn, durable, own / durable);
  }

  private double own(int seconds) throws Exception {
    String database = cluster.newDatabase();
    Path folder = Files.createTempDirectory("jamjar-intake");
    try (Connection looking = cluster.connect(database);
        Store store = open(database);
        Intake intake =
            store.intake(folder.resolve("journal"), 8L << 30, Clock.systemUTC(), what -> {})) {
      intake.start();
      int[] instances = new int[INSTANCES];
      SeriesMix[] mixes = new SeriesMix[INSTANCES];
      for (int i = 0; i < INSTANCES; i++) {
        instances[i] = store.instances().add(instance("instance-" + i));
        mixes[i] = new SeriesMix(i, SERIES);
      }
      AtomicReference<Instant> now = new AtomicReference<>(START);
      CompletableFuture<Integer> sealing = CompletableFuture.supplyAsync(() -> seal(store, now));
      long began = System.nanoTime();
      long until = began + seconds * 1_000_000_000L;
      int rounds = 0;
      while (System.nanoTime() < until) {
        rounds++;
        Instant at = START.plus(EVERY.multipliedBy(rounds));
        for (int i = 0; i < INSTANCES; i++) {
          intake.reading(
              kept(instances[i], rounds, at.plusMillis(mixes[i].jitter()), mixes[i].next()));
        }
        while (intake.behindBytes() > MOST_BEHIND) {
          Thread.sleep(1);
        }
        now.set(at);
        // a span is whole before it is packed
        while (rounds % LOOK_EVERY == 0 && unsealed(looking, at).compareTo(MOST_UNSEALED) > 0) {
          Thread.sleep(5);
        }
      }
      intake.awaitBrought(Duration.ofMinutes(10));
      double took = (System.nanoTime() - began) / 1e9;
      Instant last = now.get();
      // as it stood then, before the sealing that was under way ended: what was due since when
      long lag = Math.max(0, unsealed(looking, last).minus(PACKED_AFTER).toMinutes());
      now.set(null);
      int spans = sealing.join();
      if (seconds > 10) {
        System.out.printf(
            "own path: %d h of %d instances written, %d spans sealed meanwhile; at the end sealing was"
                + " %d min behind (a span is %d min)%n",
            Duration.between(START, last).toHours(), INSTANCES, spans, lag, 120);
      }
      return (double) INSTANCES * SERIES * rounds / took;
    } finally {
      remove(folder);
      cluster.run("postgres", "drop database " + database + " with (force)");
    }
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }

  /** Until there is no time any more. */
  private static int seal(Store store, AtomicReference<Instant> now) {
    int spans = 0;
    for (Instant at = now.get(); at != null; at = now.get()) {
      spans += store.readings().sealer().run(at).spans();
    }
    return spans;
  }

  private double copied(int seconds, boolean synchronous) throws Exception {
    String database = cluster.newDatabase();
    SeriesMix[] mixes = new SeriesMix[INSTANCES];
    for (int i = 0; i < INSTANCES; i++) {
      mixes[i] = new SeriesMix(i, SERIES);
    }
    try (RowTable table = new RowTable(cluster, database, synchronous)) {
      long began = System.nanoTime();
      long until = began + seconds * 1_000_000_000L;
      int rounds = 0;
      while (System.nanoTime() < until) {
        Instant at = START.plus(EVERY.multipliedBy(++rounds));
        for (int i = 0; i < INSTANCES; i++) {
          table.add(i * SERIES, at.plusMillis(mixes[i].jitter()), mixes[i].next());
        }
        table.copy();
      }
      return (double) INSTANCES * SERIES * rounds / ((System.nanoTime() - began) / 1e9);
    } finally {
      cluster.run("postgres", "drop database " + database + " with (force)");
    }
  }

  /** A week of one instance in both: what it takes and how fast it is read. */
  private void atRest() throws Exception {
    String own = cluster.newDatabase();
    String rows = cluster.newDatabase();
    long readings = Duration.ofDays(DAYS).dividedBy(EVERY);
    try (Store store = open(own);
        RowTable table = new RowTable(cluster, rows, false)) {
      int instance = store.instances().add(instance("instance"));
      SeriesMix mix = new SeriesMix(7, SERIES);
      List<KeptReading> batch = new ArrayList<>();
      for (int r = 0; r < readings; r++) {
        Instant at = START.plus(EVERY.multipliedBy(r)).plusMillis(mix.jitter());
        double[] values = mix.next();
        table.add(0, at, values);
        batch.add(kept(instance, r + 1, at, values));
        if (batch.size() == TOGETHER || r + 1 == readings) {
          store.readings().write(batch);
          batch.clear();
          table.copy();
        }
      }
      Instant end = START.plus(Duration.ofDays(DAYS));
      long before = bytes(own, "reading");
      long began = System.nanoTime();
      store.readings().sealer().run(end.plus(Duration.ofHours(3)));
      double sealing = (System.nanoTime() - began) / 1e9;
      for (String name : List.of("span", "chunk", "step")) {
        cluster.run(own, "vacuum analyze " + name);
      }
      table.vacuum();
      double values = (double) readings * SERIES;
      double sealed = bytes(own, "span") + bytes(own, "chunk");
      System.out.printf(
          "at rest, %,.0f values: rows %.2f B each, sealed %.3f B (times %.3f B of it), steps %.3f B"
              + " (of a minute %.3f B), row per value %.1f B; ratio without steps %.0f, with them"
              + " %.0f; sealed and stepped at %,.0f values/s%n",
          values,
          before / values,
          sealed / values,
          bytes(own, "span") / values,
          bytes(own, "step") / values,
          bytes(own, "step_1") / values,
          table.bytes() / values,
          table.bytes() / sealed,
          table.bytes() / (sealed + bytes(own, "step")),
          values / sealing);
      int[] ids = store.readings().numbers(instance, keys, START);
      compare(
          "a week of one series at 300 points",
          () -> points(store, new int[] {ids[23]}, 15, START, end),
          () -> table.points(new Integer[] {23}, START, end, POINTS));
      Instant day = end.minus(Duration.ofDays(2));
      Integer[] many = IntStream.range(0, DAY_SERIES).boxed().toArray(Integer[]::new);
      int[] manyIds = Arrays.copyOf(ids, DAY_SERIES);
      compare(
          "a day of 50 series at 300 points",
          () -> points(store, manyIds, 1, day, day.plus(Duration.ofDays(1)).minusMillis(1)),
          () -> table.points(many, day, day.plus(Duration.ofDays(1)), POINTS));
      compare(
          "an hour of one series as it was read",
          () -> read(store, instance, ids[23], day.plus(Duration.ofHours(3))),
          () ->
              table.points(
                  new Integer[] {23},
                  day.plus(Duration.ofHours(3)),
                  day.plus(Duration.ofHours(4)),
                  3_600));
    }
  }

  /** A year of one instance that is read once a minute. */
  private void year() throws Exception {
    String own = cluster.newDatabase();
    Instant from = START.minus(Duration.ofDays(YEAR));
    long readings = Duration.ofDays(YEAR).toMinutes();
    try (Store store = open(own)) {
      int instance = store.instances().add(instance("instance"));
      SeriesMix mix = new SeriesMix(3, YEAR_SERIES);
      List<SeriesKey> some = keys.subList(0, YEAR_SERIES);
      List<KeptReading> batch = new ArrayList<>();
      for (int r = 0; r < readings; r++) {
        Instant at = from.plus(Duration.ofMinutes(r)).plusMillis(mix.jitter());
        Reading reading = new Reading(at, 60_000, some, mix.next(), new WhyNothing[YEAR_SERIES]);
        LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
        batch.add(
            new KeptReading(
                instance, 1, 60, r + 1, at, new Increases.Step(reading, last), Judged.NOTHING));
        if (batch.size() == TOGETHER || r + 1 == readings) {
          store.readings().write(batch);
          batch.clear();
        }
      }
      store.readings().sealer().run(START.plus(Duration.ofHours(3)));
      cluster.run(own, "vacuum analyze step");
      cluster.run(own, "vacuum analyze step_month");
      int[] ids = store.readings().numbers(instance, some, from);
      double[] took = new double[TIMES];
      for (int time = -TIMES; time < TIMES; time++) {
        long began = System.nanoTime();
        points(store, ids, 360, from, START.minusMillis(1));
        took[Math.max(0, time)] = (System.nanoTime() - began) / 1e6;
      }
      System.out.printf(
          "a year of %d series at %d points: %.0f ms (median of %d); the year's steps take %.1f MB,"
              + " its chunks %.1f MB%n",
          YEAR_SERIES,
          POINTS,
          median(took),
          TIMES,
          (bytes(own, "step") + bytes(own, "step_month")) / 1e6,
          (bytes(own, "chunk") + bytes(own, "span")) / 1e6);
    }
  }

  /** Of whole days, as the server does. */
  private static int points(Store store, int[] series, int minutes, Instant from, Instant to) {
    int found = 0;
    for (List<Steps> days : store.readings().steps(series, minutes, from, to).values()) {
      Points points =
          Charting.points(
              LEVEL,
              Shape.LEVEL,
              new Stepped(List.of(days), List.of()),
              from.toEpochMilli(),
              to.toEpochMilli(),
              POINTS);
      found += points.at().length;
    }
    return found;
  }

  private static int read(Store store, int instance, int series, Instant from) {
    Instant to = from.plus(Duration.ofHours(1));
    return Charting.points(
            LEVEL,
            Shape.LEVEL,
            store.readings().samples(instance, new int[] {series}, from, to),
            from.toEpochMilli(),
            to.toEpochMilli(),
            3_600)
        .at()
        .length;
  }

  private static void compare(String what, Callable<Integer> own, Callable<Integer> other)
      throws Exception {
    double[] ours = new double[TIMES];
    double[] theirs = new double[TIMES];
    // by turns; what is counted first is there for the compiler and for what is kept in memory
    for (int time = -TIMES; time < TIMES; time++) {
      int i = Math.max(0, time);
      long began = System.nanoTime();
      own.call();
      long between = System.nanoTime();
      other.call();
      ours[i] = (between - began) / 1e6;
      theirs[i] = (System.nanoTime() - between) / 1e6;
    }
    System.out.printf(
        "%s: own %.2f ms, row per value %.2f ms (medians of %d); ratio %.1f%n",
        what, median(ours), median(theirs), TIMES, median(theirs) / median(ours));
  }

  private static double median(double[] values) {
    double[] sorted = values.clone();
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  private KeptReading kept(int instance, int seq, Instant at, double[] values) {
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
    for (int s = 0; s < SERIES; s += 2) {
      totals.put(keys.get(s), new LastTotals.Raw(seq * 1_000L + s, 0));
    }
    Reading reading = new Reading(at, EVERY.toMillis(), keys, values, new WhyNothing[SERIES]);
    LastTotals last =
        new LastTotals(at, 0, 0, 0, Set.of("counter.0", "counter.1"), totals, Set.of());
    return new KeptReading(
        instance,
        1,
        (int) EVERY.toSeconds(),
        seq,
        at.plusMillis(3 + seq % 5),
        new Increases.Step(reading, last),
        Judged.NOTHING);
  }

  private static Duration unsealed(Connection looking, Instant now) throws SQLException {
    try (Statement statement = looking.createStatement();
        ResultSet row =
            statement.executeQuery(
                "select min(extract(epoch from until_at))::bigint from sealed")) {
      row.next();
      long until = row.getLong(1);
      return row.wasNull() ? Duration.ZERO : Duration.ofSeconds(now.getEpochSecond() - until);
    }
  }

  /** With its partitions, their indexes and what is stored apart. */
  private long bytes(String database, String table) {
    return cluster.number(
        database,
        "select sum(pg_total_relation_size(relid)) from pg_partition_tree('" + table + "')");
  }

  static InstanceRow instance(String name) {
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
