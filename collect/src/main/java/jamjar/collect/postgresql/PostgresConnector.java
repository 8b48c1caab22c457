package jamjar.collect.postgresql;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Target;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Properties;

/** Opens connections to watched PostgreSQL engines. */
final class PostgresConnector {
  /** Jam Jar's own sessions are told by this prefix of their application name. */
  static final String APPLICATION = "jamjar";

  /** Of one result. */
  private static final String MOST_BYTES = "32M";

  private PostgresConnector() {}

  /**
   * Opens a connection that only reads, waits for no lock longer than 200 ms and runs no statement
   * longer than given.
   *
   * @param purpose what the connection is for, as part of its application name
   */
  static Connection open(Target target, String purpose, Duration statementTimeout)
      throws CollectFailed {
    if (!Target.isHost(target.host())) {
      throw new CollectFailed(
          new Refusal(
              Refusal.Reason.NAME_UNKNOWN,
              "connecting to '" + target.host() + "'",
              "that is not the name of a machine",
              "Give its name or address alone."),
          null);
    }
    Properties properties = new Properties();
    properties.setProperty("user", target.user());
    properties.setProperty("password", target.password());
    properties.setProperty("ApplicationName", APPLICATION + "-" + purpose);
    properties.setProperty("connectTimeout", "4");
    properties.setProperty("loginTimeout", "6");
    long socket = statementTimeout.plusSeconds(3).toSeconds();
    properties.setProperty("socketTimeout", Long.toString(socket));
    properties.setProperty("tcpKeepAlive", "true");
    // whoever pretends to be an engine may answer without end
    properties.setProperty("maxResultBuffer", MOST_BYTES);
    properties.setProperty("socketFactory", GuardedSockets.class.getName());
    properties.setProperty("prepareThreshold", "1");
    properties.setProperty("readOnly", "true");
    properties.setProperty("gssEncMode", "disable");
    properties.setProperty(
        "options",
        "-c default_transaction_read_only=on -c lock_timeout=200ms -c jit=off"
            + " -c statement_timeout="
            + statementTimeout.toMillis());
    Path trusted = null;
    try (GuardedSockets.Opening opening = new GuardedSockets.Opening()) {
      properties.setProperty("socketFactoryArg", opening.told(target.tls() == Target.Tls.OFF));
      switch (target.tls()) {
        case OFF -> properties.setProperty("sslmode", "disable");
        case ENCRYPTED -> {
          properties.setProperty("sslmode", "require");
          properties.setProperty("sslfactory", "org.postgresql.ssl.NonValidatingFactory");
        }
        case CHECKED -> {
          properties.setProperty("sslmode", "verify-full");
          if (target.ca().isBlank()) {
            properties.setProperty("sslfactory", "org.postgresql.ssl.DefaultJavaSSLFactory");
          } else {
            trusted = Files.createTempFile("jamjar-ca", ".pem");
            Files.writeString(trusted, target.ca());
            properties.setProperty("sslrootcert", trusted.toString());
          }
        }
      }
      Connection made = DriverManager.getConnection(url(target), properties);
      opening.made();
      return made;
    } catch (SQLException e) {
      throw new CollectFailed(PostgresRefusals.of(target, e), e);
    } catch (IOException e) {
      throw new CollectFailed(PostgresRefusals.of(target, e), e);
    } finally {
      remove(trusted);
    }
  }

  private static String url(Target target) {
    String host = target.host().contains(":") ? "[" + target.host() + "]" : target.host();
    return "jdbc:postgresql://"
        + host
        + ":"
        + target.port()
        + "/"
        + java.net.URLEncoder.encode(target.database(), java.nio.charset.StandardCharsets.UTF_8);
  }

  private static void remove(Path file) {
    try {
      if (file != null) {
        Files.deleteIfExists(file);
      }
    } catch (IOException e) {
      file.toFile().deleteOnExit();
    }
  }
}
