package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.collect.SelfSigned;
import jamjar.server.security.Listening;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.util.Map;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.TrustManagerFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.mock.env.MockEnvironment;
import tools.jackson.databind.JsonNode;

/** Where the server listens, and how it is asked there. */
class ListeningApiTest {
  private static final String NAME = "localhost";

  private static MockEnvironment set(Map<String, String> properties) {
    MockEnvironment environment = new MockEnvironment();
    properties.forEach(environment::setProperty);
    return environment;
  }

  @Test
  void where_others_reach_it_it_takes_a_certificate_or_a_proxy_and_its_names() {
    Listening.prepare(set(Map.of()));
    Listening.prepare(set(Map.of("server.address", "::1")));
    assertThatThrownBy(() -> Listening.prepare(set(Map.of("server.address", "0.0.0.0"))))
        .hasMessageContaining("it takes a certificate");
    assertThatThrownBy(
            () ->
                Listening.prepare(
                    set(Map.of("server.address", "0.0.0.0", "jamjar.proxies", "192.0.2.1"))))
        .hasMessageContaining("say by what names");
    assertThatThrownBy(() -> Listening.prepare(set(Map.of("jamjar.certificate", "/nowhere.pem"))))
        .hasMessageContaining("go together");
    assertThatThrownBy(
            () ->
                Listening.prepare(
                    set(Map.of("jamjar.certificate", "/nowhere.pem", "jamjar.key", "/no.pem"))))
        .hasMessageContaining("/nowhere.pem is not there");
  }

  @Test
  void it_is_there_for_others_only_once_somebody_has_an_account() {
    assertThatThrownBy(
            () ->
                new RunningServer(
                    "--server.address=0.0.0.0",
                    "--jamjar.names=" + NAME,
                    "--jamjar.proxies=192.0.2.1"))
        .hasStackTraceContaining("Nobody has an account yet");
  }

  /** Makes a key and its certificate anew in two files. */
  private static X509Certificate renew(Path folder) throws Exception {
    SelfSigned made = SelfSigned.of(NAME, folder);
    KeyStore keys = KeyStore.getInstance(made.store().toFile(), SelfSigned.PASSWORD.toCharArray());
    byte[] key = keys.getKey(SelfSigned.ALIAS, SelfSigned.PASSWORD.toCharArray()).getEncoded();
    Files.writeString(folder.resolve("key.pem"), SelfSigned.pem("PRIVATE KEY", key));
    return (X509Certificate) keys.getCertificate(SelfSigned.ALIAS);
  }

  private static HttpClient trusting(Certificate certificate) throws Exception {
    KeyStore trusted = KeyStore.getInstance(KeyStore.getDefaultType());
    trusted.load(null, null);
    trusted.setCertificateEntry("own", certificate);
    TrustManagerFactory trust =
        TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
    trust.init(trusted);
    SSLContext context = SSLContext.getInstance("TLS");
    context.init(null, trust.getTrustManagers(), null);
    return HttpClient.newBuilder().sslContext(context).build();
  }

  @Test
  void it_speaks_tls_by_a_certificate_of_its_own_and_takes_one_that_is_renewed(@TempDir Path folder)
      throws Exception {
    X509Certificate first = renew(folder);
    try (RunningServer server =
        new RunningServer(
            "--jamjar.certificate=" + folder.resolve("certificate.pem"),
            "--jamjar.key=" + folder.resolve("key.pem"),
            "--jamjar.names=" + NAME,
            "--spring.ssl.bundle.watch.file.quiet-period=200ms")) {
      HttpRequest asked =
          HttpRequest.newBuilder(
                  URI.create("https://" + NAME + ":" + server.port() + "/api/health"))
              .build();
      HttpResponse<String> answer = trusting(first).send(asked, BodyHandlers.ofString());
      assertThat(answer.statusCode()).isEqualTo(200);
      assertThat(answer.headers().firstValue("Strict-Transport-Security")).isPresent();
      assertThat(answer.headers().allValues("Set-Cookie"))
          .isNotEmpty()
          .allMatch(cookie -> cookie.contains("Secure"));
      X509Certificate second = renew(folder);
      Bodies.await(
          "the new certificate is shown",
          () -> {
            try {
              return trusting(second).send(asked, BodyHandlers.ofString()).statusCode() == 200;
            } catch (SSLException e) {
              return false;
            }
          });
    }
  }

  @Test
  void only_the_word_of_a_named_proxy_is_taken() throws Exception {
    try (RunningServer server =
        new RunningServer("--jamjar.proxies=127.0.0.1", "--jamjar.names=jam.invalid")) {
      assertThat(attempt(server, "https").statusCode()).isEqualTo(401);
      assertThat(attempt(server, "http").statusCode()).isEqualTo(403);
      assertThat(attempt(server, "http").body()).contains("by https only");
      assertThat(from(server)).isEqualTo("203.0.113.7");
    }
    try (RunningServer server = new RunningServer("--jamjar.proxies=192.0.2.1")) {
      assertThat(attempt(server, "https").statusCode()).isEqualTo(401);
      assertThat(from(server)).isEqualTo("127.0.0.1");
    }
  }

  /** A sign-in in vain, as a proxy passes it on. */
  private static HttpResponse<String> attempt(RunningServer server, String scheme)
      throws Exception {
    HttpRequest request =
        HttpRequest.newBuilder(server.uri("/api/session"))
            .header("X-Forwarded-For", "203.0.113.7")
            .header("X-Forwarded-Proto", scheme)
            .header("Content-Type", "application/json")
            // who brings a token is asked for no other proof
            .header("Authorization", "Bearer none")
            .POST(BodyPublishers.ofString("{\"name\":\"nobody\",\"password\":\"nothing\"}"))
            .build();
    return HttpClient.newHttpClient().send(request, BodyHandlers.ofString());
  }

  private static String from(RunningServer server) throws Exception {
    JsonNode told = server.get("/api/audit?from=0&to=4102444800000&words=sign_in");
    return told.get(0).get("address").asString();
  }
}
