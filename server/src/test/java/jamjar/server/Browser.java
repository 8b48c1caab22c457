package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a browser does with a server: it keeps cookies, and shows again the proof that one holds.
 */
final class Browser {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final CookieManager cookies = new CookieManager();
  private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
  private final RunningServer server;

  Browser(RunningServer server) {
    this.server = server;
  }

  /** As the front end does it. */
  RunningServer.Answer send(String method, String path, Object body) throws Exception {
    if (cookie("XSRF-TOKEN").isEmpty()) {
      send(HttpRequest.newBuilder(server.uri("/api/session")).build());
    }
    return send(
        request(method, path, body)
            .header("X-XSRF-TOKEN", cookie("XSRF-TOKEN").orElse(""))
            .build());
  }

  /** Is that of the first administrator, who is made by it. */
  void enterFirst(String name, String password) throws Exception {
    Map<String, String> body =
        Map.of("key", server.entryKey(""), "name", name, "password", password);
    assertThat(send("POST", "/api/accounts/first", body).status()).isEqualTo(200);
  }

  /** As a page from elsewhere does it, which can't read a cookie. */
  RunningServer.Answer forged(String method, String path, Object body) throws Exception {
    return send(request(method, path, body).build());
  }

  private HttpRequest.Builder request(String method, String path, Object body) {
    return HttpRequest.newBuilder(server.uri(path))
        .header("Content-Type", "application/json")
        .method(
            method,
            body == null
                ? BodyPublishers.noBody()
                : BodyPublishers.ofString(JSON.writeValueAsString(body)));
  }

  private RunningServer.Answer send(HttpRequest request) throws Exception {
    HttpResponse<String> answer = client.send(request, BodyHandlers.ofString());
    String text = answer.body();
    return new RunningServer.Answer(answer.statusCode(), RunningServer.read(text), text);
  }

  /** The value of a cookie whose name begins so. */
  Optional<String> cookie(String name) {
    return cookies.getCookieStore().getCookies().stream()
        .filter(one -> one.getName().startsWith(name))
        .map(HttpCookie::getValue)
        .findFirst();
  }

  /** What is answered to another browser that shows this session, as it is now, as its own. */
  Callable<Integer> stolen(String path) {
    String shown =
        cookies.getCookieStore().getCookies().stream()
            .filter(one -> one.getName().startsWith("jamjar-"))
            .map(one -> one.getName() + "=" + one.getValue())
            .findFirst()
            .orElseThrow();
    HttpRequest request = HttpRequest.newBuilder(server.uri(path)).header("Cookie", shown).build();
    return () -> HttpClient.newHttpClient().send(request, BodyHandlers.discarding()).statusCode();
  }
}
