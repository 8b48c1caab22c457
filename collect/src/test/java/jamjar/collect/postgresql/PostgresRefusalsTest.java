package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.Target.Tls;
import jamjar.store.cluster.PrivateCluster;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Every way in which an engine cannot be reached is said differently, with what to do. */
class PostgresRefusalsTest {
  private static final Engine ENGINE = new Engine(TemporaryCluster.shared());
  private static final TlsEngine TLS = new TlsEngine();

  @Test
  void wrong_password() {
    Refusal refusal = refusal(ENGINE.target(Engine.READER, "wrong"));
    assertThat(refusal.reason()).isEqualTo(Reason.SIGN_IN);
    assertThat(refusal.answered()).contains("password authentication failed");
    assertThat(refusal.fix()).contains("ALTER ROLE");
  }

  @Test
  void unknown_name() {
    Refusal refusal = refusal(at("no-such-host.invalid", 5432, Tls.OFF, ""));
    assertThat(refusal.reason()).isEqualTo(Reason.NAME_UNKNOWN);
    assertThat(refusal.tried()).contains("no-such-host.invalid");
  }

  @Test
  void refused() {
    Refusal refusal = refusal(at("127.0.0.1", PrivateCluster.freePort(), Tls.OFF, ""));
    assertThat(refusal.reason()).isEqualTo(Reason.REFUSED);
    assertThat(refusal.advice()).contains("listen_addresses");
  }

  @Test
  void timed_out_when_whatever_listens_never_answers() throws Exception {
    try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
      Refusal refusal = refusal(at("127.0.0.1", silent.getLocalPort(), Tls.OFF, ""));
      assertThat(refusal.reason()).isEqualTo(Reason.TIMED_OUT);
    }
  }

  @Test
  void unknown_database() {
    Target target = ENGINE.target();
    Refusal refusal =
        refusal(
            new Target(
                target.host(),
                target.port(),
                "no_such_database",
                Tls.OFF,
                "",
                target.user(),
                target.password()));
    assertThat(refusal.reason()).isEqualTo(Reason.DATABASE_UNKNOWN);
  }

  @Test
  void something_else_at_that_port_with_and_without_tls() throws Exception {
    for (Tls tls : List.of(Tls.OFF, Tls.ENCRYPTED)) {
      try (ServerSocket web = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
        Thread answering = new Thread(() -> answer(web), "other-protocol");
        answering.setDaemon(true);
        answering.start();
        Refusal refusal = refusal(at("127.0.0.1", web.getLocalPort(), tls, ""));
        assertThat(refusal.reason()).as("%s: %s", tls, refusal).isEqualTo(Reason.OTHER_PROTOCOL);
        assertThat(refusal.advice()).contains("5432");
      }
    }
  }

  @Test
  void tls_not_offered() {
    Target target = ENGINE.target();
    Refusal refusal = refusal(at("127.0.0.1", target.port(), Tls.CHECKED, ""));
    assertThat(refusal.reason()).isEqualTo(Reason.TLS_NOT_OFFERED);
  }

  @Test
  void tls_of_an_unknown_authority_of_another_name_and_trusted() {
    assertThat(refusal(TLS.target("127.0.0.1", Tls.CHECKED, "")).reason())
        .isEqualTo(Reason.TLS_NOT_TRUSTED);
    assertThat(refusal(TLS.target("127.0.0.1", Tls.CHECKED, TLS.certificate())).reason())
        .isEqualTo(Reason.TLS_OTHER_NAME);
    assertThat(outcomes(TLS.target("localhost", Tls.CHECKED, TLS.certificate())))
        .doesNotContain(Outcome.FAIL);
    assertThat(outcomes(TLS.target("127.0.0.1", Tls.ENCRYPTED, "")))
        .contains(Outcome.WARN)
        .doesNotContain(Outcome.FAIL);
  }

  private static List<Outcome> outcomes(Target target) {
    return PostgresCheck.check(target).stream().map(CheckResult::outcome).toList();
  }

  private static Refusal refusal(Target target) {
    try {
      PostgresConnector.open(target, "test", Duration.ofSeconds(1)).close();
      throw new AssertionError("connected to " + target);
    } catch (CollectFailed e) {
      return e.refusal();
    } catch (java.sql.SQLException e) {
      throw new AssertionError(e);
    }
  }

  private static Target at(String host, int port, Tls tls, String ca) {
    return new Target(host, port, "postgres", tls, ca, "reader", "p");
  }

  private static void answer(ServerSocket web) {
    try {
      while (true) {
        try (Socket client = web.accept()) {
          client.getInputStream().read(new byte[64]);
          client
              .getOutputStream()
              .write("HTTP/1.1 400 Bad Request\r\n\r\n".getBytes(StandardCharsets.US_ASCII));
        }
      }
    } catch (IOException e) {
      // closed at the end of the test
    }
  }
}
