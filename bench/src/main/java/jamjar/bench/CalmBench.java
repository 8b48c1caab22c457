package jamjar.bench;

import jamjar.bench.Skerries.Line;
import jamjar.bench.Skerries.One;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Moved;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.history.EngineStory;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * How well what was learned of the demo's estate fits it: what lies outside where nothing happens,
 * what an incident that nobody marked teaches, and who left its normal first in each of them.
 */
final class CalmBench {
  private static final int WEEK = 7;
  private static final int DAY = 1440;
  private static final int LEARNED_DAYS = 35;

  /** A series that takes fewer values in a week is counted in steps, and has no such quantiles. */
  private static final int CONTINUOUS = 300;

  private static final double LEAST_SHARE = 8;
  private static final double MOST_SHARE = 14;
  private static final double HALF = 0.5;

  /** An hour is looked at that begins so long before an incident. */
  private static final Duration BEFORE = Duration.ofMinutes(15);

  private static final int LOOKED_AT = 60;
  private static final int FIRST = 3;
  private static final long FROM = Skerries.FROM.toEpochMilli();

  private CalmBench() {}

  static void run(String[] options) throws Exception {
    int seed = options.length == 0 ? 1 : Integer.parseInt(options[0]);
    calm(seed);
    incidents(seed);
  }

  private static void calm(int seed) throws Exception {
    Map<String, long[]> counts = new TreeMap<>();
    int series = 0;
    for (One one : Skerries.all(Story.NONE, seed)) {
      List<Line> lines =
          Skerries.read(one).stream().filter(line -> isContinuous(line.minutes())).toList();
      series += lines.size();
      lines.parallelStream()
          .collect(Collectors.toMap(Function.identity(), CalmBench::outside))
          .forEach(
              (line, count) ->
                  counts.merge(
                      line.counter().key(),
                      count,
                      (a, b) -> new long[] {a[0] + b[0], a[1] + b[1]}));
    }
    long outside = counts.values().stream().mapToLong(count -> count[0]).sum();
    long all = counts.values().stream().mapToLong(count -> count[1]).sum();
    long within =
        counts.values().stream()
            .filter(c -> share(c) >= LEAST_SHARE && share(c) <= MOST_SHARE)
            .count();
    System.out.printf(
        Locale.ROOT,
        "bench calm: %d series that take at least %d values a week, without incidents, two weeks by"
            + " what was known before each: %.1f %% of the minutes outside p05 to p95; %d of %d"
            + " counters within %.0f to %.0f %%%n",
        series,
        CONTINUOUS,
        100.0 * outside / all,
        within,
        counts.size(),
        LEAST_SHARE,
        MOST_SHARE);
    counts.entrySet().stream()
        .sorted(Comparator.comparingDouble(e -> share(e.getValue())))
        .forEach(
            e ->
                System.out.printf(
                    Locale.ROOT, "  %5.1f %%  %s%n", share(e.getValue()), e.getKey()));
  }

  private static double share(long[] count) {
    return 100.0 * count[0] / count[1];
  }

  private static boolean isContinuous(double[] minutes) {
    return Arrays.stream(minutes, minutes.length - WEEK * DAY, minutes.length)
            .filter(value -> !Double.isNaN(value))
            .distinct()
            .count()
        >= CONTINUOUS;
  }

  /** How many minutes of the last two weeks lay outside, of how many. */
  private static long[] outside(Line line) {
    long[] count = new long[2];
    for (int week = Skerries.DAYS - 2 * WEEK; week < Skerries.DAYS; week += WEEK) {
      Baseline learned = learned(line, line.minutes(), week);
      for (int i = week * DAY; i < (week + WEEK) * DAY; i++) {
        double value = line.minutes()[i];
        if (!Double.isNaN(value)) {
          Normal normal = learned.at(slot(FROM + i * Timeline.MINUTE));
          count[0] += value < normal.p05() || value > normal.p95() ? 1 : 0;
          count[1]++;
        }
      }
    }
    return count;
  }

  private static int slot(long at) {
    return Timeline.slotOf(at, Story.ZONE, Set.of());
  }

  /** What is learned of a series by the end of so many days. */
  private static Baseline learned(Line line, double[] minutes, int days) {
    int first = Math.max(0, days - LEARNED_DAYS);
    return Baseline.learn(
        new Timeline(
            FROM + (long) first * DAY * Timeline.MINUTE,
            (days - first) * DAY,
            Story.ZONE,
            Set.of(),
            List.of()),
        Arrays.copyOfRange(minutes, first * DAY, days * DAY),
        line.counter());
  }

