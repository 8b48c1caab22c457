package jamjar.standins.history;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.standins.servers.Past;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.StoredReading;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class HistoryTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final Story STORY = new Story(END);
  private static final Profile WEATHER =
      Skerry.servers().stream().filter(p -> p.name().equals("weather-1")).findFirst().orElseThrow();

  private Store store;
  private History history;

  @BeforeEach
  void open() {
    TemporaryCluster cluster = TemporaryCluster.shared();
    store =
        Store.open(
            cluster.cluster().url(cluster.newDatabase()), "postgres", cluster.cluster().password());
    history = new History(store, STORY, Duration.ofDays(2));
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void it_is_written_before_what_is_read_now_and_only_once() throws Exception {
    History.Subject weather = History.servers(List.of(WEATHER), STORY, 4711).get(0);
    assertThat(written(weather)).isFalse();
    int instance = store.instances().add(instance(WEATHER.name(), "jvm", WEATHER.recipe()));
    Instant since = read(instance);

    assertThat(written(weather)).isTrue();
    long readings = store.readings().count(instance, 1);
    Instant midnight = since.truncatedTo(ChronoUnit.DAYS);
    long today = Duration.between(midnight, since).toSeconds() / 10;
    // of the last 24 hours one in ten seconds, and before that one a minute
    long fine = 8_640 - today;
    long wanted = 1 + today + fine + (8_640 - fine) / 6 + 1_440;
    // it could not be read while its site was cut off
    assertThat(readings).isBetween(wanted - 30, wanted + 3);
    List<StoredReading> all =
        store.readings().readings(instance, since.minusSeconds(100), since.plusSeconds(1));
    assertThat(all).hasSizeGreaterThanOrEqualTo(10);
    assertThat(written(weather)).isTrue();
    assertThat(store.readings().count(instance, 1)).isEqualTo(readings);
  }

  @Test
  void while_nothing_is_known_of_what_is_read_nothing_is_written() throws Exception {
    int instance = store.instances().add(instance(WEATHER.name(), "jvm", WEATHER.recipe()));
    Reading nothing = new Reading(END, 10_000, List.of(), new double[0], new WhyNothing[0]);
    LastTotals none = new LastTotals(END, 0, 0, 0, Set.of(), Map.of(), Set.of());
    keep(instance, 1, new Increases.Step(nothing, none));
    assertThat(written(History.servers(List.of(WEATHER), STORY, 4711).get(0))).isFalse();
    assertThat(store.readings().count(instance, 1)).isEqualTo(1);
  }

  @Test
  void what_is_read_seldom_belongs_to_the_first_minute_of_an_engine_too() {
    Recipe recipe = RecipeFile.shipped("postgresql").recipe();
    int instance = store.instances().add(instance(EngineStory.WRITER, "postgresql", "postgresql"));
    SeriesKey size = SeriesKey.of("size.database");
    SeriesKey sessions = SeriesKey.of("sessions.total");
    assertThat(recipe.counters()).containsKeys(size.counter(), sessions.counter());
    keep(instance, Pace.SLOW.code(), level(END.minusSeconds(20), size, 4e9));
    for (int i = 0; i < 8; i++) {
      keep(instance, Pace.FAST.code(), level(END.plusSeconds(10L * i), sessions, 12));
    }
    assertThat(history.calibration(EngineStory.WRITER, recipe).orElseThrow().series())
        .isEqualTo(
            Map.of(
                size, new Calibration.Usual(Pace.SLOW, false, 4e9),
                sessions, new Calibration.Usual(Pace.FAST, false, 12)));
  }

  private static Increases.Step level(Instant at, SeriesKey series, double value) {
    return new Increases.Step(
        new Reading(at, 10_000, List.of(series), new double[] {value}, new WhyNothing[1]),
        new LastTotals(at, 0, 0, 0, Set.of(series.counter()), Map.of(), Set.of()));
  }

  private void keep(int instance, int source, Increases.Step step) {
    store
        .readings()
        .write(
            List.of(
                new KeptReading(
                    instance, source, 10, 1, step.reading().at(), step, Judged.NOTHING)));
  }

  @Test
  void that_of_an_engine_joins_how_it_is_in_its_first_minute(@TempDir Path folder)
      throws Exception {
    Recipe recipe = RecipeFile.shipped("postgresql").recipe();
    int instance = store.instances().add(instance(EngineStory.WRITER, "postgresql", "postgresql"));
    Calibration usual = EnginePastTest.usual(END.plusSeconds(35));
    List<Increases.Step> steps = new ArrayList<>();
    new EnginePast(
            EngineStory.WRITER, recipe, usual, new EngineStory(STORY, END), at -> false, 4711)
        .read(END, END.plusSeconds(80), at -> 10, (source, every, step) -> steps.add(step));
    assertThat(history.calibration(EngineStory.WRITER, recipe)).isEmpty();
    steps.removeIf(step -> step.reading().at().isBefore(END));
    for (Increases.Step step : steps.subList(0, 8)) {
      keep(instance, 1, step);
    }
    // what its statements did must be known too
    assertThat(history.calibration(EngineStory.WRITER, recipe)).isEmpty();
    StatementKey key = new StatementKey("booking_app", "bookings", 42, true);
    StatementCounts counts = new StatementCounts(600, 1_200_000, 600, 6_000, 0, 0);
    store
        .statements()
        .put(
            instance,
            END.truncatedTo(ChronoUnit.HOURS),
            List.of(
                new Counted(END.plusSeconds(60), 60_000, 0, new TreeMap<>(Map.of(key, counts)))));
    Calibration found = history.calibration(EngineStory.WRITER, recipe).orElseThrow();
    assertThat(found.statements())
        .isEqualTo(Map.of(key, new Calibration.Ran(10, 2_000, 1, 10, 0, 0)));
    SeriesKey calls = SeriesKey.of("statements.calls");
    double mean = usual.series().get(calls).mean();
    assertThat(found.series().get(calls).mean()).isBetween(0.8 * mean, 1.25 * mean);
    Path file = folder.resolve("usual.json");
    found.write(file);
    assertThat(Calibration.read(file)).isEqualTo(found);

    EnginePast past =
        new EnginePast(
            EngineStory.WRITER, recipe, found, new EngineStory(STORY, END), at -> false, 4711);
    assertThat(written(new History.Subject(EngineStory.WRITER, "Northquay", past))).isTrue();
    // the day of the end, a whole one at a minute and what is between
    assertThat(store.readings().count(instance, 1)).isBetween(9_500L, 11_000L);
    int[] series = store.readings().numbers(instance, List.of(calls), END);
    double[] values =
        store.readings().samples(instance, series, END.minusSeconds(600), END).value();
    assertThat(values).hasSizeGreaterThan(55);
    for (double value : values) {
      assertThat(value).isBetween(5 * mean, 20 * mean);
    }
  }

  /** Writes it, if it is read. */
  private boolean written(History.Subject subject) throws Exception {
    try (History.Writing writing = history.begin(words -> {})) {
      boolean read = writing.add(subject);
      writing.await();
      return read;
    }
  }

  /** A reading as of now, by which it is known what is read of it. */
  private Instant read(int instance) {
    List<Increases.Step> steps = new ArrayList<>();
    new Past(WEATHER, RecipeFile.shipped(WEATHER.recipe()), Story.NONE, 1)
        .read(END, END.plusSeconds(30), at -> 10, (source, every, step) -> steps.add(step));
    Increases.Step step = steps.get(steps.size() - 1);
    keep(instance, 1, step);
    return step.reading().at();
  }

  private static InstanceRow instance(String name, String kind, String recipe) {
    return new InstanceRow(
        0,
        name,
        kind,
        "",
        "",
        "",
        new String[0],
        "127.0.0.1",
        1,
        "",
        "off",
        "",
        "",
        new byte[] {1},
        recipe,
        10,
        "Europe/Oslo",
        END,
        null,
        false,
        new String[0]);
  }
}
