package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.Between;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.util.Map;
import org.junit.jupiter.api.Test;

class SlowStoreTest {
  /** What it answers to who comes in, and how much later each of it comes: more than a second. */
  private static final int GREETINGS = 4;

  private static final long LATER_MILLIS = 400;

  @Test
  void a_database_that_takes_its_time_to_let_somebody_in_is_there_all_the_same() throws Exception {
    TemporaryCluster cluster = TemporaryCluster.shared();
    String url = cluster.cluster().url(cluster.newDatabase());
    String password = cluster.cluster().password();
    // its tables are made without it
    Store.open(url, "postgres", password).close();
    int port = cluster.cluster().port();
    try (Between slow = new Between(port, LATER_MILLIS, GREETINGS, Map.of());
        Store store =
            Store.open(
                url.replace(":" + port + "/", ":" + slow.port() + "/"), "postgres", password)) {
      assertThat(store.instances().all()).isEmpty();
    }
  }
}
