package jamjar.bench;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.normals.Learned;
import jamjar.store.readings.Import;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import tools.jackson.databind.JsonNode;

/**
 * Two hundred instances with six weeks behind them, at one minute and the last day at ten seconds,
 * brought in by the path for old data; then a server of 700 MB that knows what is normal reads them
 * on, draws and ranks what persons ask for: what it keeps, and how long that takes. What moved in
 * an hour, of all there is. And a counter of 200 labels ranked over all six weeks.
 */
final class HistoryBench {
  private static final int INSTANCES = 200;
  private static final int DAYS = 42;
  private static final int HEAP_MB = 700;
  private static final int TARGETS_HEAP_MB = 1500;

  /** With so many more steps an application server has about 150 series. */
  private static final int MORE_STEPS = 6;

  /** So many steps has the one that is ranked. */
  private static final int LABELS = 200;

  private static final String OF_LABELS = "component.calls";
  private static final int WEEKS_MINUTES = 35 * 1440;
  private static final int HANDS = 4;
  private static final int CHARTS = 6;
  private static final int POINTS = 300;
  private static final int LOOKS = 6;
  private static final int RANKED = 15;
  private static final int LOOKS_WHILE_RANKED = 60;
  private static final long BETWEEN_LOOKS_MS = 20_000;
  private static final Duration DAY = Duration.ofDays(1);

  private final TemporaryCluster cluster = TemporaryCluster.start(Map.of("max_wal_size", "4GB"));
  private final String database = cluster.newDatabase();
  private final int instances;
  private final int days;
  private final ServerProcess server;
  private final Rest rest;
  private final List<Watched> watched = new ArrayList<>();
  private final Map<Integer, Baseline> baselines = new HashMap<>();

  /** An instance with its series by what they are of. */
  private record Watched(int id, List<SeriesKey> series, int[] numbers, Set<SeriesKey> totals) {}

  private HistoryBench(int instances, int days) throws IOException {
    this.instances = instances;
    this.days = days;
    Path jar =
        Path.of(System.getProperty("jamjar.home", "."), "server/target/server-0.1.0-exec.jar");
    server = new ServerProcess(jar, cluster, database, HEAP_MB);
    rest = new Rest(server);
  }

  /**
   * @param options how many instances, and days
   */
  static void run(String[] options) throws Exception {
    int instances = Bench.minutes(options, INSTANCES);
    int days = options.length > 1 ? Integer.parseInt(options[1]) : DAYS;
    new HistoryBench(instances, days).all();
  }

  private void all() throws Exception {
    Path folder = Files.createTempDirectory("jamjar-history");
    Path other = Files.createTempDirectory("jamjar-labels");
    try (Targets targets = Targets.start(folder, TARGETS_HEAP_MB, instances, 0, MORE_STEPS);
        Targets labelled = Targets.start(other, 400, 1, 0, LABELS - 1);
        server) {
      server.start();
      add(targets, labelled);
      server.kill();
      bringIn();
      server.start();
      ask();
    }
  }

  private void add(Targets targets, Targets labelled) throws Exception {
    ExecutorService hands = Executors.newFixedThreadPool(8);
    List<Future<Integer>> added = new ArrayList<>();
    for (int i = 0; i <= instances; i++) {
      int port = i < instances ? targets.ports().get(i) : labelled.ports().get(0);
      Map<String, Object> body = Targets.instance(i, true, port, 10).body();
      added.add(hands.submit(() -> rest.post("/api/instances", body).get("id").asInt()));
    }
    hands.shutdown();
    List<Integer> ids = new ArrayList<>();
    for (Future<Integer> id : added) {
      ids.add(id.get());
    }
    Bench.await(
        "all of their series are there",
        () -> {
          watched.clear();
          for (int id : ids) {
            Watched one = watched(id);
            if (one.numbers().length < 100) {
              return false;
            }
            watched.add(one);
          }
          return true;
        });
    // two readings later what comes only then is there as well
    Thread.sleep(25_000);
    watched.clear();
    for (int id : ids) {
      watched.add(watched(id));
    }
    System.out.printf(
        "%d instances with %d series, %.0f each; and one with %d%n",
        instances,
        series(),
        (double) series() / instances,
        watched.get(instances).numbers().length);
  }

  private int series() {
    return watched.stream().limit(instances).mapToInt(one -> one.numbers().length).sum();
  }

  private Watched watched(int id) throws Exception {
    List<SeriesKey> keys = new ArrayList<>();
    List<Integer> numbers = new ArrayList<>();
    Set<SeriesKey> totals = new HashSet<>();
    for (JsonNode one : rest.get("/api/instances/" + id + "/series")) {
      String shape = one.get("shape").asString();
      if (!shape.equals("quotient")) {
        Map<String, String> labels = new HashMap<>();
        one.get("labels")
            .properties()
            .forEach(l -> labels.put(l.getKey(), l.getValue().asString()));
        SeriesKey key = new SeriesKey(one.get("counter").asString(), labels);
        keys.add(key);
        numbers.add(one.get("id").asInt());
        if (shape.equals("total")) {
          totals.add(key);
        }
      }
    }
    return new Watched(id, keys, numbers.stream().mapToInt(i -> i).toArray(), totals);
  }

