package jamjar.standins.history;

import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.reading.SeriesKey;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementKey;
import jamjar.store.Store;
import jamjar.store.readings.StoredReading;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * How an engine was in its first minute under watch: its history joins that.
 *
 * @param at the middle of that minute
 * @param series per series its pace; of a total the mean increase a second, of a level its mean
 * @param statements what each statement did
 */
public record Calibration(
    Instant at, Map<SeriesKey, Usual> series, Map<StatementKey, Ran> statements) {
  /** So many readings, of ten seconds each. */
  private static final int READINGS = 7;

  /** What is read seldom may be read so long before the first fast reading. */
  private static final long SELDOM_S = 60;

  /** So long it was counted what statements did. */
  private static final long LEAST_MS = 25_000;

  private static final SeriesKey CALLS = SeriesKey.of("statements.calls");

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * One series.
   *
   * @param total whether it is a total
   * @param mean of its increase a second, or its level
   */
  public record Usual(Pace pace, boolean total, double mean) {}

  /**
   * One statement.
   *
   * @param calls a second; all else of each call
   */
  public record Ran(
      double calls, double timeUs, double rows, double hit, double read, double temporary) {}

  private record RanLine(StatementKey key, Ran ran) {}

  /** As it is kept, so that the same history can be made again. */
  private record Line(
      String counter, Map<String, String> labels, Pace pace, boolean total, double mean) {}

  private record Kept(long at, List<Line> series, List<RanLine> statements) {}

  /** Of what was stored of it since it came under watch; empty while that is too little. */
  public static Optional<Calibration> of(Store store, int instance, Recipe recipe, Instant since) {
    List<StoredReading> all =
        store
            .readings()
            .readings(instance, since.minusSeconds(SELDOM_S), since.plusSeconds(20L * READINGS))
            .stream()
            .sorted(Comparator.comparing(StoredReading::at))
            .toList();
    List<StoredReading> fast =
        all.stream().filter(reading -> reading.source() == Pace.FAST.code()).toList();
    if (fast.size() < READINGS) {
      return Optional.empty();
    }
    Map<Integer, SeriesKey> keys = store.readings().series(instance);
    Map<SeriesKey, double[]> sums = new HashMap<>();
    Map<SeriesKey, Pace> paces = new HashMap<>();
    for (StoredReading reading : all) {
      for (int i = 0; i < reading.values().length; i++) {
        SeriesKey key = keys.get(reading.series()[i]);
        double value = reading.values()[i];
        if (key != null && recipe.counters().containsKey(key.counter()) && !Double.isNaN(value)) {
          boolean total = isTotal(recipe, key);
          double[] sum = sums.computeIfAbsent(key, k -> new double[2]);
          sum[0] += value;
          sum[1] += total ? reading.elapsedMillis() / 1000.0 : 1;
          paces.put(key, Pace.of(reading.source()));
        }
      }
    }
    Map<SeriesKey, Usual> usual = new HashMap<>();
    sums.forEach(
        (key, sum) -> {
          if (sum[1] > 0) {
            usual.put(key, new Usual(paces.get(key), isTotal(recipe, key), sum[0] / sum[1]));
          }
        });
    Map<StatementKey, Ran> statements =
        statements(store, instance, since, since.plusSeconds(20L * READINGS));
    if (usual.containsKey(CALLS) && statements.isEmpty()) {
      return Optional.empty();
    }
    long first = fast.get(0).at().toEpochMilli();
    long last = fast.get(fast.size() - 1).at().toEpochMilli();
    return Optional.of(
        new Calibration(Instant.ofEpochMilli((first + last) / 2), usual, statements));
  }

  private static Map<StatementKey, Ran> statements(
      Store store, int instance, Instant from, Instant to) {
    Counted.Sum sum = new Counted.Sum();
    store.statements().between(instance, from, to, sum::add);
    Counted all = sum.until(to);
    Map<StatementKey, Ran> statements = new TreeMap<>();
    if (all.elapsedMs() >= LEAST_MS) {
      all.statements()
          .forEach(
              (key, counts) -> {
                double n = counts.calls();
                if (n > 1 && key.fingerprint() != 0) {
                  statements.put(
                      key,
                      new Ran(
                          n * 1000 / all.elapsedMs(),
                          counts.timeUs() / n,
                          counts.rows() / n,
                          counts.hit() / n,
                          counts.read() / n,
                          counts.temporary() / n));
                }
              });
    }
    return statements;
  }

  /** What share of the time of all statements one has; 0 where nothing is known of them. */
  double share(long fingerprint) {
    double all = statements.values().stream().mapToDouble(r -> r.calls() * r.timeUs()).sum();
    return statements.entrySet().stream()
        .filter(e -> e.getKey().fingerprint() == fingerprint)
        .mapToDouble(e -> e.getValue().calls() * e.getValue().timeUs() / all)
        .sum();
  }

  private static boolean isTotal(Recipe recipe, SeriesKey key) {
    return recipe.counters().get(key.counter()).shape() == Shape.TOTAL;
  }

  public static Calibration read(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return read(in);
    }
  }

  /** One that was kept. */
  public static Calibration read(InputStream in) {
    Kept kept = JSON.readValue(in, new TypeReference<Kept>() {});
    Map<SeriesKey, Usual> series = new HashMap<>();
    kept.series()
        .forEach(
            line ->
                series.put(
                    new SeriesKey(line.counter(), line.labels()),
                    new Usual(line.pace(), line.total(), line.mean())));
    Map<StatementKey, Ran> statements = new TreeMap<>();
    if (kept.statements() != null) {
      kept.statements().forEach(line -> statements.put(line.key(), line.ran()));
    }
    return new Calibration(Instant.ofEpochMilli(kept.at()), series, statements);
  }

  public void write(Path file) throws IOException {
    List<Line> lines = new ArrayList<>();
    new TreeMap<>(series)
        .forEach(
            (key, usual) ->
                lines.add(
                    new Line(
                        key.counter(), key.labels(), usual.pace(), usual.total(), usual.mean())));
    List<RanLine> ran = new ArrayList<>();
    statements.forEach((key, one) -> ran.add(new RanLine(key, one)));
    Files.writeString(file, JSON.writeValueAsString(new Kept(at.toEpochMilli(), lines, ran)));
  }
}
