package jamjar.store;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import jamjar.store.accounts.AccountMapper;
import jamjar.store.alerts.AlertMapper;
import jamjar.store.alerts.JudgedStore;
import jamjar.store.alerts.WhatToDoMapper;
import jamjar.store.arrangements.ArrangementMapper;
import jamjar.store.changes.ChangeMapper;
import jamjar.store.credentials.CredentialMapper;
import jamjar.store.facts.FactMapper;
import jamjar.store.facts.FactStore;
import jamjar.store.groups.GroupMapper;
import jamjar.store.instances.InstanceMapper;
import jamjar.store.intake.Intake;
import jamjar.store.intake.JournalMapper;
import jamjar.store.journal.JournalFiles;
import jamjar.store.journal.LocalFiles;
import jamjar.store.keeping.KeepingMapper;
import jamjar.store.keeping.SizeMapper;
import jamjar.store.limits.LimitStates;
import jamjar.store.limits.RuleMapper;
import jamjar.store.logs.LogStore;
import jamjar.store.mapping.ArrayHandlers;
import jamjar.store.mapping.LabelsHandler;
import jamjar.store.mapping.RecordConfiguration;
import jamjar.store.markers.MarkerMapper;
import jamjar.store.normals.NormalStore;
import jamjar.store.packed.PackedHours;
import jamjar.store.readings.ReadingStore;
import jamjar.store.samples.SampleStore;
import jamjar.store.series.SeriesMapper;
import jamjar.store.silences.SilenceMapper;
import jamjar.store.statements.StatementStore;
import jamjar.store.telling.TellingMapper;
import jamjar.store.threads.DumpStore;
import jamjar.store.watching.WatchingMapper;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.LocalCacheScope;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.SqlSessionFactoryBuilder;
import org.apache.ibatis.session.SqlSessionManager;
import org.apache.ibatis.transaction.TransactionFactory;
import org.apache.ibatis.transaction.jdbc.JdbcTransactionFactory;
import org.flywaydb.core.Flyway;
import org.mybatis.spring.SqlSessionTemplate;
import org.mybatis.spring.transaction.SpringManagedTransactionFactory;
import org.springframework.jdbc.datasource.DataSourceTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The database behind Jam Jar: opens it, brings its tables up to date and hands out what lies in
 * it.
 *
 * <p>Four pools, so that none waits for another: what is written by watching and judging, what
 * persons ask and change, the sessions of their browsers, and the beat by which it is known whether
 * the database answers.
 */
public final class Store implements AutoCloseable {
  private static final int READY_SECONDS = 60;

  private final Pool writing;
  private final Pool asking;
  private final Pool beating;
  private final Pool visiting;
  private final SqlSession session;
  private final TransactionTemplate transactions;
  private final ReadingStore readings;
  private final LimitStates states;
  private final JudgedStore judged;
  private final FactStore facts;
  private final NormalStore normals;
  private final SampleStore samples;
  private final StatementStore statements;
  private final LogStore logs;
  private final DumpStore dumps;
  private final SqlSession beat;
  private final SqlSession watched;
  private final SqlSessionFactory writer;

  /** A pool and how its connections are broken off. */
  private record Pool(HikariDataSource source, Connections connections, Patient patient) {
    static Pool of(
        String purpose,
        String url,
        String user,
        String password,
        int size,
        int waitMillis,
        int answerSeconds,
        String options) {
      Connections connections =
          new Connections(
              url,
              Map.of(
                  "ApplicationName", "jamjar-" + purpose,
                  "prepareThreshold", "1",
                  // inserts in a row go out as one with all their values; an upsert must not meet
                  // a row twice in one: where it may, it selects its values, and goes out alone
                  "reWriteBatchedInserts", "true",
                  "tcpKeepAlive", "true",
                  "connectTimeout", "5",
                  "options", options,
                  "socketTimeout", Integer.toString(answerSeconds)));
      HikariConfig config = new HikariConfig();
      config.setDataSource(connections);
      config.setUsername(user);
      config.setPassword(password);
      // a process may hold several stores: each pool is told apart
      config.setPoolName(purpose + "-" + POOLS.incrementAndGet());
      config.setMaximumPoolSize(size);
      config.setMinimumIdle(1);
      config.setConnectionTimeout(waitMillis);
      config.setValidationTimeout(Math.min(waitMillis, 1_000));
      config.setInitializationFailTimeout(-1);
      HikariDataSource source = new HikariDataSource(config);
      return new Pool(source, connections, new Patient(source));
    }
  }

