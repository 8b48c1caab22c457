package jamjar.bench;

import jamjar.bench.Skerries.One;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Timeline;
import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.Shape;
import jamjar.core.limit.Condition;
import jamjar.core.limit.InForce;
import jamjar.core.limit.PastJudgings;
import jamjar.core.limit.Rule;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.core.value.Value;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** All of one instance of the demo that a limit holds, on one grid of time. */
final class SignalGrid {
  static final int WEEKS = 6;
  private static final int WEEK_MINUTES = 7 * 1440;
  private static final int LEARNED_DAYS = 35;
  private static final long FROM = Skerries.FROM.toEpochMilli();

  /** What of a reading is later than the edge before it, ms. */
  private static final long LATE = 5;

  private final Ticks ticks;
  final Map<SeriesKey, Column> lines = new ConcurrentHashMap<>();
  final Boolean[] read;

  private SignalGrid(Ticks ticks) {
    this.ticks = ticks;
    this.read = new Boolean[Skerries.DAYS * 86_400 / ticks.everyS()];
    Arrays.fill(read, false);
  }

  /**
   * When it is read.
   *
   * @param everyS seconds between two readings
   */
  record Ticks(int everyS) {
    int place(long at) {
      return (int) Math.floorDiv(at - FROM, 1000L * everyS);
    }

    long at(int place) {
      return FROM + place * 1000L * everyS;
    }
  }

  /**
   * Reads one.
   *
   * @param wanted which days, from 0
   */
  static SignalGrid read(One one, Ticks ticks, IntPredicate wanted) {
    SignalGrid grid = new SignalGrid(ticks);
    int everyS = ticks.everyS();
    List<Rule> rules = RecipeFile.shipped(recipeOf(one)).limits();
    Schedule schedule = new Schedule(one.recipe(), everyS);
    IntStream.range(0, Skerries.DAYS)
        .filter(wanted)
        .parallel()
        .forEach(
            day -> {
              Instant begin = Skerries.FROM.plus(Duration.ofDays(day));
              Instant end = begin.plus(Duration.ofDays(1));
              Map<Integer, Seen> seen = new HashMap<>();
              one.past()
                  .read(
                      begin,
                      end,
                      at -> everyS,
                      (pace, every, step) -> {
                        Reading reading = step.reading();
                        long at = reading.at().toEpochMilli();
                        if (at >= begin.toEpochMilli() && at < end.toEpochMilli()) {
                          grid.take(
                              one,
                              rules,
                              schedule,
                              seen.computeIfAbsent(every, e -> new Seen()),
                              every,
                              reading,
                              at);
                        }
                      });
            });
    return grid;
  }

  private static String recipeOf(One one) {
    return Skerry.servers().stream()
        .filter(profile -> profile.name().equals(one.name()))
        .map(Profile::recipe)
        .findFirst()
        .orElse("postgresql");
  }

  private void take(
      One one,
      List<Rule> rules,
      Schedule schedule,
      Seen seen,
      int every,
      Reading reading,
      long at) {
    int place = ticks.place(at);
    int everyS = ticks.everyS();
    if (every == everyS) {
      read[place] = true;
    }
    List<Shown> all = Shown.of(reading, one.recipe(), 1000L * every);
    if (!seen.series.equals(reading.series())) {
      seen.series = reading.series();
      seen.columns =
          all.stream()
              .map(shown -> column(one, rules, schedule, every, shown.series(), all))
              .toArray(Column[]::new);
    }
    for (int c = 0; c < seen.columns.length; c++) {
      Column column = seen.columns[c];
      if (column != null) {
        Shown shown = all.get(c);
        int i = place / (every / everyS);
        column.above[i] = shown.above();
        column.below[i] = shown.below();
        if (Double.isNaN(shown.value())) {
          column.below[i] = Double.NaN;
        }
      }
    }
  }

  /** Null where no limit is in force on it, and it is not looked at otherwise. */
  private Column column(
      One one, List<Rule> rules, Schedule schedule, int every, SeriesKey key, List<Shown> all) {
    return lines.computeIfAbsent(
        key,
        k -> {
          CounterDefinition counter = one.recipe().counters().get(k.counter());
          boolean whole = all.stream().anyMatch(s -> s.series().equals(SeriesKey.of(k.counter())));
          List<InForce> inForce =
              InForce.of(
                  rules,
                  new InForce.Place(1, "", one.recipe().kind(), Story.ZONE),
                  k,
                  counter,
                  whole,
                  schedule.millis(counter));
          if (inForce.isEmpty() && !k.counter().startsWith("size.database")) {
            return null;
          }
          return new Column(one.recipe(), k, counter, every, inForce);
        });
  }