  private void bringIn() throws Exception {
    long began = System.nanoTime();
    long values = 0;
    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      ExecutorService hands = Executors.newFixedThreadPool(2);
      List<Future<Long>> work = new ArrayList<>();
      for (Watched one : watched) {
        work.add(hands.submit(() -> bringIn(store, one)));
        learned(store, one);
      }
      for (Future<Long> one : work) {
        values += one.get();
      }
      hands.shutdown();
    }
    double took = (System.nanoTime() - began) / 1e9;
    cluster.run(database, "vacuum analyze");
    System.out.printf(
        "%d days of them at a minute, the last at 10 s: %,d values brought in in %.0f s (%,.0f/s);"
            + " %.2f GB with steps and indexes%n",
        days,
        values,
        took,
        values / took,
        cluster.number(database, "select pg_database_size(current_database())") / 1e9);
  }

  /** As if it had been learned last night: of each kind of values one is learned for all. */
  private void learned(Store store, Watched one) {
    String zone = store.instances().byId(one.id()).orElseThrow().zone();
    store
        .normals()
        .keep(
            new Learned(one.id(), Instant.now(), zone, WEEKS_MINUTES),
            to -> {
              for (int s = 0; s < one.numbers().length; s++) {
                to.accept(baselines.computeIfAbsent(s % 50, this::learn), one.numbers()[s]);
              }
            });
  }

  private Baseline learn(int kind) {
    SeriesMix mix = new SeriesMix(kind, 50);
    double[] values = new double[WEEKS_MINUTES];
    for (int i = 0; i < values.length; i++) {
      values[i] = mix.next()[kind];
    }
    Timeline timeline = new Timeline(0, values.length, ZoneOffset.UTC, Set.of(), List.of());
    return Baseline.learn(timeline, values, 1);
  }

  private long bringIn(Store store, Watched one) {
    Import old = store.readings().old();
    Instant since = old.until(one.id(), Pace.FAST.code()).orElseThrow();
    Instant fine = since.minus(DAY);
    SeriesMix mix = new SeriesMix(one.id(), one.numbers().length);
    long readings = 0;
    for (int back = 0; back <= days; back++) {
      Instant day = since.truncatedTo(ChronoUnit.DAYS).minus(back, ChronoUnit.DAYS);
      Instant end = back == 0 ? since : day.plus(DAY);
      List<LaidOut> all = new ArrayList<>();
      for (Instant at = day; at.isBefore(end); ) {
        int every = at.isBefore(fine) ? 60 : 10;
        all.add(store.readings().lay(kept(one, at.plusMillis(mix.jitter()), every, mix.next())));
        at = at.plusSeconds(every);
      }
      readings += all.size();
      old.addDay(day, back == 0 ? Optional.of(since) : Optional.empty(), all);
    }
    return readings * one.numbers().length;
  }

  private static KeptReading kept(Watched one, Instant at, int every, double[] values) {
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
    one.totals().forEach(key -> totals.put(key, new LastTotals.Raw(1, 0)));
    Reading reading =
        new Reading(at, 1_000L * every, one.series(), values, new WhyNothing[values.length]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), totals, Set.of());
    return new KeptReading(
        one.id(),
        Pace.FAST.code(),
        every,
        0,
        at,
        new Increases.Step(reading, last),
        Judged.NOTHING);
  }

  private void ask() throws Exception {
    AtomicBoolean ended = new AtomicBoolean();
    Map<String, ConcurrentLinkedQueue<Double>> took = new HashMap<>();
    for (String what : List.of("3 h", "1 d", "7 d", "42 d", "ranking")) {
      took.put(what, new ConcurrentLinkedQueue<>());
    }
    ExecutorService hands = Executors.newFixedThreadPool(HANDS);
    List<Future<?>> asking = new ArrayList<>();
    for (int hand = 0; hand < HANDS; hand++) {
      SplittableRandom random = new SplittableRandom(hand);
      asking.add(
          hands.submit(
              () -> {
                while (!ended.get()) {
                  ask(random, took);
                }
                return null;
              }));
    }
    double most = 0;
    for (int look = 0; look < LOOKS; look++) {
      Thread.sleep(BETWEEN_LOOKS_MS);
      most = Math.max(most, Os.keptMegabytes(server.process()));
    }
    ended.set(true);
    for (Future<?> one : asking) {
      one.get();
    }
    hands.shutdown();
    moved();
    took.forEach((what, all) -> print(what, all));
    System.out.printf(
        "while these are asked for and %d are read on: %.0f MB kept after a forced collection, the"
            + " most of %d looks; baselines take %.0f MB of the store%n",
        instances,
        most,
        LOOKS,
        cluster.number(database, "select pg_total_relation_size('baseline')") / 1e6);
    rank();
  }

  private void ask(SplittableRandom random, Map<String, ConcurrentLinkedQueue<Double>> took)
      throws Exception {
    Watched one = watched.get(random.nextInt(instances));
    long now = System.currentTimeMillis();
    int kind = random.nextInt(10);
    long began = System.nanoTime();
    String what = kind == 9 ? "ranking" : new String[] {"3 h", "1 d", "7 d", "42 d"}[kind % 4];
    if (kind == 9) {
      ranked(one.id(), now);
    } else {
      long window = new long[] {3, 24, 168, 24L * DAYS}[kind % 4] * 3_600_000;
      List<Integer> series = new ArrayList<>();
      for (int i = 0; i < CHARTS; i++) {
        series.add(one.numbers()[random.nextInt(one.numbers().length)]);
      }
      rest.post(
          "/api/points",
          Map.of(
              "series",
              series,
              "from",
              now - window,
              "to",
              now,
              "maxPoints",
              POINTS,
              "normal",
              true));
    }
    took.get(what).add((System.nanoTime() - began) / 1e6);
  }

  /** What moved in an hour of the day before, of all there is, each time in another one. */
  private void moved() throws Exception {
    long hour = Duration.ofHours(1).toMillis();
    long end = System.currentTimeMillis() - 2 * hour;
    double[] took = new double[RANKED];
    JsonNode told = null;
    for (int i = -5; i < RANKED; i++) {
      long to = end - (i + 5) * hour;
      long began = System.nanoTime();
      told = rest.get("/api/moved?from=" + (to - hour) + "&to=" + to);
      took[Math.max(0, i)] = (System.nanoTime() - began) / 1e6;
    }
    Arrays.sort(took);
    System.out.printf(
        "what moved in an hour, %d series looked at, %d had: %.0f ms (median of %d, at most %.0f)%n",
        told.get("looked").asInt(),
        told.get("moved").asInt(),
        took[RANKED / 2],
        RANKED,
        took[RANKED - 1]);
  }

  private JsonNode ranked(int id, long now) throws Exception {
    return rest.get(
        "/api/instances/"
            + id
            + "/ranking?counter="
            + OF_LABELS
            + "&from="
            + (now - DAY.multipliedBy(DAYS).toMillis())
            + "&to="
            + now);
  }

  /**
   * With nothing else under way: what it takes of the heap is what is kept more by a collection
   * while it is under way, the most of many.
   */
  private void rank() throws Exception {
    int id = watched.get(instances).id();
    for (Watched one : watched) {
      rest.post("/api/instances/" + one.id() + "/pause", Map.of());
    }
    Thread.sleep(5_000);
    double[] took = new double[RANKED];
    int rows = 0;
    for (int i = -5; i < RANKED; i++) {
      long began = System.nanoTime();
      rows = ranked(id, System.currentTimeMillis()).get("rows").size();
      took[Math.max(0, i)] = (System.nanoTime() - began) / 1e6;
    }
    Arrays.sort(took);
    double before = Os.keptMegabytes(server.process());
    AtomicBoolean ended = new AtomicBoolean();
    ExecutorService hand = Executors.newSingleThreadExecutor();
    Future<?> ranking =
        hand.submit(
            () -> {
              while (!ended.get()) {
                ranked(id, System.currentTimeMillis());
              }
              return null;
            });
    double most = 0;
    for (int look = 0; look < LOOKS_WHILE_RANKED; look++) {
      most = Math.max(most, Os.keptMegabytes(server.process()));
    }
    ended.set(true);
    ranking.get();
    hand.shutdown();
    System.out.printf(
        "%d labels ranked over %d days: %.0f ms (median of %d, at most %.0f); meanwhile %.0f MB of"
            + " the heap are kept for it (the most of %d collections)%n",
        rows, days, took[RANKED / 2], RANKED, took[RANKED - 1], most - before, LOOKS_WHILE_RANKED);
  }

  private static void print(String what, ConcurrentLinkedQueue<Double> all) {
    double[] sorted = all.stream().mapToDouble(d -> d).sorted().toArray();
    if (sorted.length > 0) {
      System.out.printf(
          "%s%s: %d times, p50 %.0f ms, p99 %.0f ms%n",
          what,
          what.equals("ranking") ? "" : " of " + CHARTS + " series",
          sorted.length,
          sorted[sorted.length / 2],
          sorted[Math.min(sorted.length - 1, (int) (0.99 * sorted.length))]);
    }
  }
}
