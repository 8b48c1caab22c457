package jamjar.collect.postgresql;

import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import java.io.EOFException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertificateException;
import java.sql.SQLException;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import javax.net.ssl.SSLException;

/** Says in words why an engine could not be reached or read. */
final class PostgresRefusals {

  private PostgresRefusals() {}

  static Refusal of(Target target, SQLException failure) {
    String state = Objects.requireNonNullElse(failure.getSQLState(), "");
    String said = message(failure);
    return byState(target, state, said)
        .or(() -> tls(target, failure, said))
        .or(() -> network(target, failure))
        .or(() -> protocol(target, failure, state, said))
        .orElseGet(
            () ->
                new Refusal(
                    Reason.FAILED,
                    "reading " + target.address(),
                    said,
                    "Look at the engine's log at this time."));
  }

  private static Optional<Refusal> byState(Target target, String state, String said) {
    String at = "signing in at " + target.address() + " as " + target.user();
    return switch (state) {
      case "28P01" ->
          refusal(
              Reason.SIGN_IN,
              at,
              said,
              "Check the user and the password; the password is set there with: ALTER ROLE "
                  + target.user()
                  + " PASSWORD '…'");
      case "28000" ->
          refusal(
              Reason.NOT_ADMITTED,
              at,
              said,
              "The role may not sign in, or pg_hba.conf has no line for this address, user and"
                  + " database: add one there and run: SELECT pg_reload_conf()");
      case "3D000" ->
          refusal(
              Reason.DATABASE_UNKNOWN,
              "opening database " + target.database() + " at " + target.address(),
              said,
              "Name a database that exists there; 'postgres' usually does.");
      case "53300" ->
          refusal(
              Reason.FULL,
              at,
              said,
              "All connections of the engine are in use: end some, or raise max_connections (needs"
                  + " a restart there).");
      case "57P03" ->
          refusal(
              Reason.NOT_READY,
              at,
              said,
              "The engine is starting or stopping; it is tried again by itself.");
      case "57P01", "57P02" ->
          refusal(
              Reason.BROKEN_OFF,
              "reading " + target.address(),
              said,
              "The engine was stopped or ended this session; it is tried again by itself.");
      case "42501" ->
          refusal(
              Reason.NOT_PERMITTED,
              "reading " + target.address() + " as " + target.user(),
              said,
              "Grant the role what it lacks: GRANT pg_monitor TO " + target.user());
      case "57014" ->
          refusal(
              Reason.TIMED_OUT,
              "reading " + target.address(),
              said,
              "The engine did not answer a query in time; look for overload or locks on its"
                  + " catalogue.");
      default -> Optional.empty();
    };
  }

  private static Optional<Refusal> tls(Target target, SQLException failure, String said) {
    String at = "encrypting the connection to " + target.address();
    String lower = said.toLowerCase(Locale.ROOT);
    if (lower.contains("does not support ssl")) {
      return refusal(
          Reason.TLS_NOT_OFFERED,
          at,
          said,
          "Switch TLS on there (ssl = on, with a certificate), or choose 'off' here if the network"
              + " is trusted.");
    }
    if (lower.contains("hostname") && lower.contains("verif")) {
      return refusal(
          Reason.TLS_OTHER_NAME,
          at,
          said,
          "The certificate is for another name: use the name that it carries, or have one issued"
              + " for this host.");
    }
    if (cause(failure, CertificateException.class).isPresent()
        || cause(failure, CertPathBuilderException.class).isPresent()) {
      return refusal(
          Reason.TLS_NOT_TRUSTED,
          at,
          deepest(failure),
          "Paste the certificate of the authority that signed the engine's certificate, in PEM.");
    }
    return cause(failure, SSLException.class)
        .flatMap(
            e ->
                refusal(
                    Reason.TLS_NOT_TRUSTED,
                    at,
                    deepest(failure),
                    "Check that the engine's TLS settings and certificate are sound."));
  }

  private static Optional<Refusal> network(Target target, SQLException failure) {
    String at = "connecting to " + target.address();
    if (cause(failure, UnknownHostException.class).isPresent()) {
      return refusal(
          Reason.NAME_UNKNOWN,
          "looking up the name " + target.host(),
          "no address is known for it",
          "Check the spelling, or use the address in numbers.");
    }
    if (cause(failure, NoRouteToHostException.class).isPresent()
        || said(failure, "network is unreachable")) {
      return refusal(
          Reason.NO_ROUTE,
          at,
          deepest(failure),
          "There is no way from here to that network: check the address, the route and the"
              + " firewall.");
    }
    if (cause(failure, SocketTimeoutException.class).isPresent()
        || said(failure, "connection attempt timed out")) {
      return refusal(
          Reason.TIMED_OUT,
          at,
          "no answer in time",
          "A firewall may swallow the packets, or whatever listens there does not answer: check"
              + " address and port, then the engine itself.");
    }
    if (cause(failure, ConnectException.class).isPresent()) {
      return refusal(
          Reason.REFUSED,
          at,
          deepest(failure),
          "Nothing listens there: start the engine, or check port and listen_addresses.");
    }
    return Optional.empty();
  }

  private static Optional<Refusal> protocol(
      Target target, SQLException failure, String state, String said) {
    boolean connecting = said.contains("connection attempt failed") || "08001".equals(state);
    boolean garbled =
        "08P01".equals(state)
            || said(failure, "protocol error")
            || said(failure, "setting up the ssl connection");
    if (garbled || (connecting && cause(failure, EOFException.class).isPresent())) {
      return refusal(
          Reason.OTHER_PROTOCOL,
          "speaking the PostgreSQL protocol to " + target.address(),
          "what answered is not a PostgreSQL engine (" + deepest(failure) + ")",
          "Check the port; PostgreSQL usually listens on 5432.");
    }
    if (cause(failure, EOFException.class).isPresent()
        || cause(failure, SocketException.class).isPresent()
        || state.startsWith("08")) {
      return refusal(
          Reason.BROKEN_OFF,
          "reading " + target.address(),
          said + " (" + deepest(failure) + ")",
          "The engine went away or something between cut the connection; it is tried again by"
              + " itself.");
    }
    return Optional.empty();
  }

  private static Optional<Refusal> refusal(
      Reason reason, String tried, String answered, String advice) {
    return Optional.of(new Refusal(reason, tried, answered, advice));
  }

  private static <T extends Throwable> Optional<T> cause(Throwable failure, Class<T> type) {
    for (Throwable t = failure; t != null; t = t.getCause()) {
      if (type.isInstance(t)) {
        return Optional.of(type.cast(t));
      }
    }
    return Optional.empty();
  }

  private static boolean said(Throwable failure, String words) {
    for (Throwable t = failure; t != null; t = t.getCause()) {
      if (message(t).toLowerCase(Locale.ROOT).contains(words)) {
        return true;
      }
    }
    return false;
  }

  private static String deepest(Throwable failure) {
    Throwable t = failure;
    while (t.getCause() != null) {
      t = t.getCause();
    }
    return message(t);
  }

  private static String message(Throwable failure) {
    return Objects.requireNonNullElse(failure.getMessage(), failure.getClass().getSimpleName())
        .lines()
        .findFirst()
        .orElse("");
  }
}
