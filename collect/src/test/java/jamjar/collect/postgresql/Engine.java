package jamjar.collect.postgresql;

import jamjar.collect.Target;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.Reading;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Optional;

/** A real engine to watch in tests, in a database of its own, with a reader role. */
final class Engine {
  static final String READER = "reader";
  static final String PASSWORD = "a reader's";
  static final Recipe RECIPE = RecipeFile.shipped("postgresql").recipe();

  final TemporaryCluster cluster;
  final String database;
  private Optional<LastTotals> last = Optional.empty();

  Engine(TemporaryCluster cluster) {
    this.cluster = cluster;
    this.database = cluster.newDatabase();
    cluster.run(database, "create extension pg_stat_statements");
    // where all look: who comes second waits
    cluster.run(
        "postgres",
        "do $$ begin perform pg_advisory_xact_lock(1); create role reader login password 'a reader''s'; grant pg_monitor to reader;"
            + " exception when duplicate_object then null; end $$");
    untilNobodyIsLeft();
  }

  /** A session's counts are booked before it leaves, a moment after its client has gone. */
  void untilNobodyIsLeft() {
    String sessions = "select count(*) from pg_stat_activity where datname = ?";
    try (Connection connection = cluster.connect("postgres");
        PreparedStatement statement = connection.prepareStatement(sessions)) {
      statement.setString(1, database);
      long count;
      do {
        try (ResultSet row = statement.executeQuery()) {
          row.next();
          count = row.getLong(1);
        }
      } while (count > 0);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  Target target() {
    return target(READER, PASSWORD);
  }

  Target target(String user, String password) {
    return new Target(
        "127.0.0.1", cluster.cluster().port(), database, Target.Tls.OFF, "", user, password);
  }

  /** What is kept of a raw reading, after those before. */
  Reading derive(RawReading raw) {
    Increases.Step step = Increases.derive(last, raw, RECIPE);
    last = Optional.of(step.last());
    return step.reading();
  }
}