  /**
   * What happened.
   *
   * @param passes whether it lasts for less than a day
   * @param truth whether a series is one of those that left first
   */
  record Incident(String what, Instant from, Instant to, boolean passes, Predicate<Mover> truth) {

    /** Where the hour begins that is looked at, in minutes. */
    int begin() {
      return minute(from.minus(BEFORE));
    }

    /** Whether it lies within a day, from 0. */
    boolean touches(int day) {
      return minute(from) / DAY <= day && day <= minute(to) / DAY;
    }

    private static int minute(Instant at) {
      return (int) Math.floorDiv(at.toEpochMilli() - FROM, Timeline.MINUTE);
    }
  }

  /** A series that left its normal. */
  record Mover(String instance, SeriesKey key, Moved moved) {
    boolean is(String name, String... counters) {
      return instance.startsWith(name)
          && Arrays.stream(counters).anyMatch(key.counter()::startsWith);
    }

    boolean pool(String name) {
      return is("booking-", "pool.") && key.labels().containsValue(name);
    }
  }

  /** By how many spreads an incident moves what is normal of a series. */
  record Taught(String instance, SeriesKey key, double spreads) {}

  /**
   * Of one incident.
   *
   * @param movers who left its normal within the hour about its begin, in that order
   * @param taught of those that were outside in it, by how many spreads what is normal in its hours
   *     is another a week later than if it had not been
   */
  record Found(List<Mover> movers, List<Taught> taught) {
    private static final Comparator<Mover> ORDER =
        Comparator.comparingLong((Mover m) -> m.moved().since())
            .thenComparingDouble(m -> -Math.abs(m.moved().distance()));

    Found() {
      this(new ArrayList<>(), new ArrayList<>());
    }

    /** Which of them is the first that the truth names, from 1; 0 for none. */
    int place(Incident of) {
      long begin = FROM + of.begin() * Timeline.MINUTE;
      // who was outside before did not leave in it
      movers.removeIf(mover -> mover.moved().since() == begin);
      movers.sort(ORDER);
      return IntStream.range(0, movers.size())
              .filter(i -> of.truth().test(movers.get(i)))
              .findFirst()
              .orElse(-1)
          + 1;
    }
  }

  static List<Incident> told(Story story) {
    String writer = EngineStory.WRITER;
    String freight = EngineStory.FREIGHT;
    EngineStory engines = new EngineStory(story, Skerries.OPENED);
    Instant dropped = engines.marks().get(0).at();
    Instant idle = Story.daysAgo(Skerries.OPENED, 8, LocalTime.of(13, 5));
    Instant slower = Story.daysAgo(Skerries.OPENED, 0, LocalTime.of(6, 0));
    Story.Stretch pools = story.emptyPools();
    Story.Stretch works = story.maintenance();
    return List.of(
        new Incident(
            "fare reload blocked",
            engines.reload().from(),
            engines.reload().to(),
            true,
            m -> m.is(writer, "sessions.", "locks.")),
        new Incident(
            "bookingPool empty", pools.from(), pools.to(), true, m -> m.pool("bookingPool")),
        new Incident(
            "index dropped",
            dropped,
            engines.marks().get(1).at(),
            false,
            m -> m.is(freight, "statements.", "blocks.", "rows.")),
        new Incident(
            "sixty idle sessions",
            idle,
            idle.plus(Duration.ofMinutes(6)),
            true,
            m -> m.is(writer, "sessions.", "connections.")),
        new Incident(
            "Southmole in maintenance", works.from(), works.to(), true, m -> m.is("booking-", "")),
        new Incident(
            "loyalty slower",
            slower,
            Skerries.OPENED,
            true,
            m -> m.is(writer, "statements.") || m.pool("loyaltyPool")));
  }

  private static void incidents(int seed) throws Exception {
    Story story = new Story(Skerries.OPENED);
    List<Incident> all = told(story);
    List<Found> found = all.stream().map(incident -> new Found()).toList();
    List<One> without = Skerries.all(Story.NONE, seed);
    for (One one : Skerries.all(story, seed)) {
      One calm =
          without.stream().filter(other -> other.name().equals(one.name())).findFirst().get();
      look(one, calm, all, found);
    }
    for (int i = 0; i < all.size(); i++) {
      tell(all.get(i), found.get(i));
    }
  }

