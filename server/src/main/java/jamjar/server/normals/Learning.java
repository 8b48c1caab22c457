package jamjar.server.normals;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.core.counter.CounterDefinition;
import jamjar.server.markers.MarkerService;
import jamjar.server.readings.SeriesSamples;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.normals.FrozenRow;
import jamjar.store.normals.Learned;
import jamjar.store.normals.NormalStore;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Learns what is normal for the series of an instance, from the 1-minute means of its stored
 * readings, and keeps it.
 */
@Component
class Learning {
  private static final Logger LOG = LoggerFactory.getLogger(Learning.class);
  static final Duration HORIZON = Duration.ofDays(35);
  private static final int[] EVERY_DAY =
      IntStream.range(0, Timeline.SLOTS / Timeline.QUARTERS).toArray();
  private static final int LONGEST_AT_ONCE_MINUTES = 35 * 1440;

  /** Of a day of the week so many lie on the heap at once: 60 kB each. */
  private static final int SERIES_AT_ONCE = 200;

  /** So long it takes at most until what was learned is taken up. */
  private static final Duration TAKEN_UP = Duration.ofSeconds(3);

  private final Store store;
  private final SeriesSamples samples;
  private final MarkerService markers;
  private final Clock clock;

  /** Of an instance the series that a limit holds against their normal. */
  private volatile IntFunction<Set<Integer>> judged = instance -> Set.of();

  Learning(Store store, SeriesSamples samples, MarkerService markers, Clock clock) {
    this.store = store;
    this.samples = samples;
    this.markers = markers;
    this.clock = clock;
  }

  /** By what it is told which series of an instance a limit holds against their normal. */
  void judgedBy(IntFunction<Set<Integer>> series) {
    judged = series;
  }

  /** To the minute, as by a normal is judged once a minute. */
  private Instant inForce() {
    return clock.instant().plus(TAKEN_UP).truncatedTo(ChronoUnit.MINUTES).plusSeconds(60);
  }

  /** Learns all of an instance; what is normal about now. */
  AboutNow all(InstanceRow row) {
    long began = clock.millis();
    Timeline timeline = horizon(row, began);
    ZoneId zone = ZoneId.of(row.zone());
    AboutNow near = new AboutNow(zone, markers.holidays(row), began);
    Held held = held(row.id());
    Instant since =
        store
            .normals()
            .keep(
                new Learned(row.id(), Instant.ofEpochMilli(began), row.zone(), timeline.minutes()),
                this::inForce,
                keeping ->
                    samples.minutes(
                        row.id(),
                        timeline.from(),
                        timeline.minutes(),
                        (series, counter, values) ->
                            near.add(
                                series.id(),
                                held.keep(
                                    keeping,
                                    Baseline.learn(timeline, values, counter),
                                    series.id(),
                                    counter))));
    LOG.info(
        "event=learned instance={} series={} minutes={} took_ms={}",
        row.id(),
        near.series().size(),
        timeline.minutes(),
        clock.millis() - began);
    return near.from(since);
  }

  /** What is in force of series of an instance that are held against it. */
  private Held held(int instance) {
    Map<Integer, Baseline> baselines = new HashMap<>();
    store
        .normals()
        .read(
            judged.apply(instance).stream().mapToInt(Integer::intValue).toArray(),
            EVERY_DAY,
            (baseline, id) -> baselines.put(id, baseline));
    return new Held(baselines);
  }

  /**
   * What series are held against: another takes its place only where it is another, and is then
   * remembered, so that it stays known by what was judged.
   *
   * @param baselines by the number of the series
   */
  private record Held(Map<Integer, Baseline> baselines) {

    /** Keeps what was learned; what is in force from then on. */
    Baseline keep(
        NormalStore.Keeping keeping, Baseline learned, int series, CounterDefinition counter) {
      if (!baselines.containsKey(series)) {
        keeping.accept(learned, series);
        return learned;
      }
      Normal[] all = new Normal[Timeline.SLOTS];
      for (int weekday : EVERY_DAY) {
        Normal[] slots = new Normal[Timeline.QUARTERS];
        Arrays.setAll(slots, i -> learned.at(weekday * Timeline.QUARTERS + i));
        Normal[] used = day(keeping, slots, weekday, series, counter);
        System.arraycopy(used, 0, all, weekday * Timeline.QUARTERS, used.length);
      }
      return Baseline.of(all);
    }

    /** As above, of one day of the week. */
    Normal[] day(
        NormalStore.Keeping keeping,
        Normal[] slots,
        int weekday,
        int series,
        CounterDefinition counter) {
      Baseline before = baselines.get(series);
      if (before == null) {
        keeping.day(slots, weekday, series);
        return slots;
      }
      Normal[] was = new Normal[slots.length];
      Arrays.setAll(was, i -> before.at(weekday * Timeline.QUARTERS + i));
      boolean left =
          IntStream.range(0, slots.length)
              .anyMatch(i -> was[i].left(slots[i], counter.matters(), counter.resolution()));
      if (left) {
        keeping.succeeds(slots, weekday, series);
      }
      return left ? slots : was;
    }
  }

  /**
   * What was learned of days of the week.
   *
   * @param series those that were learned
   * @param since from when on it is in force
   */
  record Days(List<SeriesRow> series, Instant since) {}

