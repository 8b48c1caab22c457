package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.security.LetIn;
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

  @Test
  void whose_session_it_is_is_not_asked_of_the_database_with_every_page_and_answer()
      throws Exception {
    TemporaryCluster cluster = TemporaryCluster.shared();
    try (RunningServer server = new RunningServer();
        Connection holder = cluster.connect(server.database());
        Statement statement = holder.createStatement()) {
      Browser browser = new Browser(server);
      browser.enterFirst("ragna", "five herons on a winter quay");
      int page = browser.send("GET", "/estate", null).status();
      assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
      holder.setAutoCommit(false);
      statement.execute("lock table spring_session in access exclusive mode");
      assertThat(browser.send("GET", "/estate", null).status()).isEqualTo(page).isNotEqualTo(500);
      assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
      // when it has to be, who waits too long for it is told so as of anything else
      server.bean(LetIn.class).forget();
      RunningServer.Answer answer = browser.send("GET", "/api/instances", null);
      assertThat(answer.status()).isEqualTo(503);
      assertThat(answer.body().get("type").asString()).isEqualTo("urn:jamjar:busy");
      holder.rollback();
    }
  }
}
