package jamjar.server.limits;

import jamjar.core.forecast.Peaks;
import jamjar.core.limit.Condition;
import jamjar.core.limit.InForce;
import jamjar.server.readings.DailyPeaks;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Tells the limits on what will be reached, each night, in how many days it will be. */
@Component
public class NightlyForecasts {
  private static final Logger LOG = LoggerFactory.getLogger(NightlyForecasts.class);

  /** The last day is whole by then, and packed. */
  private static final int HOUR = 3;

  private final Store store;
  private final DailyPeaks peaks;
  private final LiveJudge judge;
  private final Clock clock;

  /** The last day that was told, by number of the instance. */
  private final Map<Integer, LocalDate> told = new ConcurrentHashMap<>();

  NightlyForecasts(Store store, DailyPeaks peaks, LiveJudge judge, Clock clock) {
    this.store = store;
    this.peaks = peaks;
    this.judge = judge;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 300_000, initialDelay = 60_000)
  void look() {
    for (InstanceRow row : instances()) {
      ZonedDateTime now = clock.instant().atZone(ZoneId.of(row.zone()));
      LocalDate today = now.toLocalDate();
      if (now.getHour() >= HOUR && !today.equals(told.get(row.id()))) {
        try {
          tell(row, today);
          told.put(row.id(), today);
        } catch (RuntimeException e) {
          LOG.warn("event=no-forecast instance={} why=\"{}\"", row.id(), e.getMessage());
        }
      }
    }
  }

  private List<InstanceRow> instances() {
    try {
      return store.instances().all();
    } catch (RuntimeException e) {
      if (StoreAway.is(e)) {
        return List.of();
      }
      throw e;
    }
  }

  /**
   * The forecast of a night.
   *
   * @param today the day that begins: the one before it is the last that counts
   */
  public void tell(InstanceRow row, LocalDate today) {
    Map<Integer, Double> days = new HashMap<>();
    judge
        .inForce(row.id())
        .forEach(
            (id, limits) ->
                limits.stream()
                    .map(InForce::limit)
                    .filter(limit -> limit.condition() == Condition.REACHES)
                    .findFirst()
                    .ifPresent(limit -> days.put(id, until(row, id, limit.against(), today))));
    if (!days.isEmpty()) {
      long night = today.atStartOfDay(ZoneId.of(row.zone())).toInstant().toEpochMilli();
      judge.forecast(row.id(), night, days);
    }
  }

  private double until(InstanceRow row, int series, double reached, LocalDate today) {
    return store.series().byIds(new int[] {series}).stream()
        .findFirst()
        .map(one -> peaks.of(row, one, today.minusDays(DailyPeaks.DAYS), today))
        .map(found -> Peaks.of(found, reached).middle())
        .orElse(Double.NaN);
  }
}
