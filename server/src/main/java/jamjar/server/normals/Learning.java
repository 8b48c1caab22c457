package jamjar.server.normals;

import jamjar.core.baseline.Baseline;
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
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
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
  private static final int LONGEST_AT_ONCE_MINUTES = 35 * 1440;

  /** Of a day of the week so many lie on the heap at once: 60 kB each. */
  private static final int SERIES_AT_ONCE = 200;

  private final Store store;
  private final SeriesSamples samples;
  private final MarkerService markers;
  private final Clock clock;

  Learning(Store store, SeriesSamples samples, MarkerService markers, Clock clock) {
    this.store = store;
    this.samples = samples;
    this.markers = markers;
    this.clock = clock;
  }

  /** Learns all of an instance; what is normal about now. */
  AboutNow all(InstanceRow row) {
    long began = clock.millis();
    Timeline timeline = horizon(row, began);
    ZoneId zone = ZoneId.of(row.zone());
    AboutNow near = new AboutNow(zone, markers.holidays(row), began);
    store
        .normals()
        .keep(
            new Learned(row.id(), Instant.ofEpochMilli(began), row.zone(), timeline.minutes()),
            keeping ->
                samples.minutes(
                    row.id(),
                    timeline.from(),
                    timeline.minutes(),
                    (series, counter, values) -> {
                      Baseline baseline = Baseline.learn(timeline, values, counter);
                      keeping.accept(baseline, series.id());
                      near.add(series.id(), baseline);
                    }));
    LOG.info(
        "event=learned instance={} series={} minutes={} took_ms={}",
        row.id(),
        near.series().size(),
        timeline.minutes(),
        clock.millis() - began);
    return near;
  }

  /**
   * Learns the days of the week that are over since, and what was never learned whole.
   *
   * @return the series that were learned
   */
  List<SeriesRow> days(InstanceRow row, Learned before) {
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
    store
        .normals()
        .keep(
            new Learned(row.id(), Instant.ofEpochMilli(began), row.zone(), timeline.minutes()),
            keeping -> {
              for (Timeline.Weekday day : over) {
                for (int i = 0; i < all.size(); i += SERIES_AT_ONCE) {
                  List<SeriesRow> some =
                      all.subList(i, Math.min(all.size(), i + SERIES_AT_ONCE)).stream()
                          .filter(series -> !whole.contains(series.id()))
                          .toList();
                  new DayOf(row.id(), timeline, day, some).learn(keeping, whole);
                }
              }
              samples.minutes(
                  row.id(),
                  all.stream().filter(series -> whole.contains(series.id())).toList(),
                  timeline.from(),
                  timeline.minutes(),
                  (series, counter, values) ->
                      keeping.accept(Baseline.learn(timeline, values, counter), series.id()));
            });
    LOG.info(
        "event=learned-days instance={} days={} series={} whole={} took_ms={}",
        row.id(),
        over.size(),
        all.size(),
        whole.size(),
        clock.millis() - began);
    return all;
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
    void learn(NormalStore.Keeping keeping, Set<Integer> whole) {
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
                      slots -> keeping.day(slots, day.number(), series), () -> whole.add(series)));
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
    List<LeftOut> leftOut = markers.leftOut(row, from, from + minutes * Timeline.MINUTE);
    return new Timeline(from, minutes, ZoneId.of(row.zone()), markers.holidays(row), leftOut);
  }
}
