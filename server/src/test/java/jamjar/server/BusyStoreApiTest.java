package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.Statement;
import org.junit.jupiter.api.Test;

class BusyStoreApiTest {

  @Test
  void who_waits_for_what_somebody_holds_is_told_so_and_watching_goes_on() throws Exception {
    TemporaryCluster cluster = TemporaryCluster.shared();
    try (RunningServer server = new RunningServer();
        Connection holder = cluster.connect(server.database());
        Statement statement = holder.createStatement()) {
      holder.setAutoCommit(false);
      statement.execute("lock table marker in access exclusive mode");
      RunningServer.Answer answer = server.send("GET", "/api/markers?from=0&to=1", null);
      assertThat(answer.status()).isEqualTo(503);
      assertThat(answer.body().get("type").asString()).isEqualTo("urn:jamjar:busy");
      assertThat(answer.body().get("detail").asString()).contains("took too long");
      assertThat(server.send("GET", "/api/health", null).status()).isEqualTo(200);
      holder.rollback();
      assertThat(server.send("GET", "/api/markers?from=0&to=1", null).status()).isEqualTo(200);
    }
  }
}
