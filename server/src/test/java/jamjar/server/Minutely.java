package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/** Readings of levels once a minute, as a watcher would have kept them. */
final class Minutely {
  private static final Duration DAY = Duration.ofDays(1);

  private Minutely() {}

  static KeptReading at(int instance, Instant at, List<SeriesKey> keys, double... values) {
    Reading reading = new Reading(at, 60_000, keys, values, new WhyNothing[values.length]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
    return new KeptReading(
        instance, 1, 60, 1, at, new Increases.Step(reading, last), Judged.NOTHING);
  }

  /** Brings one of now, and so many whole days before today. */
  static void bring(RunningServer server, int days, Function<Instant, KeptReading> reading)
      throws Exception {
    Store store = server.store();
    Instant now = Instant.now();
    Intake intake = server.bean(Intake.class);
    intake.reading(reading.apply(now));
    intake.awaitBrought(Duration.ofSeconds(60));
    for (int back = 1; back <= days; back++) {
      Instant day = now.truncatedTo(ChronoUnit.DAYS).minus(back, ChronoUnit.DAYS);
      List<LaidOut> all = new ArrayList<>();
      for (Instant at = day; at.isBefore(day.plus(DAY)); at = at.plusSeconds(60)) {
        all.add(store.readings().lay(reading.apply(at)));
      }
      assertThat(store.readings().old().add(day, true, all)).isTrue();
    }
  }
}
