package jamjar.standins.history;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.servers.Past;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Readings;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.readings.Import;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import jamjar.store.silences.Silence;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.stream.IntStream;

/**
 * What was read of Skerry Line in the six weeks before it came under watch, written into the store
 * as packed days, the newest first. Only series that are read now have a history.
 */
public final class History {
  /** How long before the first reading the history begins. */
  public static final Duration LENGTH = Duration.ofDays(42);

  /** As often as now. */
  private static final Duration FINE = Duration.ofHours(24);

  private static final int FINE_SECONDS = 10;
  private static final int COARSE_SECONDS = 60;
  private static final String OF_THE_COLLECTOR = "own.";
  private static final int THREADS = 2;

  private final Store store;
  private final Story story;
  private final Duration length;

  public History(Store store, Story story) {
    this(store, story, LENGTH);
  }

  /**
   * @param length in whole days
   */
  History(Store store, Story story, Duration length) {
    this.store = store;
    this.story = story;
    this.length = length;
  }

  /**
   * One of which there is a past.
   *
   * @param site where it is
   * @param past how it was read then
   */
  public record Subject(String name, String site, Readings past) {}

  /** One under watch, and from when on it is read. */
  private record Watched(Subject subject, int instance, Set<SeriesKey> series, Instant since) {}

  /** The servers, read by the very collector. */
  public static List<Subject> servers(List<Profile> profiles, Story story, long seed) {
    return profiles.stream()
        .map(
            profile ->
                new Subject(
                    profile.name(),
                    profile.site(),
                    (from, to, every, taking) ->
                        new Past(
                                profile,
                                RecipeFile.shipped(profile.recipe()),
                                story,
                                seed + profile.name().hashCode())
                            .read(from, to, every, taking)))
        .toList();
  }

  /** How one that is read is by now; empty while it is read for too short a time. */
  public Optional<Calibration> calibration(String name, Recipe recipe) {
    return watched(new Subject(name, "", null))
        .flatMap(one -> Calibration.of(store, one.instance(), recipe, one.since()));
  }

  /** Whether all of them are read: only of those can it be written. */
  public boolean canBegin(List<Subject> subjects) {
    return subjects.stream().allMatch(subject -> watched(subject).isPresent());
  }

  private Optional<Watched> watched(Subject subject) {
    Optional<Integer> id = store.instances().idByName(subject.name());
    if (id.isEmpty()) {
      return Optional.empty();
    }
    Import old = store.readings().old();
    Optional<Instant> since = old.until(id.get(), Pace.FAST.code());
    if (since.isEmpty()) {
      return Optional.empty();
    }
    Set<SeriesKey> series = new HashSet<>(store.readings().series(id.get()).values());
    series.removeIf(key -> key.counter().startsWith(OF_THE_COLLECTOR));
    return Optional.of(new Watched(subject, id.get(), series, since.get()));
  }

  /**
   * Writes it, of those that are read; what is there already is left as it is.
   *
   * @param progress is told in words
   */
  public void write(List<Subject> subjects, Consumer<String> progress) throws Exception {
    List<Watched> all = subjects.stream().flatMap(subject -> watched(subject).stream()).toList();
    ExecutorService threads = Executors.newFixedThreadPool(THREADS);
    try {
      int days = (int) length.toDays();
      for (int back = 0; back <= days; back++) {
        List<Future<?>> work = new ArrayList<>();
        for (Watched watched : all) {
          Instant day = watched.since().truncatedTo(ChronoUnit.DAYS).minus(back, ChronoUnit.DAYS);
          work.add(threads.submit(() -> day(watched, day)));
        }
        for (Future<?> one : work) {
          one.get();
        }
        progress.accept("history: " + back + " of " + days + " days are there");
      }
      all.forEach(this::cutOff);
    } finally {
      threads.shutdownNow();
    }
  }

  /** The gap in which one site could not be reached. */
  private void cutOff(Watched watched) {
    Story.Stretch gap = story.cutOff();
    if (gap.site().equals(watched.subject().site())) {
      for (Pace pace : Pace.values()) {
        store
            .silences()
            .add(
                new Silence(
                    watched.instance(),
                    pace.code(),
                    gap.from(),
                    gap.to(),
                    "no answer",
                    gap.words()));
      }
    }
  }

  private void day(Watched watched, Instant day) {
    boolean today = watched.since().isBefore(day.plus(1, ChronoUnit.DAYS));
    Instant end = today ? watched.since() : day.plus(1, ChronoUnit.DAYS);
    Instant fine = watched.since().minus(FINE);
    Map<Pace, List<LaidOut>> readings = new EnumMap<>(Pace.class);
    Map<Pace, Kept> kept = new EnumMap<>(Pace.class);
    watched
        .subject()
        .past()
        .read(
            day,
            end,
            at -> at.isBefore(fine) ? COARSE_SECONDS : FINE_SECONDS,
            (source, every, step) ->
                readings
                    .computeIfAbsent(source, s -> new ArrayList<>())
                    .add(
                        kept.computeIfAbsent(source, s -> new Kept(watched))
                            .of(source, every, step)));
    Import old = store.readings().old();
    readings.forEach((source, all) -> add(old, day, today ? end : null, all));
  }

  private static void add(Import old, Instant day, Instant until, List<LaidOut> readings) {
    if (until == null) {
      old.add(day, true, readings);
      return;
    }
    for (Instant span = Import.begin(until, false);
        !span.isBefore(day);
        span = Import.begin(span.minusSeconds(1), false)) {
      old.add(span, false, readings);
    }
  }

  /** Takes from readings what only tells of the collector, and what is not read now. */
  private final class Kept {
    private final Watched of;
    private List<SeriesKey> all = List.of();
    private List<SeriesKey> series = List.of();
    private int[] places = {};

    Kept(Watched of) {
      this.of = of;
    }

    LaidOut of(Pace source, int every, Increases.Step step) {
      Reading reading = step.reading();
      // most have the series of the one before
      if (!all.equals(reading.series())) {
        all = reading.series();
        places =
            IntStream.range(0, all.size()).filter(i -> of.series().contains(all.get(i))).toArray();
        series = IntStream.of(places).mapToObj(all::get).toList();
      }
      double[] values = new double[places.length];
      WhyNothing[] why = new WhyNothing[places.length];
      for (int i = 0; i < places.length; i++) {
        values[i] = reading.values()[places[i]];
        why[i] = reading.why()[places[i]];
      }
      Reading kept = new Reading(reading.at(), reading.elapsedMillis(), series, values, why);
      LastTotals last = step.last();
      LastTotals withoutNothing =
          new LastTotals(
              last.at(),
              last.sourceMicros(),
              last.monotonicNanos(),
              last.start(),
              last.counters(),
              last.totals(),
              Set.of());
      return store
          .readings()
          .lay(
              new KeptReading(
                  of.instance(),
                  source.code(),
                  every,
                  0,
                  reading.at(),
                  new Increases.Step(kept, withoutNothing),
                  Judged.NOTHING));
    }
  }
}
