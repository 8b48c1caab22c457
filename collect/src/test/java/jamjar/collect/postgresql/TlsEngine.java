package jamjar.collect.postgresql;

import jamjar.collect.SelfSigned;
import jamjar.collect.Target;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.List;
import java.util.Map;

/** An engine that speaks TLS, with a certificate of its own for the name localhost. */
final class TlsEngine {
  private final Path certificate;
  private final Engine engine;

  TlsEngine() {
    try {
      Path folder = Files.createTempDirectory("jamjar-tls");
      folder.toFile().setExecutable(true, false);
      folder.toFile().setReadable(true, false);
      SelfSigned self = SelfSigned.of("localhost", folder);
      KeyStore keys =
          KeyStore.getInstance(self.store().toFile(), SelfSigned.PASSWORD.toCharArray());
      certificate = folder.resolve("server.crt");
      Files.writeString(certificate, self.pem());
      Path key = folder.resolve("server.key");
      Files.writeString(
          key,
          SelfSigned.pem(
              "PRIVATE KEY",
              keys.getKey(SelfSigned.ALIAS, SelfSigned.PASSWORD.toCharArray()).getEncoded()));
      if ("root".equals(System.getProperty("user.name"))) {
        run(List.of("chown", "postgres", key.toString()));
      }
      run(List.of("chmod", "600", key.toString()));
      engine =
          new Engine(
              TemporaryCluster.start(
                  Map.of(
                      "ssl", "on",
                      "ssl_cert_file", certificate.toString(),
                      "ssl_key_file", key.toString())));
    } catch (Exception e) {
      throw new IllegalStateException(e);
    }
  }

  String certificate() {
    try {
      return Files.readString(certificate);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  Target target(String host, Target.Tls tls, String ca) {
    Target plain = engine.target();
    return new Target(
        host, plain.port(), plain.database(), tls, ca, plain.user(), plain.password());
  }

  private static void run(List<String> command) throws Exception {
    Process process =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    if (process.waitFor() != 0) {
      throw new IllegalStateException(String.join(" ", command));
    }
  }
}
