package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import jamjar.server.security.CannotStart;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Who lets in from elsewhere is away, or not who it should be. */
class SignOnApiTest {
  private static final String[] SECRET = {"--jamjar.sign-on.secret=planted-client-secret"};

  private static String[] options(String issuer) {
    return new String[] {"--jamjar.sign-on.issuer=" + issuer, SECRET[0]};
  }

  /** Where who wants to come in is sent to. */
  private static String sent(RunningServer server) throws Exception {
    HttpResponse<String> answer =
        HttpClient.newHttpClient()
            .send(
                HttpRequest.newBuilder(server.uri("/sign-on/company")).build(),
                BodyHandlers.ofString());
    assertThat(answer.statusCode()).isEqualTo(302);
    return answer.headers().firstValue("Location").orElseThrow();
  }

  @Test
  void while_it_is_away_the_server_starts_and_says_so() throws Exception {
    try (RunningServer server = new RunningServer(options("http://127.0.0.1:1"))) {
      assertThat(sent(server)).endsWith("/shelf?refused=failed");
      assertThat(server.get("/api/session").get("elsewhere").asString())
          .isEqualTo("single sign-on");
      Map<String, Object> first = new HashMap<>();
      first.put("key", server.entryKey(""));
      first.put("name", "ragna");
      first.put("password", "nine lanterns over the tide");
      // who comes in otherwise is told of it too
      assertThat(
              new Browser(server)
                  .send("POST", "/api/accounts/first", first)
                  .body()
                  .get("elsewhere")
                  .asString())
          .isEqualTo("single sign-on");
    }
  }

  @Test
  void one_that_describes_itself_as_another_is_not_believed() throws Exception {
    HttpServer liar =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    String text =
        "{\"issuer\":\"https://login.skerry.invalid\",\"authorization_endpoint\":\"https://evil"
            + ".invalid\",\"token_endpoint\":\"https://evil.invalid\",\"jwks_uri\":"
            + "\"https://evil.invalid\",\"subject_types_supported\":[\"public\"]}";
    liar.createContext(
        "/.well-known/openid-configuration",
        asked -> {
          byte[] body = text.getBytes(StandardCharsets.UTF_8);
          asked.getResponseHeaders().add("Content-Type", "application/json");
          asked.sendResponseHeaders(200, body.length);
          asked.getResponseBody().write(body);
          asked.close();
        });
    liar.start();
    String issuer = "http://127.0.0.1:" + liar.getAddress().getPort();
    try (RunningServer server = new RunningServer(options(issuer))) {
      assertThat(sent(server)).endsWith("/shelf?refused=failed");
    } finally {
      liar.stop(0);
    }
  }

  @Test
  void in_the_clear_it_is_asked_on_loopback_alone_and_without_a_secret_not_at_all() {
    assertThatThrownBy(() -> new RunningServer(options("http://login.skerry.invalid")))
        .hasRootCauseInstanceOf(CannotStart.class)
        .rootCause()
        .hasMessageContaining("https");
    assertThatThrownBy(
            () -> new RunningServer("--jamjar.sign-on.issuer=https://login.skerry.invalid"))
        .rootCause()
        .hasMessageContaining("secret");
  }
}
