package jamjar.server.limits;

import jamjar.server.security.Guard;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Which limits concern a scope. */
@Configuration
class LimitGuard {

  @Bean
  Guard guardOfLimits(Store store, Scopes scopes) {
    return scopes.guard(
        "limit",
        id -> store.rules().byId(id).map(row -> new Scopes.About(row.reach(), row.reachOf())));
  }
}
