package jamjar.collect.postgresql;

import jamjar.collect.Target;
import jamjar.collect.tls.Expiry;
import java.io.IOException;
import java.net.Socket;
import java.sql.Connection;
import java.time.Clock;

/** How long the engine's certificate is still valid. */
final class CertificateQuery implements Query {
  private final Expiry expiry;

  CertificateQuery(Target target, Clock clock) {
    this.expiry = new Expiry(target, CertificateQuery::ask, clock);
  }

  private static void ask(Socket socket) throws IOException {
    if (Hello.offersTls(socket) != 'S') {
      throw new IOException("TLS is not offered");
    }
  }

  @Override
  public String group() {
    return Expiry.GROUP;
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) {
    expiry.value().ifPresent(sink::put);
  }
}
