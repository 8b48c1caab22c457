package jamjar.collect.tls;

import jamjar.collect.Target;
import java.io.IOException;
import java.net.Socket;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.SSLSocket;

/** Looks at the certificate that a target shows, believing it for that long. */
public final class Handshake {
  private Handshake() {}

  /**
   * Speaks TLS over a connection.
   *
   * @throws IOException when what answers does not speak TLS, or not one that is spoken here
   */
  public static ShownCertificate over(Socket connection, Target target) throws IOException {
    SSLSocket socket =
        (SSLSocket)
            Trust.believing()
                .getSocketFactory()
                .createSocket(connection, target.host(), target.port(), false);
    socket.startHandshake();
    List<X509Certificate> chain = new ArrayList<>();
    for (Certificate certificate : socket.getSession().getPeerCertificates()) {
      chain.add((X509Certificate) certificate);
    }
    return new ShownCertificate(chain);
  }
}
