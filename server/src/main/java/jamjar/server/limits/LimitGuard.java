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
    return new Guard(
        "limit",
        id ->
            id == (int) id
                && store
                    .rules()
                    .byId((int) id)
                    .filter(row -> scopes.sight().sees(row.reach(), row.reachOf()))
                    .isPresent());
  }
}
