package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Sampler.Sampled;
import jamjar.core.session.Forest;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class PostgresSamplerTest {
  private final Engine engine = new Engine(TemporaryCluster.shared());
  private final OwnCommits own = OwnCommits.after(Optional.empty(), "");
  private final PostgresSampler sampler =
      new PostgresSampler(engine.target(), own, Clock.systemUTC());
  private final List<Connection> opened = new ArrayList<>();
  private final ExecutorService threads = Executors.newCachedThreadPool();
  private final Map<Long, String> texts = new HashMap<>();

  @AfterEach
  void end() throws Exception {
    for (Connection connection : opened) {
      connection.abort(Runnable::run);
    }
    threads.shutdownNow();
    sampler.close();
  }

  /** A session of its own, in a transaction. */
  private Statement session(String program) throws SQLException {
    Connection connection = engine.cluster.connect(engine.database);
    opened.add(connection);
    Statement statement = connection.createStatement();
    statement.execute("set application_name = '" + program + "'");
    connection.setAutoCommit(false);
    return statement;
  }

  private void later(Statement statement, String sql) {
    threads.submit(() -> statement.execute(sql));
  }

  /** The sample of this database alone, once it is as wanted. */
  private Sample until(Predicate<Sample> wanted) throws CollectFailed {
    long by = System.nanoTime() + 60_000_000_000L;
    while (true) {
      Sampled sampled = sampler.sample();
      texts.putAll(sampled.texts());
      Sample all = sampled.sample();
      List<Session> here =
          all.sessions().stream().filter(s -> s.who().database().equals(engine.database)).toList();
      Sample sample = new Sample(all.at(), all.engineAt(), here, all.idle(), all.locks());
      if (wanted.test(sample)) {
        return sample;
      }
      if (System.nanoTime() > by) {
        throw new AssertionError("not as wanted: " + sample);
      }
    }
  }

  private static Session of(Sample sample, String program) {
    return sample.sessions().stream()
        .filter(s -> s.who().program().equals(program))
        .findFirst()
        .orElseThrow();
  }

  private static long waiting(Sample sample) {
    return sample.sessions().stream().filter(s -> !s.blockers().isEmpty()).count();
  }

  @Test
  void the_forest_is_that_of_the_engine() throws Exception {
    engine.cluster.run(
        engine.database,
        "create table berth (id int primary key, held int); create table quay (id int);"
            + " insert into berth select n, 0 from generate_series(1, 9) n");
    Statement holder = session("holder");
    holder.execute("update berth set held = 1 where id = 1");
    holder.execute("select count(*) from quay");
    Statement prepared = session("prepares");
    prepared.execute("update berth set held = 1 where id = 2");
    String gid = "pay-" + engine.database;
    prepared.execute("prepare transaction '" + gid + "'");
    Statement first = session("first");
    first.execute("update berth set held = 1 where id = 3");
    Statement second = session("second");
    second.execute("update berth set held = 1 where id = 4");
    later(first, "update berth set held = 2 where id = 1");
    until(sample -> waiting(sample) == 1);
    later(second, "update berth set held = 2 where id = 3");
    until(sample -> waiting(sample) == 2);
    later(session("third"), "update berth set held = 2 where id = 4");
    later(session("behind"), "update berth set held = 2 where id = 2");
    Statement change = session("change");
    later(change, "alter table quay add column name text");
    until(sample -> waiting(sample) == 5);
    later(session("reader one"), "select count(*) from quay");
    later(session("reader two"), "select count(*) from quay");
    Sample sample = until(s -> waiting(s) == 7);

    Forest forest = Forest.of(sample);
    assertThat(told(forest))
        .containsExactly(
            "holder, idle in transaction: 6 wait, 6 only for it, 3 deep",
            "  first",
            "    second",
            "      third",
            "  change",
            "    reader one, ahead",
            "    reader two, ahead",
            gid + ", prepared: 1 wait, 1 only for it, 1 deep",
            "  behind");
    assertThat(forest.queues())
        .singleElement()
        .satisfies(
            queue -> {
              assertThat(queue.session().who().program()).isEqualTo("change");
              assertThat(queue.frees()).isEqualTo(2);
            });
    assertThat(forest.cycles()).isEmpty();
    Session root = of(sample, "holder");
    assertThat(root.holds() & Session.XID).isNotZero();
    assertThat(texts.get(root.statement())).isEqualTo("select count(*) from quay");
    assertThat(texts.get(of(sample, "third").statement()))
        .isEqualTo("update berth set held = ? where id = ?");
    Session third = of(sample, "third");
    assertThat(third.waitsFor()).isEqualTo(new Session.Wait("Lock", "transactionid"));
    assertThat(third.waitedMs(sample.engineAt())).isNotNegative();
    assertThat(of(sample, gid).who().kind()).isEqualTo(Who.Kind.PREPARED);
    // from the locks alone it is the same
    Map<Integer, List<Integer>> reckoned = new LinkedHashMap<>();
    Conflicts.blockers(sample.locks(), sample.locks().stream().mapToLong(l -> 0).toArray())
        .forEach(reckoned::put);
    assertThat(reckoned.get(of(sample, "third").pid())).containsExactly(of(sample, "second").pid());
    assertThat(reckoned.get(of(sample, "behind").pid())).containsExactly(of(sample, gid).pid());
    engine.cluster.run(engine.database, "rollback prepared '" + gid + "'");
  }

  private static List<String> told(Forest forest) {
    List<String> lines = new ArrayList<>();
    for (Forest.Root root : forest.roots()) {
      Session session = root.session().orElseThrow();
      lines.add(
          session.who().program()
              + ", "
              + session.state().words()
              + ": "
              + root.waiters()
              + " wait, "
              + root.onlyBecause()
              + " only for it, "
              + root.depth()
              + " deep");
      nodes("  ", root.below(), lines);
    }
    return lines;
  }

  private static void nodes(String indent, List<Forest.Node> nodes, List<String> lines) {
    for (Forest.Node node : nodes) {
      lines.add(
          indent
              + node.session().who().program()
              + (node.ahead() ? ", ahead" : "")
              + (node.reference() ? ", again" : ""));
      nodes(indent + "  ", node.below(), lines);
    }
  }

  @Test
  void one_that_does_nothing_but_holds_an_advisory_lock_is_a_root() throws Exception {
    Connection connection = engine.cluster.connect(engine.database);
    opened.add(connection);
    try (Statement statement = connection.createStatement()) {
      statement.execute("set application_name = 'reload'");
      statement.execute("select pg_advisory_lock(4294967298)");
    }
    later(session("waits"), "select pg_advisory_lock(4294967298)");
    Sample sample = until(s -> waiting(s) == 1);
    Forest.Root root = Forest.of(sample).roots().get(0);
    assertThat(root.session().orElseThrow().state()).isEqualTo(Session.State.IDLE);
    assertThat(root.session().orElseThrow().who().program()).isEqualTo("reload");
    assertThat(root.below().get(0).wanted().orElseThrow().object())
        .isEqualTo("advisory lock 4294967298 (1, 2)");
  }

  @Test
  void what_does_nothing_is_counted_and_no_value_is_ever_kept() throws Exception {
    Connection idle = engine.cluster.connect(engine.database);
    opened.add(idle);
    try (Statement statement = idle.createStatement()) {
      statement.execute("set application_name = 'rests'");
    }
    Statement busy = session("works");
    later(busy, "select pg_sleep(60), 'planted literal', 4711 /* module='checkout' */");
    Statement secret = session("changes");
    secret.execute("alter role reader connection limit -1 password 'a reader''s'");
    Sample sample =
        until(
            s ->
                s.sessions().stream().anyMatch(one -> one.who().program().equals("works"))
                    && of(s, "works").isBusy()
                    && s.idle().stream().anyMatch(one -> one.program().equals("rests")));
    assertThat(sample.sessions()).extracting(s -> s.who().program()).doesNotContain("rests");
    assertThat(of(sample, "works").module()).isEqualTo("checkout");
    assertThat(texts.get(of(sample, "works").statement())).isEqualTo("select pg_sleep(?), ?, ?");
    assertThat(texts.get(of(sample, "changes").statement())).isEqualTo("alter role … (not kept)");
    assertThat(texts.values())
        .noneMatch(text -> text.contains("planted") || text.contains("reader''s"));
    assertThat(sample.sessions()).noneMatch(s -> s.who().program().startsWith("jamjar"));
    // what was not kept is told again
    sampler.dropped();
    Sampled again = sampler.sample();
    assertThat(again.texts()).containsKey(of(sample, "works").statement());
    assertThat(sampler.sample().texts()).doesNotContainKey(of(sample, "works").statement());
    assertThat(own.soFar()).isGreaterThan(2);
  }

  @Test
  void two_samples_on_one_connection_differ() throws Exception {
    Statement busy = session("sleeps");
    later(busy, "select pg_sleep(60)");
    Sample before = until(s -> s.sessions().stream().anyMatch(Session::isBusy));
    busy.getConnection().abort(Runnable::run);
    engine.cluster.run(
        "postgres", "select pg_terminate_backend(" + of(before, "sleeps").pid() + ")");
    Sample after = until(s -> s.sessions().isEmpty());
    assertThat(after.engineAt()).isGreaterThanOrEqualTo(before.engineAt());
  }

  @Test
  void parallel_workers_name_the_session_that_they_work_for() throws Exception {
    engine.cluster.run(
        engine.database,
        "create table wide as select g id from generate_series(1, 20000) g;"
            + " create function slow(int) returns boolean language plpgsql parallel safe as"
            + " $$ begin perform pg_sleep(0.05); return true; end $$; analyze wide");
    Statement wide = session("wide");
    for (String setting :
        List.of(
            "max_parallel_workers_per_gather = 2",
            "min_parallel_table_scan_size = 0",
            "parallel_setup_cost = 0",
            "parallel_tuple_cost = 0")) {
      wide.execute("set " + setting);
    }
    later(wide, "select count(*) from wide where slow(id)");
    Sample sample = until(s -> s.sessions().stream().anyMatch(one -> one.leader() != 0));
    Session leader =
        sample.sessions().stream().filter(one -> one.leader() == 0).findFirst().orElseThrow();
    assertThat(leader.who().program()).isEqualTo("wide");
    assertThat(sample.sessions())
        .filteredOn(one -> one.leader() != 0)
        .allMatch(one -> one.leader() == leader.pid())
        .allMatch(one -> one.who().kind() == Who.Kind.PARALLEL);
  }

  @Test
  void with_no_slot_left_sampling_goes_on_over_the_connection_that_is_kept() throws Exception {
    later(session("works"), "select pg_sleep(60)");
    until(s -> s.sessions().stream().anyMatch(Session::isBusy));
    engine.cluster.run("postgres", "alter database " + engine.database + " connection limit 1");
    try (PostgresSampler late = new PostgresSampler(engine.target(), own, Clock.systemUTC())) {
      CollectFailed refused = catchThrowableOfType(CollectFailed.class, late::sample);
      assertThat(refused.refusal().reason()).isEqualTo(Reason.FULL);
    }
    assertThat(of(until(s -> true), "works").isBusy()).isTrue();
  }

  @Test
  void a_role_that_may_not_see_others_is_told_what_to_grant() {
    engine.cluster.run(
        engine.database,
        "do $$ begin create role blind login password 'blind'; exception when duplicate_object"
            + " then null; end $$");
    try (PostgresSampler blind =
        new PostgresSampler(engine.target("blind", "blind"), own, Clock.systemUTC())) {
      for (int i = 0; i < 2; i++) {
        CollectFailed refused = catchThrowableOfType(CollectFailed.class, blind::sample);
        assertThat(refused.refusal().reason()).isEqualTo(Reason.NOT_PERMITTED);
        assertThat(refused.refusal().fix()).isEqualTo("grant pg_monitor to \"blind\";");
      }
    }
  }
}
