package jamjar.server.security;

import jamjar.store.Store;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Guards of instances and their series. */
@Configuration
class EstateGuards {

  @Bean
  Guard guardOfInstances(Scopes scopes) {
    return new Guard("instance", scopes::holds);
  }

  @Bean
  Guard guardOfSeries(Store store, Scopes scopes) {
    return new Guard(
        "series",
        id ->
            id == (int) id
                && store.series().byIds(new int[] {(int) id}).stream()
                    .anyMatch(row -> scopes.holds(row.instance())));
  }
}
