package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.ByHand;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a person reads by hand is what was read: theirs, ours, theirs, of every counter. */
class QueriesByHandTest {
  /** Others use the engine meanwhile: each must agree once. */
  private static final int ROUNDS = 30;

  private static final double CLOSE = 1e-9;

  private final Engine engine = new Engine(TemporaryCluster.shared());
  private final OwnCommits own = OwnCommits.after(Optional.empty(), "");

  @Test
  void every_value_that_is_read_can_be_read_by_hand() throws Exception {
    for (Pace pace : new Pace[] {Pace.FAST, Pace.SLOW}) {
      try (PostgresCollector collector =
              PostgresCollector.of(
                  engine.target(),
                  RecipeFile.shipped("postgresql").recipe(),
                  pace,
                  own,
                  Clock.systemUTC());
          Connection connection = engine.cluster.connect(engine.database)) {
        collector.read();
        Set<SeriesKey> disagree = new LinkedHashSet<>();
        collector.read().values().stream()
            .filter(QueriesByHandTest::isRead)
            .forEach(v -> disagree.add(v.series()));
        assertThat(disagree).hasSizeGreaterThan(5);
        for (int round = 0; round < ROUNDS && !disagree.isEmpty(); round++) {
          Map<SeriesKey, Double> before = byHand(connection, disagree, collector);
          RawReading ours = collector.read();
          Map<SeriesKey, Double> after = byHand(connection, disagree, collector);
          for (RawValue value : ours.values()) {
            SeriesKey key = value.series();
            if (disagree.contains(key) && lies(number(value), before.get(key), after.get(key))) {
              disagree.remove(key);
            }
          }
          // what is gone since can be asked no more
          disagree.removeIf(key -> ours.values().stream().noneMatch(v -> v.series().equals(key)));
        }
        assertThat(disagree).isEmpty();
      }
    }
  }

  @Test
  void nothing_in_a_label_becomes_a_command() throws Exception {
    try (PostgresCollector collector =
        PostgresCollector.of(
            engine.target(),
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            own,
            Clock.systemUTC())) {
      SeriesKey odd = SeriesKey.of("vacuum.age", "database", "x'; drop table y; --");
      assertThat(collector.byHand(odd)).isEmpty();
      collector.read();
      assertThat(collector.byHand(odd).orElseThrow().text())
          .isEqualTo(
              "select age(datfrozenxid) from pg_database where datname = 'x''; drop table y; --';");
      // whether backslashes mean something is the engine's to say
      SeriesKey slash = SeriesKey.of("vacuum.age", "database", "x\\'; drop table y; --");
      assertThat(collector.byHand(slash).orElseThrow().text())
          .endsWith("datname = E'x\\\\''; drop table y; --';");
      assertThat(collector.byHand(SeriesKey.of("statements.calls")).orElseThrow().text())
          .contains(" from \"public\".pg_stat_statements(false)");
    }
  }

  /** All but what the collector counts of itself, and what no value is told of. */
  private static boolean isRead(RawValue value) {
    String counter = value.series().counter();
    boolean counted = counter.matches("own\\.(reading_time|queries|commits)");
    // without our own commits, which no query tells apart
    boolean apart = counter.equals(OwnCommits.COMMITTED);
    return !counted && !apart && !Double.isNaN(number(value));
  }

  private static double number(RawValue value) {
    if (value instanceof RawValue.Total total) {
      return total.value();
    }
    return value instanceof RawValue.Level level ? level.value() : Double.NaN;
  }

  private static boolean lies(double ours, double before, double after) {
    double slack = CLOSE * Math.max(1, Math.abs(ours));
    return ours >= Math.min(before, after) - slack && ours <= Math.max(before, after) + slack;
  }

  private static Map<SeriesKey, Double> byHand(
      Connection connection, Set<SeriesKey> keys, PostgresCollector collector) throws SQLException {
    Map<SeriesKey, Double> all = new HashMap<>();
    for (SeriesKey key : keys) {
      Optional<ByHand> how = collector.byHand(key);
      assertThat(how).as(key.toString()).isPresent();
      assertThat(how.get().text()).doesNotContain("{").endsWith(";");
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery(how.get().text())) {
        assertThat(rows.next()).as(key.toString()).isTrue();
        all.put(key, rows.getDouble(1));
      }
    }
    return all;
  }
}
