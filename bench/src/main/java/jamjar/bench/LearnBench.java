package jamjar.bench;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.chunk.BaselineChunk;
import jamjar.core.chunk.ValueWriter;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;

/**
 * What learning costs: five weeks of one series by the minute, on one core, beside the same
 * weighted quantiles by the database, which are compared value by value.
 */
final class LearnBench {
  private static final int MINUTES = 35 * 1440;
  private static final int TIMES = 60;
  private static final int WARM = 300;
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final double[] WANTED = {0.05, 0.25, 0.5, 0.75, 0.95};

  /** Its own steps at weight 1, those of the two slots beside at a half. */
  private static final String QUANTILES =
      """
      with w as (
        select s.slot, m.v, case when m.slot = s.slot then 1.0::float8 else 0.5 end as w
        from generate_series(0, 671) s (slot)
          join m on m.slot in (s.slot, (s.slot + 671) % 672, (s.slot + 1) % 672)
      ), c as (
        select slot, v,
          (sum(w) over (partition by slot order by v, w desc rows unbounded preceding) - w / 2)
            / sum(w) over (partition by slot) as place,
          row_number() over (partition by slot order by v, w desc) as n
        from w
      ), p as (
        select slot, v, place, lead(v) over o as v2, lead(place) over o as place2
        from c window o as (partition by slot order by n)
      )
      select slot, q, v + (v2 - v) * (q - place) / (place2 - place)
      from p, unnest(array[0.05, 0.25, 0.5, 0.75, 0.95]::float8[]) q
      where place < q and place2 >= q
      order by slot, q
      """;

  private LearnBench() {}

  static void run(String[] options) throws Exception {
    long start = LocalDateTime.parse("2026-10-05T00:00").atZone(OSLO).toInstant().toEpochMilli();
    Timeline timeline = new Timeline(start, MINUTES, OSLO, Set.of(), List.of());
    SplittableRandom random = new SplittableRandom(1);
    double[] values = new double[MINUTES];
    for (int i = 0; i < MINUTES; i++) {
      values[i] = 100 + 40 * Math.sin(i / 229.0) + random.nextDouble() * 20;
    }
    double[] millis = new double[TIMES];
    Baseline learned = null;
    for (int i = -WARM; i < TIMES; i++) {
      long began = System.nanoTime();
      learned = Baseline.learn(timeline, values, 1);
      if (i >= 0) {
        millis[i] = (System.nanoTime() - began) / 1e6;
      }
    }
    Arrays.sort(millis);
    double ours = millis[TIMES / 2];
    byte[] kept = BaselineChunk.write(learned, new ValueWriter());
    System.out.printf(
        Locale.ROOT,
        "bench learn: %.2f ms a series of five weeks (median of %d, worst %.2f); %,d bytes kept%n",
        ours,
        TIMES,
        millis[TIMES - 1],
        kept.length);
    System.out.printf(
        Locale.ROOT,
        "bench learn: 30,000 series, without reading them: %.0f s of one core%n",
        30 * ours);
    System.out.printf(
        Locale.ROOT,
        "bench learn: the day that is over of 30,000 series, without reading them: %.0f s of one"
            + " core%n",
        30 * ofDay(timeline, values));
    // SQL leaves no bad week out
    double theirs =
        inSql(start, values, Baseline.learn(timeline, values, Double.POSITIVE_INFINITY));
    System.out.printf(
        Locale.ROOT,
        "bench learn: the same quantiles in SQL %.0f ms: %.0f times as long%n",
        theirs,
        theirs / ours);
  }

  /** One day of the week of one series, ms: the median over all of them. */
  private static double ofDay(Timeline timeline, double[] values) {
    double[] millis = new double[7 * TIMES];
    for (int i = -7 * WARM; i < millis.length; i++) {
      Timeline.Weekday day = timeline.of(Math.floorMod(i, 7));
      double[] mine = new double[day.timeline().minutes()];
      int at = 0;
      for (Timeline.Stretch stretch : day.stretches()) {
        System.arraycopy(values, stretch.first(), mine, at, stretch.count());
        at += stretch.count();
      }
      long began = System.nanoTime();
      Normal[] learned = Baseline.learnDay(day, mine, 1).orElseThrow();
      BaselineChunk.write(learned, new ValueWriter());
      if (i >= 0) {
        millis[i] = (System.nanoTime() - began) / 1e6;
      }
    }
    Arrays.sort(millis);
    return millis[millis.length / 2];
  }

  private static double inSql(long start, double[] values, Baseline learned) throws Exception {
    TemporaryCluster cluster = TemporaryCluster.start(Map.of("work_mem", "256MB"));
    String database = cluster.newDatabase();
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement()) {
      statement.execute("create table m (slot int not null, v float8 not null)");
      connection.setAutoCommit(false);
      try (PreparedStatement insert = connection.prepareStatement("insert into m values (?, ?)")) {
        for (int i = 0; i < values.length; i++) {
          ZonedDateTime local = Instant.ofEpochMilli(start + i * 60_000L).atZone(OSLO);
          insert.setInt(
              1,
              (local.getDayOfWeek().getValue() - 1) * 96
                  + local.getHour() * 4
                  + local.getMinute() / 15);
          insert.setDouble(2, values[i]);
          insert.addBatch();
        }
        insert.executeBatch();
      }
      statement.execute("create index on m (slot, v)");
      connection.commit();
      connection.setAutoCommit(true);
      statement.execute("analyze m");
      double best = Double.MAX_VALUE;
      double off = 0;
      for (int turn = 0; turn < 5; turn++) {
        long began = System.nanoTime();
        try (ResultSet rows = statement.executeQuery(QUANTILES)) {
          while (rows.next()) {
            Normal normal = learned.at(rows.getInt(1));
            off = Math.max(off, Math.abs(rows.getDouble(3) - of(normal, rows.getDouble(2))));
          }
        }
        best = Math.min(best, (System.nanoTime() - began) / 1e6);
      }
      System.out.printf(Locale.ROOT, "bench learn: greatest difference to SQL %.1e%n", off);
      return best;
    }
  }

  private static double of(Normal normal, double quantile) {
    double[] all = {normal.p05(), normal.p25(), normal.p50(), normal.p75(), normal.p95()};
    return all[Arrays.binarySearch(WANTED, quantile)];
  }
}
