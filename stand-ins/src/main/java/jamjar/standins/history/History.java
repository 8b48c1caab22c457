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
import java.util.concurrent.FutureTask;
import java.util.concurrent.PriorityBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
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

  /** One for each core; each holds a day of readings, so not many. */
  private static final int THREADS =
      Math.max(2, Math.min(4, Runtime.getRuntime().availableProcessors()));

  private final Store store;
  private final Story story;
  private final Duration length;

  public History(Store store, Story story) {
    this(store, story, LENGTH);
  }

  /**
   * Of another length.
   *
   * @param length in whole days
   */
  public History(Store store, Story story, Duration length) {
    this.store = store;
    this.story = story;
    this.length = length;
  }

  /**
   * One of which there is a past.
   *
   * @param site where it is
   * @param like one that has the same series, for when it is not there to be read; empty for none
   * @param past how it was read then
   */
  public record Subject(String name, String site, String like, Readings past) {
    public Subject(String name, String site, Readings past) {
      this(name, site, "", past);
    }
  }

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
                    profile.name().equals(Story.GONE) ? like(profile, profiles) : "",
                    (from, to, every, taking) ->
                        new Past(
                                profile,
                                RecipeFile.shipped(profile.recipe()),
                                story,
                                seed + profile.name().hashCode())
                            .read(from, to, every, taking)))
        .toList();
  }

  private static String like(Profile profile, List<Profile> profiles) {
    return profiles.stream()
        .filter(other -> other.group().equals(profile.group()) && !other.equals(profile))
        .map(Profile::name)
        .findFirst()
        .orElse("");
  }

  /** How one that is read is by now; empty while it is read for too short a time. */
  public Optional<Calibration> calibration(String name, Recipe recipe) {
    return watched(new Subject(name, "", null))
        .flatMap(one -> Calibration.of(store, one.instance(), recipe, one.since()));
  }

  private Optional<Watched> watched(Subject subject) {
    Optional<Integer> id = store.instances().idByName(subject.name());
    if (id.isEmpty()) {
      return Optional.empty();
    }
    Import old = store.readings().old();
    Optional<Integer> like =
        Optional.of(subject.like())
            .filter(name -> !name.isEmpty())
            .flatMap(store.instances()::idByName);
    Optional<Instant> since = old.until(like.orElse(id.get()), Pace.FAST.code());
    if (since.isEmpty()) {
      return Optional.empty();
    }
    Set<SeriesKey> series = new HashSet<>(store.readings().series(like.orElse(id.get())).values());
    series.removeIf(key -> key.counter().startsWith(OF_THE_COLLECTOR));
    // of what was just named it may not be known yet what is read: a history of nothing else
    return series.isEmpty()
        ? Optional.empty()
        : Optional.of(new Watched(subject, id.get(), series, since.get()));
  }

  /** Begins to write it: the newest days of all that are added first. */
  public Writing begin(Consumer<String> progress) {
    return new Writing(progress);
  }

  /** What is being written, by some threads. */
  public final class Writing implements AutoCloseable {
    private final int days = (int) length.toDays();
    private final Consumer<String> progress;
    private final List<Day> all = new ArrayList<>();
    private final int[] left = new int[days + 1];
    private final List<Watched> subjects = new ArrayList<>();
    private String told = "";
    private final ThreadPoolExecutor threads =
        new ThreadPoolExecutor(
            THREADS, THREADS, 0, TimeUnit.SECONDS, new PriorityBlockingQueue<>());

    private Writing(Consumer<String> progress) {
      this.progress = progress;
    }

    /**
     * Adds one; what is there already is left as it is.
     *
     * @return whether it is read: else it is not known yet what there would be
     */
    public boolean add(Subject subject) {
      Optional<Watched> read = watched(subject);
      read.ifPresent(
          watched -> {
            adds(watched);
            for (int back = 0; back <= days; back++) {
              Day day = new Day(this, watched, back);
              all.add(day);
              threads.execute(day);
            }
          });
      return read.isPresent();
    }

    /** Returns when all that were added are written. */
    public void await() throws Exception {
      for (Day day : all) {
        day.get();
      }
      // last: who is interrupted and begins again writes it once
      subjects.forEach(History.this::cutOff);
      subjects.forEach(History.this::gone);
    }

    private synchronized void adds(Watched watched) {
      subjects.add(watched);
      for (int back = 0; back <= days; back++) {
        left[back]++;
      }
    }

    private synchronized void isDone(int back) {
      left[back]--;
      int newest = 0;
      while (newest <= days && left[newest] == 0) {
        newest++;
      }
      String now =
          "history: "
              + Math.max(0, newest - 1)
              + " of "
              + days
              + " days of "
              + subjects.size()
              + " are there";
      if (newest > 0 && !now.equals(told)) {
        told = now;
        progress.accept(now);
      }
    }

    @Override
    public void close() {
      threads.shutdownNow();
    }
  }

  /** A day of one, that much before it came under watch. */
  private final class Day extends FutureTask<Void> implements Comparable<Day> {
    private final Writing writing;
    private final int back;

    Day(Writing writing, Watched watched, int back) {
      super(
          () ->
              day(
                  watched,
                  watched.since().truncatedTo(ChronoUnit.DAYS).minus(back, ChronoUnit.DAYS)),
          null);
      this.writing = writing;
      this.back = back;
    }

    @Override
    protected void done() {
      writing.isDone(back);
    }

    @Override
    public int compareTo(Day other) {
      return Integer.compare(back, other.back);
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

  /** One that did not come back was silent until it came under watch. */
  private void gone(Watched watched) {
    if (!watched.subject().name().equals(Story.GONE)) {
      return;
    }
    for (Pace pace : Pace.values()) {
      store
          .silences()
          .add(
              new Silence(
                  watched.instance(),
                  pace.code(),
                  story.goneFrom(),
                  watched.since(),
                  "refused",
                  "refused: nothing listened there after the change"));
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
    Optional<Instant> until = today ? Optional.of(end) : Optional.empty();
    readings.values().forEach(all -> old.addDay(day, until, all));
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
