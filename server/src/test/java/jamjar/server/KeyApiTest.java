package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import jamjar.store.cluster.TemporaryCluster;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The key of the passwords is changed while instances are read by them. */
class KeyApiTest {
  private static final String SECRET = "planted-key-secret";
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    TemporaryCluster engine = TemporaryCluster.shared();
    engine.run("postgres", "create role key_reader login password '" + SECRET + "'");
    engine.run("postgres", "grant pg_monitor to key_reader");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void what_is_read_by_them_is_read_on() throws Exception {
    int port = TemporaryCluster.shared().cluster().port();
    Map<String, Object> user = Map.of("user", "key_reader", "secret", SECRET);
    server.send("PUT", "/api/credentials/keys", user);
    Map<String, Object> named = new HashMap<>(Bodies.engine("named", port, "", ""));
    named.put("credential", Map.of("user", "", "name", "keys"));
    int first = added(named);
    int second = added(Bodies.engine("own", port, "key_reader", SECRET));
    Map<String, Object> channel = new HashMap<>();
    channel.put("mail", null);
    channel.put("hook", Map.of("url", "https://hook.invalid/x", "ca", "", "template", ""));
    channel.put("secret", SECRET);
    server.send("PUT", "/api/channels/room", channel);
    byte[] before = server.store().instances().byId(second).orElseThrow().secret();
    Answer changed = server.send("POST", "/api/secrets/key", null);
    assertThat(changed.status()).isEqualTo(200);
    // that of Jam Jar's own instance too, which is empty, as is that of who uses a credential
    assertThat(changed.body().get("passwords").asInt()).isEqualTo(5);
    byte[] after = server.store().instances().byId(second).orElseThrow().secret();
    assertThat(Arrays.equals(before, after)).isFalse();
    for (int instance : new int[] {first, second}) {
      server.send("POST", "/api/instances/" + instance + "/pause", null);
      server.send("POST", "/api/instances/" + instance + "/resume", null);
      Bodies.await("it is read on", () -> state(instance).equals("reading"));
    }
    channel.put("secret", null);
    assertThat(server.send("PUT", "/api/channels/room", channel).status()).isEqualTo(204);
    assertThat(server.text("/api/channels")).contains("\"hasSecret\":true");
    assertThat(server.text("/api/audit?from=0&to=4000000000000")).contains("\"what\":\"key\"");
    assertThat(server.text("/api/audit?from=0&to=4000000000000")).doesNotContain(SECRET);
    assertThat(server.text("/api/changes?from=0&to=4000000000000")).doesNotContain("\"key\"");
  }

  private static String state(int instance) throws Exception {
    return server.get("/api/instances/" + instance).get("state").get("state").asString();
  }

  private static int added(Map<String, Object> body) throws Exception {
    return server.send("POST", "/api/instances", body).body().get("id").asInt();
  }
}
