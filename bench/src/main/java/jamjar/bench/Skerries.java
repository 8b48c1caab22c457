package jamjar.bench;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.standins.history.Calibration;
import jamjar.standins.history.EnginePast;
import jamjar.standins.history.EngineStory;
import jamjar.standins.servers.Past;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Readings;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * The demo's estate over six weeks by the minute, without a store: servers by their simulator, and
 * engines as they were calibrated once on a demo.
 */
final class Skerries {
  static final int DAYS = 42;
  static final int MINUTES = DAYS * 1440;

  /** When those were calibrated, and the demo was opened. */
  static final Instant OPENED = Instant.parse("2026-11-27T17:59:00Z");

  static final Instant FROM = OPENED.minus(Duration.ofDays(DAYS));
  private static final int EVERY_S = 60;

  /** What reading cost: of a simulator that says nothing. */
  private static final String OF_COLLECTOR = "own.";

  private Skerries() {}

  /** One under watch, and how its past is read. */
  record One(String name, String site, Recipe recipe, Readings past) {}

  /**
   * One series.
   *
   * @param minutes as shown, by the minute from {@link #FROM} on; NaN for none
   * @param interval ms between two of its readings
   */
  record Line(SeriesKey key, CounterDefinition counter, double[] minutes, long interval) {}

  static List<One> all(Story story, int seed) throws IOException {
    List<One> all = new ArrayList<>();
    for (Profile profile : Skerry.servers()) {
      var recipe = RecipeFile.shipped(profile.recipe());
      all.add(
          new One(
              profile.name(),
              profile.site(),
              recipe.recipe(),
              new Past(profile, recipe, story, seed + profile.name().hashCode())));
    }
    Recipe recipe = RecipeFile.shipped("postgresql").recipe();
    EngineStory engines = new EngineStory(story, OPENED);
    for (String name : List.of(EngineStory.WRITER, EngineStory.READER, EngineStory.FREIGHT)) {
      try (InputStream from = Skerries.class.getResourceAsStream("/usual/" + name + ".json")) {
        Calibration usual = Calibration.read(from);
        String site = name.equals(EngineStory.WRITER) ? "Northquay" : "Southmole";
        all.add(
            new One(
                name,
                site,
                recipe,
                // one for each day that is read: it keeps what it found last
                (begin, end, every, taking) ->
                    new EnginePast(
                            name,
                            recipe,
                            usual,
                            engines,
                            at -> site.equals(story.cutOff().site()) && story.cutOff().holds(at),
                            seed)
                        .read(begin, end, every, taking)));
      }
    }
    return all;
  }

  /** All series of one of them. */
  static List<Line> read(One one) {
    return read(one, day -> true);
  }

  /**
   * As above, of some days.
   *
   * @param wanted which, from 0
   */
  static List<Line> read(One one, IntPredicate wanted) {
    Map<SeriesKey, Line> lines = new HashMap<>();
    Schedule schedule = new Schedule(one.recipe(), 10);
    IntStream.range(0, DAYS)
        .filter(wanted)
        .parallel()
        .forEach(
            day -> {
              Instant begin = FROM.plus(Duration.ofDays(day));
              one.past()
                  .read(
                      begin,
                      begin.plus(Duration.ofDays(1)),
                      at -> EVERY_S,
                      (pace, every, step) -> {
                        var reading = step.reading();
                        long middle = reading.at().toEpochMilli() - 1000L * EVERY_S / 2;
                        int minute =
                            (int) Math.floorDiv(middle - FROM.toEpochMilli(), Timeline.MINUTE);
                        if (minute >= day * 1440 && minute < (day + 1) * 1440) {
                          Shown.of(reading, one.recipe(), 1000L * every).stream()
                              .filter(shown -> !shown.series().counter().startsWith(OF_COLLECTOR))
                              .forEach(shown -> put(lines, one.recipe(), shown, minute, schedule));
                        }
                      });
            });
    return List.copyOf(lines.values());
  }

  private static void put(
      Map<SeriesKey, Line> lines, Recipe recipe, Shown shown, int minute, Schedule schedule) {
    Line line;
    synchronized (lines) {
      line =
          lines.computeIfAbsent(
              shown.series(),
              key -> {
                double[] minutes = new double[MINUTES];
                Arrays.fill(minutes, Double.NaN);
                CounterDefinition counter = recipe.counters().get(key.counter());
                return new Line(key, counter, minutes, schedule.millis(counter));
              });
    }
    line.minutes()[minute] = shown.value();
  }
}
