package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.security.Permits;
import jamjar.server.security.Role;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Everything that can be asked, by everybody who could ask it. */
class PermitsApiTest {
  private static final Set<Integer> REFUSED = Set.of(401, 403);
  private static RunningServer server;
  private static JsonNode description;
  private static final Map<Role, String> TOKENS = new EnumMap<>(Role.class);

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    description = server.get("/api/openapi.json");
    long ends = System.currentTimeMillis() + 3_600_000;
    for (Role role : Role.values()) {
      Map<String, Object> body = Map.of("name", role.word(), "role", role.word(), "endsAt", ends);
      TOKENS.put(role, server.send("POST", "/api/tokens", body).body().get("token").asString());
    }
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  private static Set<String> described() {
    Set<String> all = new TreeSet<>();
    description
        .get("paths")
        .properties()
        .forEach(
            path ->
                path.getValue()
                    .propertyNames()
                    .forEach(
                        method -> all.add(method.toUpperCase(Locale.ROOT) + " " + path.getKey())));
    // what describes is not described
    all.add("GET /api/openapi.json");
    return all;
  }

  @Test
  void each_that_is_described_stands_in_one_row_and_no_row_is_of_another() {
    // the rows say by name what kind of thing a path names
    assertThat(
            Permits.rows().stream().map(row -> row.method() + " " + unnamed(row.path())).toList())
        .doesNotHaveDuplicates()
        .containsExactlyInAnyOrderElementsOf(
            described().stream().map(PermitsApiTest::unnamed).toList());
  }

  private static String unnamed(String path) {
    return path.replaceAll("\\{\\w+}", "{}");
  }

  @Test
  void each_is_refused_to_who_may_not_and_to_nobody_else() throws Exception {
    List<String> wrong = new ArrayList<>();
    for (Permits.Row row : Permits.rows()) {
      // nothing of such a number is there, and a body that is empty changes nothing
      String path = row.path().replaceAll("\\{\\w+}", "987654");
      Object body = row.method().equals("GET") || row.method().equals("DELETE") ? null : "";
      // it answers for ever, to who may
      boolean endless = row.path().equals("/api/live");
      for (Role role : Role.values()) {
        boolean may = row.least().map(role::may).orElse(true);
        if (!may || !endless) {
          int status = server.as(TOKENS.get(role), row.method(), path, body).status();
          note(wrong, row, role.word(), may, status);
        }
      }
      int stranger = server.as("no such token", row.method(), path, body).status();
      note(wrong, row, "nobody", row.least().isEmpty(), stranger);
    }
    assertThat(wrong).isEmpty();
  }

  private static void note(
      List<String> wrong, Permits.Row row, String who, boolean may, int status) {
    // signing in with nothing is refused for what it is
    boolean letIn = !REFUSED.contains(status) || row.path().startsWith("/api/session");
    if (letIn != may && !row.path().startsWith("/api/session")) {
      wrong.add(row.method() + " " + row.path() + " by " + who + ": " + status);
    }
  }

  @Test
  void what_is_in_no_row_is_nobodys() throws Exception {
    assertThat(server.send("GET", "/api/nothing", null).status()).isEqualTo(404);
    assertThat(server.send("TRACE", "/api/instances", null).status()).isGreaterThanOrEqualTo(400);
    assertThat(server.as("none", "GET", "/api/nothing", null).status()).isEqualTo(401);
    assertThat(Permits.of("GET", "/api/instances/5/../../accounts")).isEmpty();
    assertThat(Permits.of("PATCH", "/api/instances/5")).isEmpty();
    assertThat(Permits.of("HEAD", "/api/accounts").flatMap(Permits.Row::least))
        .isEqualTo(Optional.of(Role.ADMINISTER));
  }

  private static String words(Permits.Row row) {
    return switch (row.bound()) {
      case SAME -> "the same";
      case WITHIN -> "of what is in it";
      case PATH -> "what is in it";
      case WHOLE -> row.least().equals(Optional.of(Role.ADMINISTER)) ? "" : "no";
    };
  }

  @Test
  void the_page_that_tells_of_it_is_as_it_is() throws Exception {
    StringBuilder table = new StringBuilder();
    table.append("| asked | nobody | look | act | shape | administer | with a scope |\n");
    table.append("| --- | --- | --- | --- | --- | --- | --- |\n");
    Permits.rows().stream()
        .sorted((a, b) -> (a.path() + a.method()).compareTo(b.path() + b.method()))
        .forEach(
            row -> {
              table.append("| `").append(row.method()).append(' ').append(row.path()).append("` |");
              table.append(row.least().isEmpty() ? " yes |" : " |");
              for (Role role : Role.values()) {
                table.append(row.least().map(role::may).orElse(true) ? " yes |" : " |");
              }
              table.append(' ').append(words(row)).append(" |\n");
            });
    Path made = Path.of("target/permits.md");
    Files.writeString(made, table);
    assertThat(Files.readString(Path.of("../docs/permits.md")))
        .as("docs/permits.md; its table made anew: server/" + made)
        .contains(table);
  }
}