  private static final AtomicInteger POOLS = new AtomicInteger();
  private static final String NO_LIMITS = "-c statement_timeout=0";

  /** What a person asks ends by then, so that it holds up nothing else. */
  private static final String NOBODY_WAITS_LONGER = "-c statement_timeout=60s -c lock_timeout=10s";

  /** That a session was used is written now and then: nobody waits for the disk. */
  private static final String SOON_ON_DISK = "-c statement_timeout=5s -c synchronous_commit=off";

  private Store(Pool writing, Pool asking, Pool beating, Pool visiting) {
    this.writing = writing;
    this.asking = asking;
    this.beating = beating;
    this.visiting = visiting;
    // by it is known whether the database answers: it is not waited for
    beating.patient().answers(false);
    this.writer = factory(writing, new JdbcTransactionFactory());
    this.session = new SqlSessionTemplate(factory(asking, new SpringManagedTransactionFactory()));
    this.transactions = new TransactionTemplate(new DataSourceTransactionManager(asking.patient()));
    this.beat = SqlSessionManager.newInstance(factory(beating, new JdbcTransactionFactory()));
    this.watched = SqlSessionManager.newInstance(writer);
    SqlSessionFactory asker = factory(asking, new JdbcTransactionFactory());
    this.readings = new ReadingStore(writer, watched, asker, StoreAway::is);
    this.normals = new NormalStore(writer, asker);
    this.samples = new SampleStore(writer, asker);
    this.statements = new StatementStore(writer, asker);
    this.logs = new LogStore(writer, asker);
    this.dumps = new DumpStore(writer, asker);
    this.states = new LimitStates(watched);
    this.judged = new JudgedStore(writer);
    this.facts = new FactStore(watched);
  }

  /**
   * @param url JDBC address of a PostgreSQL database
   * @param user owner of its tables
   */
  public static Store open(String url, String user, String password) {
    Flyway.configure(Store.class.getClassLoader())
        .dataSource(url, user, password)
        .connectRetries(READY_SECONDS)
        .connectRetriesInterval(1)
        .locations("classpath:db/migration")
        .load()
        .migrate();
    return new Store(
        Pool.of("writing", url, user, password, 5, 1_000, 60, NO_LIMITS),
        Pool.of("asking", url, user, password, 10, 1_000, 180, NOBODY_WAITS_LONGER),
        Pool.of("beating", url, user, password, 1, 1_000, 2, NO_LIMITS),
        Pool.of("visiting", url, user, password, 4, 1_000, 10, SOON_ON_DISK));
  }

  private static SqlSessionFactory factory(Pool pool, TransactionFactory transactions) {
    return new SqlSessionFactoryBuilder().build(configuration(pool.patient(), transactions));
  }

  /** Does several things in one transaction: all of them or none. */
  public <T> T inOne(Supplier<T> work) {
    return transactions.execute(status -> work.get());
  }

  /** As above. */
  public void inOne(Runnable work) {
    transactions.executeWithoutResult(status -> work.run());
  }

  /** Ends what persons wait for, as the database does not answer. */
  public void breakOff() {
    asking.connections().breakOff();
    visiting.connections().breakOff();
  }

  /** Asks the database for a little; fails within two seconds where it does not answer. */
  public void ask() {
    boolean answered = false;
    try {
      beat.getMapper(WatchingMapper.class).lastKnown();
      answered = true;
    } finally {
      writing.patient().answers(answered);
      asking.patient().answers(answered);
      visiting.patient().answers(answered);
    }
  }

  public WatchingMapper watching() {
    return session.getMapper(WatchingMapper.class);
  }

  public ChangeMapper changes() {
    return session.getMapper(ChangeMapper.class);
  }

  public InstanceMapper instances() {
    return session.getMapper(InstanceMapper.class);
  }

  public SeriesMapper series() {
    return session.getMapper(SeriesMapper.class);
  }

  /** Written by watching: it has the pool of that. */
  public SilenceMapper silences() {
    return watched.getMapper(SilenceMapper.class);
  }

  public RuleMapper rules() {
    return session.getMapper(RuleMapper.class);
  }

  public AlertMapper alerts() {
    return session.getMapper(AlertMapper.class);
  }

