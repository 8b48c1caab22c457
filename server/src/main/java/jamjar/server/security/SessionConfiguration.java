package jamjar.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jamjar.store.Store;
import javax.sql.DataSource;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.datasource.DataSourceTransactionManager;
import org.springframework.session.jdbc.config.annotation.SpringSessionDataSource;
import org.springframework.session.jdbc.config.annotation.web.http.EnableJdbcHttpSession;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.session.web.http.DefaultCookieSerializer;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.FlashMapManager;

/**
 * Sessions of browsers lie in the database: they outlast a restart, and can be ended from
 * elsewhere.
 */
@Configuration
@EnableJdbcHttpSession(maxInactiveIntervalInSeconds = SessionConfiguration.IDLE_SECONDS)
class SessionConfiguration {
  /** A shift, and the way home. */
  static final int IDLE_SECONDS = 12 * 3600;

  @Bean
  @SpringSessionDataSource
  DataSource sessions(Store store) {
    return store.sessions();
  }

  @Bean
  PlatformTransactionManager sessionTransactions(DataSource sessions) {
    return new DataSourceTransactionManager(sessions);
  }

  /**
   * Nothing is handed from one page to the next by a session: to look for it would ask the database
   * for the session, and write that it was used, with every page and every answer.
   */
  @Bean
  FlashMapManager flashMapManager() {
    return new FlashMapManager() {
      @Override
      public FlashMap retrieveAndUpdate(HttpServletRequest request, HttpServletResponse response) {
        return null;
      }

      @Override
      public void saveOutputFlashMap(
          FlashMap handed, HttpServletRequest request, HttpServletResponse response) {
        // nothing is ever put there
      }
    };
  }

  /** Cookies don't know ports: two servers of one machine must not take each other's. */
  @Bean
  CookieSerializer cookie(Environment environment) {
    DefaultCookieSerializer cookie = new DefaultCookieSerializer();
    cookie.setCookieName("jamjar-" + environment.getProperty("server.port", "0"));
    cookie.setCookiePath("/");
    cookie.setSameSite("Lax");
    cookie.setUseHttpOnlyCookie(true);
    return cookie;
  }
}
