package jamjar.store;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import jamjar.store.alerts.AlertMapper;
import jamjar.store.alerts.JudgedStore;
import jamjar.store.arrangements.ArrangementMapper;
import jamjar.store.credentials.CredentialMapper;
import jamjar.store.facts.FactMapper;
import jamjar.store.facts.FactStore;
import jamjar.store.groups.GroupMapper;
import jamjar.store.instances.InstanceMapper;
import jamjar.store.limits.LimitStates;
import jamjar.store.limits.RuleMapper;
import jamjar.store.mapping.ArrayHandlers;
import jamjar.store.mapping.LabelsHandler;
import jamjar.store.markers.MarkerMapper;
import jamjar.store.readings.ReadingStore;
import jamjar.store.series.SeriesMapper;
import jamjar.store.silences.SilenceMapper;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.SortedMap;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.LocalCacheScope;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.SqlSessionFactoryBuilder;
import org.apache.ibatis.session.SqlSessionManager;
import org.apache.ibatis.transaction.jdbc.JdbcTransactionFactory;
import org.flywaydb.core.Flyway;

/**
 * The database behind Jam Jar: opens it, brings its tables up to date and hands out what lies in
 * it.
 */
public final class Store implements AutoCloseable {
  private final HikariDataSource database;
  private final SqlSessionManager session;
  private final ReadingStore readings;
  private final LimitStates states;
  private final JudgedStore judged;
  private final FactStore facts;

  private Store(HikariDataSource database) {
    this.database = database;
    Flyway.configure(getClass().getClassLoader())
        .dataSource(database)
        .locations("classpath:db/migration")
        .load()
        .migrate();
    SqlSessionFactory factory = new SqlSessionFactoryBuilder().build(configuration(database));
    this.session = SqlSessionManager.newInstance(factory);
    this.readings = new ReadingStore(factory, session);
    this.states = new LimitStates(session);
    this.judged = new JudgedStore(factory);
    this.facts = new FactStore(factory, session);
  }

  /**
   * @param url JDBC address of a PostgreSQL database
   * @param user owner of its tables
   */
  public static Store open(String url, String user, String password) {
    HikariConfig config = new HikariConfig();
    config.setJdbcUrl(url);
    config.setUsername(user);
    config.setPassword(password);
    config.setPoolName("store");
    config.setRegisterMbeans(true);
    config.setMaximumPoolSize(10);
    config.setMinimumIdle(1);
    config.addDataSourceProperty("ApplicationName", "jamjar-store");
    config.addDataSourceProperty("prepareThreshold", "1");
    config.addDataSourceProperty("reWriteBatchedInserts", "true");
    config.addDataSourceProperty("tcpKeepAlive", "true");
    return new Store(new HikariDataSource(config));
  }

  public InstanceMapper instances() {
    return session.getMapper(InstanceMapper.class);
  }

  public SeriesMapper series() {
    return session.getMapper(SeriesMapper.class);
  }

  public SilenceMapper silences() {
    return session.getMapper(SilenceMapper.class);
  }

  public RuleMapper rules() {
    return session.getMapper(RuleMapper.class);
  }

  public AlertMapper alerts() {
    return session.getMapper(AlertMapper.class);
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

  public ReadingStore readings() {
    return readings;
  }

  /** Whether the database answers within two seconds. */
  public boolean answers() {
    try (Connection connection = database.getConnection()) {
      return connection.isValid(2);
    } catch (SQLException e) {
      return false;
    }
  }

  @Override
  public void close() {
    database.close();
  }

  private static Configuration configuration(HikariDataSource database) {
    Configuration configuration =
        new Configuration(new Environment("store", new JdbcTransactionFactory(), database));
    configuration.setMapUnderscoreToCamelCase(true);
    configuration.setArgNameBasedConstructorAutoMapping(true);
    configuration.setLocalCacheScope(LocalCacheScope.STATEMENT);
    configuration.setCacheEnabled(false);
    var handlers = configuration.getTypeHandlerRegistry();
    handlers.register(double[].class, new ArrayHandlers.Doubles());
    handlers.register(long[].class, new ArrayHandlers.Longs());
    handlers.register(int[].class, new ArrayHandlers.Ints());
    handlers.register(String[].class, new ArrayHandlers.Texts());
    handlers.register(SortedMap.class, new LabelsHandler());
    configuration.addMapper(InstanceMapper.class);
    configuration.addMapper(GroupMapper.class);
    configuration.addMapper(ArrangementMapper.class);
    configuration.addMapper(SeriesMapper.class);
    configuration.addMapper(SilenceMapper.class);
    configuration.addMapper(RuleMapper.class);
    configuration.addMapper(AlertMapper.class);
    configuration.addMapper(MarkerMapper.class);
    configuration.addMapper(CredentialMapper.class);
    configuration.addMapper(FactMapper.class);
    LimitStates.addMapper(configuration);
    ReadingStore.addMapper(configuration);
    return configuration;
  }
}
