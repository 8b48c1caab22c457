package jamjar.collect.postgresql;

import jamjar.collect.CheckResult;
import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.tls.Handshake;
import jamjar.collect.tls.ShownCertificate;
import java.io.IOException;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.List;

/**
 * The first words of the protocol, without signing in: whether an engine answers, whether it offers
 * TLS, and the certificate that it shows. See "SSL Session Encryption" of the protocol's
 * description.
 */
final class Hello {
  private static final int TLS_REQUEST = 80877103;
  static final String TLS_ON = "ALTER SYSTEM SET ssl = on;\nSELECT pg_reload_conf();";

  private Hello() {}

  /** Whether it is worth signing in. */
  static boolean said(Socket socket, Target target, List<CheckResult> results) {
    boolean wanted = target.tls() != Target.Tls.OFF;
    try {
      int answer = offersTls(socket);
      if (answer != 'S' && answer != 'N') {
        results.add(CheckResult.fail("Protocol", stranger(target, answer)));
        return false;
      }
      results.add(
          CheckResult.pass(
              "Protocol",
              "a PostgreSQL engine"
                  + (answer == 'S' ? ", which offers TLS" : ", which does not offer TLS")));
      if (!wanted) {
        return true;
      }
      if (answer == 'N') {
        results.add(CheckResult.fail("Encryption", notOffered(target)));
        return false;
      }
      ShownCertificate shown = Handshake.over(socket, target);
      CheckResult certificate = shown.check(target, Instant.now());
      results.add(certificate);
      return !certificate.fails();
    } catch (SocketTimeoutException e) {
      results.add(CheckResult.fail("Protocol", silent(target)));
      return false;
    } catch (IOException e) {
      results.add(CheckResult.fail("Protocol", PostgresRefusals.of(target, e)));
      return false;
    }
  }

  /** Asks for TLS: {@code S} for yes, {@code N} for no, anything else is another protocol. */
  static int offersTls(Socket socket) throws IOException {
    socket.getOutputStream().write(ByteBuffer.allocate(8).putInt(8).putInt(TLS_REQUEST).array());
    return socket.getInputStream().read();
  }

  private static Refusal stranger(Target target, int answer) {
    return new Refusal(
        Reason.OTHER_PROTOCOL,
        "speaking the PostgreSQL protocol to " + target.address(),
        answer < 0
            ? "the connection was closed at once"
            : "what answered is not a PostgreSQL engine (first byte " + answer + ")",
        "Check the port; PostgreSQL usually listens on 5432 (SHOW port tells there).");
  }

  private static Refusal silent(Target target) {
    return new Refusal(
        Reason.TIMED_OUT,
        "speaking the PostgreSQL protocol to " + target.address(),
        "it accepts, but says nothing",
        "What listens there hangs or is no PostgreSQL engine: check the port, then the engine's"
            + " log.");
  }

  private static Refusal notOffered(Target target) {
    return new Refusal(
            Reason.TLS_NOT_OFFERED,
            "encrypting the connection to " + target.address(),
            "the engine does not offer TLS",
            "Give it a certificate (server.crt and server.key in its data folder, the key readable"
                + " by its user alone) and switch TLS on there, or choose 'off' here if the network"
                + " is trusted.")
        .mendedBy(TLS_ON);
  }
}
