package jamjar.server.alerts;

import jamjar.server.security.Guard;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Which alerts are in a scope. */
@Configuration
class AlertGuard {

  @Bean
  Guard guardOfAlerts(Store store, Scopes scopes) {
    return new Guard(
        "alert",
        id -> store.alerts().byId(id).filter(row -> About.isSeen(row, scopes.sight())).isPresent());
  }
}
