package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.ServerProcess;
import jamjar.standins.WatchedInstance;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * Passwords are planted in every way by which one can come in, right ones and wrong ones; then they
 * are looked for in everything that comes out: answers, errors, exports, the log and the store.
 */
class SecretsTest {
  private static final String PLANTED = "planted-" + "cherry-stone";
  private static final Duration SOON = Duration.ofSeconds(60);
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final List<String> told = new ArrayList<>();

  @Test
  void no_password_comes_out_anywhere() throws Exception {
    cluster.run(
        "postgres", "create role planted login password '" + PLANTED + "' in role pg_monitor");
    try (ServerProcess server =
        new ServerProcess(
            Path.of("..", "server", "target", "server-0.1.0-exec.jar"), cluster, database)) {
      server.start();
      Api api = new Api(server::address, server.token());
      Map<String, String> headers = Map.of();
      int port = cluster.cluster().port();
      told.add(
          api.answer(
                  "PUT",
                  "/api/credentials/planted",
                  Map.of("user", "planted", "secret", PLANTED),
                  headers)
              .body());
      // right and wrong passwords, ports and forms
      told.add(
          api.answer("POST", "/api/instances", body("right", "postgresql", port), headers).body());
      Map<String, Object> wrong = body("wrong", "postgresql", port);
      wrong.put("credential", Map.of("user", "planted", "secret", PLANTED + "-not"));
      told.add(api.answer("POST", "/api/instances", wrong, headers).body());
      told.add(api.answer("POST", "/api/instances?insist=true", wrong, headers).body());
      told.add(api.answer("POST", "/api/instances/preflight", wrong, headers).body());
      told.add(
          api.answer("POST", "/api/instances?insist=true", body("jvm", "jvm", port), headers)
              .body());
      Map<String, Object> unsound = body("unsound", "postgresql", 70_000);
      told.add(api.answer("POST", "/api/instances", unsound, headers).body());
      unsound.put("credential", Map.of("user", List.of(), "secret", PLANTED));
      told.add(api.answer("POST", "/api/instances", unsound, headers).body());
      for (String format : List.of("yaml", "csv")) {
        String file =
            format.equals("csv")
                ? "name,kind,host,port,user,secret\nx,jvm,127.0.0.1,y,u," + PLANTED + "\n"
                : "instances:\n- {name: x, kind: jvm, secret: ["
                    + PLANTED
                    + ", {a: b}], port: y}\n";
        told.add(
            api.answer(
                    "POST",
                    "/api/estate/import?dry=true",
                    Map.of("text", file, "format", format),
                    headers)
                .body());
      }
      Await.until(
          "two are unreachable and one is read",
          SOON,
          () -> {
            String states = api.get("/api/endpoints").toString();
            return states.contains("\"reading\"") && states.split("\"unreachable\"").length > 2;
          });
      // what could not be read was checked by itself
      Await.until(
          "both were checked",
          SOON,
          () -> api.get("/api/endpoints").toString().split("\"by\":\"silence\"").length > 2);
      for (String path :
          List.of(
              "/api/instances",
              "/api/endpoints",
              "/api/credentials",
              "/api/estate/estate.yaml",
              "/api/estate/estate.csv",
              "/api/alerts?state=open",
              "/api/recipes",
              "/api/health",
              "/api/openapi.json")) {
        told.add(api.answer("GET", path, null, headers).body());
      }
      told.add(server.log());
      told.add(store());
    }
    assertThat(told).allSatisfy(text -> assertThat(text).isNotBlank());
    assertThat(String.join("\n", told)).doesNotContain(PLANTED);
    // the look was at the right things
    assertThat(String.join("\n", told))
        .contains("password authentication failed", "event=silent", "\"usedBy\"", "not a number");
  }

  /** All of the store as text, its bytes read as letters. */
  private String store() throws Exception {
    StringBuilder all = new StringBuilder();
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement()) {
      for (String column :
          List.of(
              "instance i|i::text || encode(i.secret, 'escape')",
              "credential c|c::text || encode(c.secret, 'escape')",
              "silence s|s::text",
              "alert a|a::text")) {
        String[] parts = column.split("\\|", 2);
        try (ResultSet rows = statement.executeQuery("select " + parts[1] + " from " + parts[0])) {
          while (rows.next()) {
            all.append(rows.getString(1)).append('\n');
          }
        }
      }
    }
    return all.toString();
  }

  private static Map<String, Object> body(String name, String kind, int port) {
    Map<String, Object> body =
        new HashMap<>(WatchedInstance.engine(name, port, "postgres", "planted", PLANTED, 1).body());
    body.put("kind", kind);
    body.put("recipe", kind);
    return body;
  }
}