  /**
   * Looks at all series of one instance.
   *
   * @param calm the same where nothing happens
   * @param found gets what is found of each incident
   */
  static void look(One one, One calm, List<Incident> all, List<Found> found) {
    List<Line> lines = Skerries.read(one);
    Map<SeriesKey, double[]> others = new HashMap<>();
    Skerries.read(calm, day -> all.stream().anyMatch(i -> i.passes() && i.touches(day)))
        .forEach(line -> others.put(line.key(), line.minutes()));
    lines.parallelStream()
        .forEach(
            line -> {
              for (int i = 0; i < all.size(); i++) {
                Incident incident = all.get(i);
                Optional<Moved> moved = moved(line, incident);
                if (moved.isPresent()) {
                  double taught =
                      incident.passes()
                          ? taught(line, others.get(line.key()), incident)
                          : Double.NaN;
                  synchronized (found) {
                    found.get(i).movers().add(new Mover(one.name(), line.key(), moved.get()));
                    found.get(i).taught().add(new Taught(one.name(), line.key(), taught));
                  }
                }
              }
            });
  }

  private static void tell(Incident incident, Found found) {
    if (incident.passes()) {
      List<Taught> moved =
          found.taught().stream()
              .filter(taught -> taught.spreads() >= HALF)
              .sorted(Comparator.comparingDouble(taught -> -taught.spreads()))
              .toList();
      System.out.printf(
          Locale.ROOT,
          "bench calm: %s, marked by nobody: of %d series that it moved, what is normal then moves"
              + " by ½ s or more of %d%n",
          incident.what(),
          found.taught().size(),
          moved.size());
      moved.forEach(
          taught ->
              System.out.printf(
                  Locale.ROOT,
                  "    %.2f s  %s %s %s%n",
                  taught.spreads(),
                  taught.instance(),
                  taught.key().counter(),
                  taught.key().labels().values()));
    }
    int place = found.place(incident);
    System.out.printf(
        Locale.ROOT,
        "bench calm: %s: %d series left their normal within the hour about its begin; who truly"
            + " moved is number %d of those who left first%n",
        incident.what(),
        found.movers().size(),
        place);
    found.movers().stream()
        .limit(Math.max(FIRST, place))
        .forEach(
            mover ->
                System.out.printf(
                    Locale.ROOT,
                    "    %s %+.1f s  %s %s %s%n",
                    Instant.ofEpochMilli(mover.moved().since()).atZone(Story.ZONE).toLocalTime(),
                    mover.moved().distance(),
                    mover.instance(),
                    mover.key().counter(),
                    mover.key().labels().values()));
  }

  private static Optional<Moved> moved(Line line, Incident incident) {
    int first = incident.begin();
    Baseline learned = learned(line, line.minutes(), first / DAY);
    CounterDefinition counter = line.counter();
    return Moved.of(
        FROM + first * Timeline.MINUTE,
        Arrays.copyOfRange(line.minutes(), first, first + LOOKED_AT),
        at -> learned.at(slot(at)),
        counter.matters(),
        counter.resolution(),
        line.interval());
  }

  /**
   * @param calm its minutes of those days where nothing happens
   */
  private static double taught(Line line, double[] calm, Incident incident) {
    int from = Incident.minute(incident.from());
    int to = Math.min(Skerries.MINUTES, Incident.minute(incident.to()));
    double[] without = line.minutes().clone();
    System.arraycopy(calm, from, without, from, to - from);
    int days = Math.min(Skerries.DAYS, to / DAY + 1);
    Baseline then = learned(line, line.minutes(), days);
    Baseline usually = learned(line, without, days);
    double most = 0;
    for (int i = from; i < to; i += 15) {
      Normal taught = then.at(slot(FROM + i * Timeline.MINUTE));
      Normal usual = usually.at(slot(FROM + i * Timeline.MINUTE));
      for (double moved :
          new double[] {
            taught.p05() - usual.p05(), taught.p50() - usual.p50(), taught.p95() - usual.p95()
          }) {
        double s =
            usual.distance(
                usual.p50() + moved, line.counter().matters(), line.counter().resolution());
        most = Math.max(most, Math.abs(s));
      }
    }
    return most;
  }
}
