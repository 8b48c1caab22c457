package jamjar.standins.history;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Change;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.standins.booking.Doing;
import jamjar.standins.history.Calibration.Ran;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class CountedPastTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final EngineStory ENGINES = new EngineStory(new Story(END), END);
  private static final Recipe RECIPE = RecipeFile.shipped("postgresql").recipe();
  private static final String CLEAR = Doing.FILE_MANIFEST.sql(1);
  private static final String FILE = Doing.FILE_MANIFEST.sql(0);

  private static StatementKey key(String sql) {
    return new StatementKey("app", "db", StatementText.of(sql).fingerprint(), true);
  }

  /** Half of the time is of the statement that the story changes. */
  private static Calibration usual(String changed, String other) {
    Calibration counters = EnginePastTest.usual(END);
    Map<StatementKey, Ran> ran = new TreeMap<>();
    ran.put(key(changed), new Ran(40, 3_125, 1, 10, 0.1, 0));
    ran.put(key(other), new Ran(50, 2_500, 1, 10, 0.1, 0));
    return new Calibration(END, counters.series(), ran);
  }

  private static EnginePast engine(String name, Calibration usual) {
    return new EnginePast(name, RECIPE, usual, ENGINES, at -> false, 4711);
  }

  private static CountedPast past(String name, Calibration usual) {
    return new CountedPast(name, engine(name, usual), usual, ENGINES, at -> false, 4711);
  }

  private static Counted sum(CountedPast past, Instant from, Duration length) {
    Counted.Sum sum = new Counted.Sum();
    past.between(from, from.plus(length)).forEach(sum::add);
    return sum.until(from.plus(length));
  }

  private static Change change(String sql, Counted before, Counted now) {
    return Change.of(
        before.statements().get(key(sql)),
        before.elapsedMs(),
        now.statements().get(key(sql)),
        now.elapsedMs());
  }

  @Test
  void without_its_index_one_statement_is_slower_and_the_split_says_so() {
    CountedPast past = past(EngineStory.FREIGHT, usual(CLEAR, FILE));
    Instant dropped = Story.daysAgo(END, 9, LocalTime.of(10, 20));
    Counted before = sum(past, dropped.minus(Duration.ofHours(1)), Duration.ofHours(1));
    Counted now = sum(past, dropped, Duration.ofHours(1));
    Change it = change(CLEAR, before, now);
    assertThat(it.slower()).isGreaterThan(0.9 * it.total());
    assertThat(it.slower() + it.moreOften()).isEqualTo(it.total(), within(1e-9));
    Change other = change(FILE, before, now);
    assertThat(Math.abs(other.total())).isLessThan(0.1 * it.total());
    // and is as before when the index is back
    Instant back = Story.daysAgo(END, 7, LocalTime.of(15, 40));
    Counted after = sum(past, back.plusSeconds(60), Duration.ofHours(1));
    StatementCounts then = after.statements().get(key(CLEAR));
    assertThat((double) then.timeUs() / then.calls()).isCloseTo(3_125, withinPercentage(20));
  }

  @Test
  void its_statements_add_up_to_what_the_counters_tell() {
    Calibration usual = usual(Doing.LOYALTY.sql(0), Doing.PAY.sql(0));
    for (Duration ago : List.of(Duration.ofDays(3), Duration.ofMinutes(70))) {
      Instant from = END.minus(ago);
      Counted counted = sum(past(EngineStory.WRITER, usual), from, Duration.ofHours(1));
      double[] told = new double[2];
      engine(EngineStory.WRITER, usual)
          .read(
              from,
              from.plus(Duration.ofHours(1)),
              at -> 60,
              (pace, every, step) -> {
                List<SeriesKey> series = step.reading().series();
                int time = series.indexOf(SeriesKey.of("statements.time"));
                Instant at = step.reading().at();
                if (time >= 0 && at.isAfter(from) && at.isBefore(from.plusSeconds(3_600))) {
                  told[0] += step.reading().values()[time];
                  told[1] +=
                      step.reading().values()[series.indexOf(SeriesKey.of("statements.calls"))];
                }
              });
      assertThat((double) counted.top().timeUs()).isCloseTo(told[0], withinPercentage(12));
      assertThat((double) counted.top().calls()).isCloseTo(told[1], withinPercentage(12));
    }
  }

  @Test
  void what_waited_for_the_fare_reload_is_booked_when_it_lets_go() {
    Calibration usual = usual(Doing.LOYALTY.sql(0), Doing.HOLD_BERTH.sql(0));
    CountedPast past = past(EngineStory.WRITER, usual);
    Instant over = Story.daysAgo(END, 16, LocalTime.of(2, 52));
    StatementKey held = key(Doing.HOLD_BERTH.sql(0));
    long before = past.minute(over.minusSeconds(60)).statements().get(held).timeUs();
    long then = past.minute(over).statements().get(held).timeUs();
    // nine, of these five for it directly: after 0.4 s, 1.4 s, then one each minute, of 2460 s
    double waited = 5 * 2_460 - 0.4 - 1.4 - 60 * (1 + 2 + 3);
    assertThat(then - before).isGreaterThan((long) (waited * 1e6));
    assertThat(past.minute(over.plusSeconds(60)).statements().get(held).timeUs())
        .isLessThan(2 * before);
  }

  @Test
  void it_is_the_same_whenever_it_is_asked_for_and_nothing_while_it_was_cut_off() {
    Calibration usual = usual(CLEAR, FILE);
    Instant from = END.minus(Duration.ofDays(20));
    assertThat(past(EngineStory.FREIGHT, usual).between(from, from.plusSeconds(600)))
        .isEqualTo(past(EngineStory.FREIGHT, usual).between(from, from.plusSeconds(600)))
        .hasSize(10);
    CountedPast cutOff =
        new CountedPast(
            EngineStory.FREIGHT,
            engine(EngineStory.FREIGHT, usual),
            usual,
            ENGINES,
            at -> at.isBefore(from.plusSeconds(300)),
            4711);
    assertThat(cutOff.between(from, from.plusSeconds(600))).hasSize(5);
  }
}