  public TellingMapper telling() {
    return session.getMapper(TellingMapper.class);
  }

  public WhatToDoMapper whatToDo() {
    return session.getMapper(WhatToDoMapper.class);
  }

  public GroupMapper groups() {
    return session.getMapper(GroupMapper.class);
  }

  public ArrangementMapper arrangements() {
    return session.getMapper(ArrangementMapper.class);
  }

  public FactStore facts() {
    return facts;
  }

  public SizeMapper sizes() {
    return session.getMapper(SizeMapper.class);
  }

  public KeepingMapper keeping() {
    return session.getMapper(KeepingMapper.class);
  }

  public AccountMapper accounts() {
    return session.getMapper(AccountMapper.class);
  }

  /** Where the sessions of browsers are kept: a power cut may lose what is a second old. */
  public DataSource sessions() {
    return visiting.patient();
  }

  public CredentialMapper credentials() {
    return session.getMapper(CredentialMapper.class);
  }

  public MarkerMapper markers() {
    return session.getMapper(MarkerMapper.class);
  }

  public LimitStates states() {
    return states;
  }

  public JudgedStore judged() {
    return judged;
  }

  /**
   * The way in of what is watched, by a journal.
   *
   * @param folder the journal's
   * @param mostBytes how long it may become while the database is away
   * @param changed is told what kinds of lists are other ones now
   */
  public Intake intake(Path folder, long mostBytes, Clock clock, Consumer<String> changed) {
    return intake(folder, LocalFiles::new, mostBytes, clock, changed);
  }

  /**
   * As above.
   *
   * @param files how the journal lies in its folder
   */
  public Intake intake(
      Path folder, JournalFiles.In files, long mostBytes, Clock clock, Consumer<String> changed) {
    try {
      return new Intake(writer, readings, folder, files, mostBytes, clock, changed, StoreAway::is);
    } catch (IOException e) {
      throw new UncheckedIOException("the journal in " + folder + " can't be used", e);
    }
  }

  public NormalStore normals() {
    return normals;
  }

  public SampleStore samples() {
    return samples;
  }

  public StatementStore statements() {
    return statements;
  }

  public LogStore logs() {
    return logs;
  }

  public DumpStore dumps() {
    return dumps;
  }

  public ReadingStore readings() {
    return readings;
  }

  @Override
  public void close() {
    for (Pool pool : List.of(beating, visiting, asking, writing)) {
      pool.source().close();
    }
  }

  static Configuration configuration(DataSource database, TransactionFactory transactions) {
    Configuration configuration =
        new RecordConfiguration(new Environment("store", transactions, database));
    configuration.setLocalCacheScope(LocalCacheScope.STATEMENT);
    configuration.setCacheEnabled(false);
    var handlers = configuration.getTypeHandlerRegistry();
    handlers.register(double[].class, new ArrayHandlers.Doubles());
    handlers.register(long[].class, new ArrayHandlers.Longs());
    handlers.register(int[].class, new ArrayHandlers.Ints());
    handlers.register(byte[][].class, new ArrayHandlers.Bytes());
    handlers.register(String[].class, new ArrayHandlers.Texts());
    handlers.register(SortedMap.class, new LabelsHandler());
    configuration.addMapper(AccountMapper.class);
    configuration.addMapper(InstanceMapper.class);
    configuration.addMapper(GroupMapper.class);
    configuration.addMapper(TellingMapper.class);
    configuration.addMapper(WhatToDoMapper.class);
    configuration.addMapper(ArrangementMapper.class);
    configuration.addMapper(SeriesMapper.class);
    configuration.addMapper(SilenceMapper.class);
    configuration.addMapper(RuleMapper.class);
    configuration.addMapper(AlertMapper.class);
    configuration.addMapper(MarkerMapper.class);
    configuration.addMapper(CredentialMapper.class);
    configuration.addMapper(FactMapper.class);
    configuration.addMapper(WatchingMapper.class);
    configuration.addMapper(ChangeMapper.class);
    configuration.addMapper(JournalMapper.class);
    configuration.addMapper(KeepingMapper.class);
    configuration.addMapper(SizeMapper.class);
    LimitStates.addMapper(configuration);
    NormalStore.addMapper(configuration);
    PackedHours.addMapper(configuration);
    StatementStore.addMapper(configuration);
    DumpStore.addMapper(configuration);
    ReadingStore.addMapper(configuration);
    return configuration;
  }
}