  /** Of each day the least or the greatest of its minutes. */
  double[] days(String counter, java.util.function.DoubleBinaryOperator of) {
    return lines.values().stream()
        .filter(line -> line.key.counter().equals(counter))
        .max(Comparator.comparingDouble(line -> line.above[line.above.length - 1]))
        .map(line -> line.days(of))
        .orElseThrow();
  }

  /** The series of the reading before, each with its column: mostly the same again. */
  private static final class Seen {
    private List<SeriesKey> series = List.of();
    private Column[] columns = {};
  }

  /** One series over all of the time. */
  static final class Column {
    private final Recipe recipe;
    final SeriesKey key;
    private final CounterDefinition counter;
    private final int every;
    final List<InForce> inForce;
    private final double[] above;
    private final double[] below;

    Column(
        Recipe recipe, SeriesKey key, CounterDefinition counter, int every, List<InForce> inForce) {
      this.recipe = recipe;
      this.key = key;
      this.counter = counter;
      this.every = every;
      this.inForce = inForce;
      int size = Skerries.DAYS * 86_400 / every;
      this.above = new double[size];
      this.below = new double[size];
      Arrays.fill(above, Double.NaN);
      Arrays.fill(below, Double.NaN);
    }

    PastJudgings judgings(InForce of) {
      int n = above.length;
      long[] at = new long[n];
      long[] elapsed = new long[n];
      for (int i = 0; i < n; i++) {
        at[i] = FROM + i * 1000L * every + LATE;
        elapsed[i] = Double.isNaN(below[i]) ? 0 : 1000L * every;
      }
      long[] interval = new long[n];
      Arrays.fill(interval, 1000L * every);
      boolean quotient = counter.shape() == Shape.QUOTIENT;
      Shape part = quotient ? recipe.counters().get(counter.numerator()).shape() : counter.shape();
      PastJudgings past =
          PastJudgings.of(
              counter,
              part,
              new Samples(at, elapsed, interval, above, quotient ? List.of(below) : List.of()),
              of.limit().stepMillis());
      return of.limit().condition() == Condition.OUTSIDE ? against(past) : past;
    }

    private PastJudgings against(PastJudgings past) {
      double[] minutes = minutes();
      Baseline[] weeks = new Baseline[WEEKS];
      for (int week = 0; week < WEEKS; week++) {
        weeks[week] = learned(minutes, week * 7);
      }
      return past.against(
          counter,
          at -> {
            int week = (int) Math.min(WEEKS - 1, (at - 1 - FROM) / 60_000 / WEEK_MINUTES);
            return weeks[week].at(Timeline.slotOf(at - 1, Story.ZONE, Set.of()));
          });
    }

    private Baseline learned(double[] minutes, int days) {
      int first = Math.max(0, days - LEARNED_DAYS);
      return days == 0
          ? Baseline.NONE
          : Baseline.learn(
              new Timeline(
                  FROM + first * 1440L * Timeline.MINUTE,
                  (days - first) * 1440,
                  Story.ZONE,
                  Set.of(),
                  List.of()),
              Arrays.copyOfRange(minutes, first * 1440, days * 1440),
              counter);
    }

    /** As shown, of each minute. */
    private double[] minutes() {
      double[] minutes = new double[Skerries.MINUTES];
      int per = Math.max(1, 60 / every);
      for (int minute = 0; minute < minutes.length; minute++) {
        double a = 0;
        double b = 0;
        int n = 0;
        int from = every >= 60 ? minute * 60 / every : minute * per;
        for (int i = from; i < from + per; i++) {
          if (!Double.isNaN(above[i]) && !Double.isNaN(below[i])) {
            a += above[i];
            b += below[i];
            n++;
          }
        }
        minutes[minute] = n == 0 ? Double.NaN : Value.shown(counter, a, b);
      }
      return minutes;
    }

    double[] days(java.util.function.DoubleBinaryOperator of) {
      double[] minutes = minutes();
      double[] days = new double[Skerries.DAYS];
      Arrays.fill(days, Double.NaN);
      for (int i = 0; i < minutes.length; i++) {
        if (!Double.isNaN(minutes[i])) {
          int day = i / 1440;
          days[day] =
              Double.isNaN(days[day]) ? minutes[i] : of.applyAsDouble(days[day], minutes[i]);
        }
      }
      return days;
    }
  }
}