  /** Learns the days of the week that are over since, and what was never learned whole. */
  Days days(InstanceRow row, Learned before) {
    long began = clock.millis();
    ZoneId zone = ZoneId.of(row.zone());
    Set<LocalDate> holidays = markers.holidays(row);
    Timeline timeline = horizon(row, began);
    LocalDate today = clock.instant().atZone(zone).toLocalDate();
    List<Timeline.Weekday> over =
        before
            .at()
            .atZone(zone)
            .toLocalDate()
            .datesUntil(today)
            .map(date -> date.atTime(LocalTime.NOON).atZone(zone).toInstant().toEpochMilli())
            .map(noon -> Timeline.weekday(Timeline.slotOf(noon, zone, holidays)))
            .distinct()
            .map(timeline::of)
            .toList();
    List<SeriesRow> all = samples.learned(row.id());
    Set<Integer> never =
        Arrays.stream(store.normals().without(all.stream().mapToInt(SeriesRow::id).toArray()))
            .boxed()
            .collect(Collectors.toSet());
    Set<Integer> whole = new HashSet<>(never);
    Held held = held(row.id());
    Instant since =
        store
            .normals()
            .keep(
                new Learned(row.id(), Instant.ofEpochMilli(began), row.zone(), timeline.minutes()),
                this::inForce,
                keeping -> {
                  for (Timeline.Weekday day : over) {
                    for (int i = 0; i < all.size(); i += SERIES_AT_ONCE) {
                      List<SeriesRow> some =
                          all.subList(i, Math.min(all.size(), i + SERIES_AT_ONCE)).stream()
                              .filter(series -> !whole.contains(series.id()))
                              .toList();
                      new DayOf(row.id(), timeline, day, some).learn(keeping, held, whole);
                    }
                  }
                  samples.minutes(
                      row.id(),
                      all.stream().filter(series -> whole.contains(series.id())).toList(),
                      timeline.from(),
                      timeline.minutes(),
                      (series, counter, values) ->
                          held.keep(
                              keeping,
                              Baseline.learn(timeline, values, counter),
                              series.id(),
                              counter));
                });
    LOG.info(
        "event=learned-days instance={} days={} series={} whole={} took_ms={}",
        row.id(),
        over.size(),
        all.size(),
        whole.size(),
        clock.millis() - began);
    return new Days(all, since);
  }

  /** Some series of an instance on one day of the week. */
  private final class DayOf {
    private final int instance;
    private final Timeline timeline;
    private final Timeline.Weekday day;
    private final List<SeriesRow> rows;
    private final Map<Integer, double[]> values = new HashMap<>();
    private final Map<Integer, CounterDefinition> counters = new HashMap<>();

    DayOf(int instance, Timeline timeline, Timeline.Weekday day, List<SeriesRow> rows) {
      this.instance = instance;
      this.timeline = timeline;
      this.day = day;
      this.rows = rows;
    }

    /**
     * @param whole gets those for which other days would have to serve
     */
    void learn(NormalStore.Keeping keeping, Held held, Set<Integer> whole) {
      int place = 0;
      for (Timeline.Stretch stretch : day.stretches()) {
        int here = place;
        samples.minutes(
            instance,
            rows,
            timeline.from() + stretch.first() * Timeline.MINUTE,
            stretch.count(),
            (series, counter, means) -> {
              counters.put(series.id(), counter);
              double[] all =
                  values.computeIfAbsent(series.id(), id -> new double[day.timeline().minutes()]);
              System.arraycopy(means, 0, all, here, means.length);
            });
        place += stretch.count();
      }
      values.forEach(
          (series, all) ->
              Baseline.learnDay(day, all, counters.get(series))
                  .ifPresentOrElse(
                      slots -> held.day(keeping, slots, day.number(), series, counters.get(series)),
                      () -> whole.add(series)));
    }
  }

  /** Learns an instance from a time that somebody chose, and keeps that by a name. */
  void freeze(InstanceRow row, FrozenRow frozen) {
    long from = Math.floorDiv(frozen.fromAt().toEpochMilli(), Timeline.MINUTE) * Timeline.MINUTE;
    int minutes = (int) Duration.between(frozen.fromAt(), frozen.toAt()).toMinutes();
    Timeline timeline = timeline(row, from, minutes);
    store
        .normals()
        .freeze(
            frozen,
            keeping ->
                samples.minutes(
                    row.id(),
                    from,
                    minutes,
                    (series, counter, values) ->
                        keeping.accept(Baseline.learn(timeline, values, counter), series.id())));
  }

  /** What can be learned from: the last five weeks, up to the minute. */
  private Timeline horizon(InstanceRow row, long now) {
    long to = Math.floorDiv(now, Timeline.MINUTE) * Timeline.MINUTE;
    long from =
        store
            .readings()
            .firstAt(row.id(), Instant.ofEpochMilli(to).minus(HORIZON))
            .map(at -> Math.floorDiv(at.toEpochMilli(), Timeline.MINUTE) * Timeline.MINUTE)
            .orElse(to);
    return timeline(
        row, from, (int) Math.min(LONGEST_AT_ONCE_MINUTES, (to - from) / Timeline.MINUTE));
  }

  /** A stretch of time of an instance, with what teaches nothing in it. */
  Timeline timeline(InstanceRow row, long from, int minutes) {
    long to = from + minutes * Timeline.MINUTE;
    List<LeftOut> leftOut =
        Stream.concat(
                markers.leftOut(row, from, to).stream(),
                Roles.others(store.facts().of(row.id(), Roles.FACT), from, to).stream())
            .toList();
    return new Timeline(from, minutes, ZoneId.of(row.zone()), markers.holidays(row), leftOut);
  }
}
