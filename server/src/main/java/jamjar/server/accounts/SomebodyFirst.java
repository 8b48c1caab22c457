package jamjar.server.accounts;

import jamjar.server.security.CannotStart;
import jamjar.server.security.Listening;
import jamjar.store.Store;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** Where others can reach it, the server is there only once somebody has an account. */
@Component
class SomebodyFirst {

  SomebodyFirst(Store store, Environment environment) {
    if (!Listening.of(environment).loopback() && store.accounts().all().isEmpty()) {
      throw new CannotStart(
          "Nobody has an account yet, so Jam Jar listens on loopback only: start it there first,"
              + " make the first administrator by './jamjar open', then let it listen to others.");
    }
  }
}
