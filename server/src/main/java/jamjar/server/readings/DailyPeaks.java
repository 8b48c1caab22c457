package jamjar.server.readings;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.core.forecast.Peaks;
import jamjar.server.markers.MarkerService;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.springframework.stereotype.Component;

/** The greatest of each day, from which it is told what will be reached. */
@Component
public class DailyPeaks {
  /** So many days tell of those to come. */
  public static final int DAYS = 42;

  private static final long STEP = Duration.ofMinutes(5).toMillis();

  private final SeriesSamples samples;
  private final MarkerService markers;

  DailyPeaks(SeriesSamples samples, MarkerService markers) {
    this.samples = samples;
    this.markers = markers;
  }

  /**
   * The greatest mean of five minutes of each local day; NaN for a day without one.
   *
   * @param first the first day
   * @param today the day after the last
   */
  public double[] of(InstanceRow instance, SeriesRow series, LocalDate first, LocalDate today) {
    ZoneId zone = ZoneId.of(instance.zone());
    int days = (int) ChronoUnit.DAYS.between(first, today);
    long from = first.atStartOfDay(zone).toInstant().toEpochMilli();
    long to = today.atStartOfDay(zone).toInstant().toEpochMilli();
    List<LeftOut> out = markers.leftOut(instance, from, to);
    double[][] peaks = {new double[0]};
    samples.means(
        instance.id(),
        List.of(series),
        from,
        STEP,
        (int) ((to - from) / STEP),
        (one, counter, means) ->
            peaks[0] = Peaks.ofDays(from, STEP, means, first, days, zone, out));
    return peaks[0];
  }
}
