package jamjar.store;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.limit.AlertState;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.StoredReading;
import jamjar.store.readings.Told;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.List;
import java.util.zip.GZIPInputStream;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A database as it was left by an earlier version, with what a person had in it. */
class EarlierSchemaTest {
  private static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  private static final Instant LATER = Instant.parse("2026-12-01T00:00:00Z");

  @Test
  void the_sixth_schema_is_brought_up_to_date_and_nothing_is_lost(@TempDir Path folder)
      throws Exception {
    TemporaryCluster cluster = TemporaryCluster.shared();
    String database = cluster.newDatabase();
    Path dump = folder.resolve("schema-6.sql");
    try (InputStream in =
        new GZIPInputStream(getClass().getResourceAsStream("/earlier/schema-6.sql.gz"))) {
      Files.copy(in, dump, StandardCopyOption.REPLACE_EXISTING);
    }
    ProcessBuilder psql =
        new ProcessBuilder(
                "psql",
                "-q",
                "-v",
                "ON_ERROR_STOP=1",
                "-h",
                "127.0.0.1",
                "-p",
                Integer.toString(cluster.cluster().port()),
                "-U",
                "postgres",
                "-d",
                database,
                "-f",
                dump.toString())
            .redirectErrorStream(true);
    psql.environment().put("PGPASSWORD", cluster.cluster().password());
    Process process = psql.start();
    String output = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor()).as(output).isZero();

    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      assertThat(store.instances().all())
          .extracting(InstanceRow::name)
          .containsExactly("gate-9", "harbour-db", "Jam Jar");
      InstanceRow harbour = store.instances().byId(2).orElseThrow();
      assertThat(harbour.uses()).containsExactly("gate-9");
      assertThat(harbour.secret()).isNotEmpty();
      assertThat(store.instances().byId(3).orElseThrow().credential()).isEqualTo("readers");
      List<StoredReading> readings = store.readings().readings(2, EVER, LATER);
      assertThat(readings).hasSizeGreaterThan(5);
      // what was there is sealed in the background
      assertThat(store.readings().sealer().run(LATER).days()).isPositive();
      assertThat(Told.of(store.readings().readings(2, EVER, LATER))).isEqualTo(Told.of(readings));
      assertThat(store.readings().last(2, 1)).as("its target was changed last").isEmpty();
      assertThat(store.readings().key(243).orElseThrow().counter()).isEqualTo("own.queries");
      assertThat(store.markers().touching(EVER, LATER)).hasSize(2);
      assertThat(store.arrangements().all()).hasSize(1);
      assertThat(store.groups().all()).hasSize(1);
      assertThat(store.rules().byId(72)).isPresent();

      // what was open goes on; of an instance that was removed nothing is open any more
      assertThat(store.alerts().open())
          .extracting(AlertRow::instance)
          .containsExactlyInAnyOrder(2, 3);
      assertThat(store.states().ofInstance(3).values())
          .extracting(state -> state.state())
          .containsExactly(AlertState.WARNING);
      assertThat(store.states().ofInstance(4)).isEmpty();
      AlertRow removed = store.alerts().byId(3).orElseThrow();
      assertThat(removed.state()).isEqualTo("removed");
      assertThat(removed.endedAt()).isNotNull();
      assertThat(store.alerts().transitions(new long[] {3}))
          .extracting(TransitionRow::toState)
          .containsExactly("warning", "removed");
      assertThat(store.alerts().notes(new long[] {2})).hasSize(1);
      assertThat(store.alerts().byId(2).orElseThrow().seenNote()).contains("noon");
    }
  }

  @Test
  void what_was_judged_afterwards_twice_is_there_once_with_all_that_was_said() {
    TemporaryCluster cluster = TemporaryCluster.shared();
    String database = cluster.newDatabase();
    Flyway.configure(Store.class.getClassLoader())
        .dataSource(cluster.cluster().url(database), "postgres", cluster.cluster().password())
        .locations("classpath:db/migration")
        .target("26")
        .load()
        .migrate();
    cluster.run(
        database,
        """
        insert into instance (name, kind, group_name, site, machine, tags, host, port, database, tls,
          ca, user_name, secret, recipe, interval_s, zone, created_at, paused, uses)
        values ('harbour-db', 'postgresql', '', '', '', '{}', '127.0.0.1', 1, '', 'off', '', '', '',
          'postgresql', 10, 'UTC', now(), false, '{}')
        """);
    cluster.run(
        database,
        """
        insert into alert (rule, instance, series, counter, labels, condition, state, severity,
          since, ended_at, value, normal_low, normal_high, number, worst, flapping, seen_at, afterwards)
        select 1, (select id from instance), 5, 'locks.oldest_wait', '{}', 'ABOVE', 'calm', 'warning',
          timestamptz '2026-11-01 10:00Z', timestamptz '2026-11-01 11:00Z', 9, 0, 0, 5, 9, false,
          case n when 2 then now() end, true
        from generate_series(1, 3) n
        """);
    cluster.run(database, "update alert set bundle = 1");
    cluster.run(
        database,
        "insert into alert_note (alert, at, who, note) values (1, now(), 'local', 'the fares')");
    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      assertThat(store.alerts().byId(2)).isPresent();
      assertThat(store.alerts().byId(1)).isEmpty();
      assertThat(store.alerts().byId(3)).isEmpty();
      assertThat(cluster.number(database, "select alert from alert_note")).isEqualTo(2);
    }
  }
}
