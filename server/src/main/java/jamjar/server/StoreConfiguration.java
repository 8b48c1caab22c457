package jamjar.server;

import jamjar.server.live.LiveStreams;
import jamjar.server.problems.Gate;
import jamjar.server.problems.ProblemWriter;
import jamjar.server.settings.Settings;
import jamjar.server.watching.OwnCluster;
import jamjar.server.watching.StoreThere;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.cluster.PrivateCluster;
import jamjar.store.intake.Intake;
import java.time.Clock;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.boot.task.ThreadPoolTaskSchedulerCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Lazy;
import org.springframework.core.Ordered;
import org.springframework.web.servlet.HandlerExceptionResolver;

/** The store, the clock and the shipped recipes. */
@Configuration
class StoreConfiguration {
  private static final Logger LOG = LoggerFactory.getLogger(StoreConfiguration.class);

  /**
   * Ends the private cluster after the store has been closed; does nothing when the database is
   * elsewhere.
   */
  record Cluster(PrivateCluster started) implements AutoCloseable, OwnCluster {
    static final Map<String, String> SETTINGS =
        Map.of(
            "shared_buffers", "128MB",
            "max_connections", "40",
            "max_wal_size", "1GB",
            "wal_compression", "on",
            "logging_collector", "off");

    @Override
    public boolean runs() {
      return started == null || started.running();
    }

    @Override
    public void startAgain() {
      started.start(SETTINGS);
    }

    @Override
    public void close() {
      if (started != null) {
        started.stop();
      }
    }
  }

  @Bean
  Cluster cluster(Settings settings) {
    if (!settings.database().url().isEmpty()) {
      return new Cluster(null);
    }
    PrivateCluster cluster = new PrivateCluster(settings.data().resolve("store"));
    cluster.start(Cluster.SETTINGS);
    return new Cluster(cluster);
  }

  @Bean
  Store store(Settings settings, Cluster cluster) {
    if (cluster.started() == null) {
      Settings.Database database = settings.database();
      return Store.open(database.url(), database.user(), database.password());
    }
    return Store.open(cluster.started().url("postgres"), "postgres", cluster.started().password());
  }

  /** The one way in; what was kept before this start is brought first. */
  @Bean
  Intake intake(Store store, Settings settings, Clock clock, LiveStreams live)
      throws InterruptedException {
    Intake intake =
        store.intake(
            settings.data().resolve("journal"), settings.journal().toBytes(), clock, live::changed);
    intake.start();
    return intake;
  }

  /** What is asked while the database does not answer is told so at once. */
  @Bean
  FilterRegistrationBean<Gate> gate(
      StoreThere there,
      ProblemWriter problems,
      @Lazy @Qualifier("handlerExceptionResolver") HandlerExceptionResolver told) {
    FilterRegistrationBean<Gate> gate =
        new FilterRegistrationBean<>(new Gate(there::away, problems, told));
    // after the one that refuses what comes from elsewhere
    gate.setOrder(Ordered.HIGHEST_PRECEDENCE + 10);
    return gate;
  }

  /** What is done now and then is done next time where the database does not answer. */
  @Bean
  ThreadPoolTaskSchedulerCustomizer scheduling() {
    return scheduler ->
        scheduler.setErrorHandler(
            failure -> {
              if (StoreAway.is(failure)) {
                LOG.debug("event=not-done why=\"{}\"", failure.toString());
              } else {
                LOG.error("event=not-done", failure);
              }
            });
  }

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }
}
