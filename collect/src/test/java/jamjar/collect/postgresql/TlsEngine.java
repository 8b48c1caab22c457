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
      certificate = folder.resolve("server.crt");
      Path key = folder.resolve("server.key");
      put(self, certificate, key);
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

  /** Gives an engine a certificate with its key, which its user alone may read. */
  static void put(SelfSigned self, Path certificate, Path key) throws Exception {
    KeyStore keys = KeyStore.getInstance(self.store().toFile(), SelfSigned.PASSWORD.toCharArray());
    Files.writeString(certificate, self.pem());
    Files.deleteIfExists(key);
    Files.writeString(
        key,
        SelfSigned.pem(
            "PRIVATE KEY",
            keys.getKey(SelfSigned.ALIAS, SelfSigned.PASSWORD.toCharArray()).getEncoded()));
    if ("root".equals(System.getProperty("user.name"))) {
      run(List.of("chown", "postgres", certificate.toString(), key.toString()));
    }
    run(List.of("chmod", "600", key.toString()));
  }

  /** Another certificate from now on. */
  void renew(SelfSigned self) throws Exception {
    put(self, certificate, certificate.resolveSibling("server.key"));
    engine.cluster.run("postgres", "select pg_reload_conf()");
  }

  /** The folder of its certificate. */
  Path folder() {
    return certificate.getParent();
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
