package jamjar.server.markers;

import jamjar.server.security.Guard;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Which markers concern a scope. */
@Configuration
class MarkerGuard {

  @Bean
  Guard guardOfMarkers(Store store, Scopes scopes) {
    return scopes.guard(
        "marker",
        id -> store.markers().byId(id).map(row -> new Scopes.About(row.reach(), row.reachOf())));
  }
}
