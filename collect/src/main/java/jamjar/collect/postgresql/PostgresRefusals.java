package jamjar.collect.postgresql;

import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.core.failure.Causes;
import java.io.EOFException;
import java.io.IOException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertificateException;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLException;

/** Says in words why an engine could not be reached or read. */
final class PostgresRefusals {

  private static final Pattern FROM_HOST = Pattern.compile("for host \"([^\"]+)\"");

  private static final String NOT_AN_ENGINE =
      "An engine does not answer so: look at what listens there, and what lies between.";

  private PostgresRefusals() {}

  /** Of a connection that was opened without the driver. */
  static Refusal of(Target target, IOException failure) {
    return of(target, new SQLException(failure));
  }

  static Refusal of(Target target, SQLException failure) {
    String state = Objects.requireNonNullElse(failure.getSQLState(), "");
    String said = message(failure);
    return notTaken(target, failure, said)
        .or(() -> byState(target, state, said))
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

  private static Optional<Refusal> notTaken(Target target, SQLException failure, String said) {
    Optional<NotTaken> foreign = Causes.of(failure, NotTaken.class);
    if (foreign.isPresent() && foreign.get().stranger) {
      return stranger(target, failure);
    }
    if (foreign.isPresent() || said.contains("maxResultBuffer")) {
      return refusal(
          Reason.FOREIGN,
          "reading " + target.address(),
          message(Causes.root(failure)),
          NOT_AN_ENGINE);
    }
    return Causes.of(failure, RuntimeException.class).map(e -> garbled(target, e));
  }

  /** Whether the driver stumbled over what was answered. */
  static boolean ofDriver(RuntimeException failure) {
    return Arrays.stream(failure.getStackTrace())
        .map(StackTraceElement::getClassName)
        .filter(name -> !name.startsWith("java."))
        .findFirst()
        .filter(name -> name.startsWith("org.postgresql."))
        .isPresent();
  }

  /** What was answered makes no sense to the driver. */
  static Refusal garbled(Target target, Throwable failure) {
    return new Refusal(
        Reason.FOREIGN,
        "reading " + target.address(),
        "it answers what belongs to no question (" + message(Causes.root(failure)) + ")",
        NOT_AN_ENGINE);
  }

  private static Optional<Refusal> stranger(Target target, SQLException failure) {
    return refusal(
        Reason.OTHER_PROTOCOL,
        "speaking the PostgreSQL protocol to " + target.address(),
        "what answered is not a PostgreSQL engine (" + message(Causes.root(failure)) + ")",
        "Check the port; PostgreSQL usually listens on 5432.");
  }

  private static Optional<Refusal> byState(Target target, String state, String said) {
    String at = "signing in at " + target.address() + " as " + target.user();
    String role = quoted(target.user());
    return switch (state) {
      case "28P01" ->
          mended(
              Reason.SIGN_IN,
              at,
              said,
              "Check the user and the password. Where the role exists, the password is set there,"
                  + " as a superuser, with this:",
              "ALTER ROLE " + role + " PASSWORD '…';");
      case "28000" -> notAdmitted(target, at, said);
      case "3D000" ->
          refusal(
              Reason.DATABASE_UNKNOWN,
              "opening database " + target.database() + " at " + target.address(),
              said,
              "Name a database that exists there; 'postgres' usually does.");
      case "53300" -> full(target, at, said);
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
          said.contains("for database")
              ? mended(
                  Reason.NOT_PERMITTED,
                  at,
                  said,
                  "The role may not open this database: grant it, as a superuser.",
                  "GRANT CONNECT ON DATABASE " + quoted(target.database()) + " TO " + role + ";")
              : mended(
                  Reason.NOT_PERMITTED,
                  "reading " + target.address() + " as " + target.user(),
                  said,
                  "Grant the role what it lacks, as a superuser.",
                  "GRANT pg_monitor TO " + role + ";");
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

  private static Optional<Refusal> notAdmitted(Target target, String at, String said) {
    if (said.contains("not permitted to log in")) {
      return mended(
          Reason.NOT_ADMITTED,
          at,
          said,
          "The role exists but may not sign in: allow it, as a superuser.",
          "ALTER ROLE " + quoted(target.user()) + " LOGIN;");
    }
    Matcher from = FROM_HOST.matcher(said);
    String address = from.find() ? from.group(1) : "ADDRESS-OF-JAM-JAR";
    return mended(
        Reason.NOT_ADMITTED,
        at,
        said,
        "pg_hba.conf has no line for this address, user and database: put the first line there"
            + " (SHOW hba_file tells where), above any that rejects, then run the second.",
        String.join(
                "  ",
                target.tls() == Target.Tls.OFF ? "host" : "hostssl",
                quoted(target.database()),
                quoted(target.user()),
                address + (address.contains(":") ? "/128" : "/32"),
                "scram-sha-256")
            + "\nSELECT pg_reload_conf();");
  }

  private static Optional<Refusal> full(Target target, String at, String said) {
    if (said.contains("for role")) {
      return mended(
          Reason.FULL,
          at,
          said,
          "The role has all the connections that it may have; Jam Jar needs up to four.",
          "ALTER ROLE " + quoted(target.user()) + " CONNECTION LIMIT 4;");
    }
    return mended(
        Reason.FULL,
        at,
        said,
        "All connections of the engine are in use: this tells by whom. End some, or raise"
            + " max_connections, which needs a restart.",
        "SELECT usename, application_name, state, count(*) FROM pg_stat_activity"
            + " GROUP BY 1, 2, 3 ORDER BY 4 DESC;");
  }

  private static Optional<Refusal> tls(Target target, SQLException failure, String said) {
    String at = "encrypting the connection to " + target.address();
    String lower = said.toLowerCase(Locale.ROOT);
    if (lower.contains("does not support ssl")) {
      return mended(
          Reason.TLS_NOT_OFFERED,
          at,
          said,
          "Switch TLS on there (it needs a certificate), or choose 'off' here if the network is"
              + " trusted.",
          Hello.TLS_ON);
    }
    if (lower.contains("hostname") && lower.contains("verif")) {
      return refusal(
          Reason.TLS_OTHER_NAME,
          at,
          said,
          "The certificate is for another name: use the name that it carries, or have one issued"
              + " for this host.");
    }
    if (Causes.has(failure, CertificateException.class)
        || Causes.has(failure, CertPathBuilderException.class)) {
      return refusal(
          Reason.TLS_NOT_TRUSTED,
          at,
          message(Causes.root(failure)),
          "Paste the certificate of the authority that signed the engine's certificate, in PEM.");
    }
    return Causes.of(failure, SSLException.class)
        .flatMap(
            e ->
                refusal(
                    Reason.TLS_NOT_TRUSTED,
                    at,
                    message(Causes.root(failure)),
                    "Check that the engine's TLS settings and certificate are sound."));
  }

  private static Optional<Refusal> network(Target target, SQLException failure) {
    String at = "connecting to " + target.address();
    if (Causes.has(failure, UnknownHostException.class)) {
      return refusal(
          Reason.NAME_UNKNOWN,
          "looking up the name " + target.host(),
          "no address is known for it",
          "Check the spelling, or use the address in numbers.");
    }
    if (Causes.has(failure, NoRouteToHostException.class)
        || said(failure, "network is unreachable")) {
      return refusal(
          Reason.NO_ROUTE,
          at,
          message(Causes.root(failure)),
          "There is no way from here to that network: check the address, the route and the"
              + " firewall.");
    }
    if (Causes.has(failure, SocketTimeoutException.class)
        || said(failure, "connection attempt timed out")) {
      return refusal(
          Reason.TIMED_OUT,
          at,
          "no answer in time",
          "A firewall may swallow the packets, or whatever listens there does not answer: check"
              + " address and port, then the engine itself.");
    }
    if (Causes.has(failure, ConnectException.class)) {
      return refusal(
          Reason.REFUSED,
          at,
          message(Causes.root(failure)),
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
    if (garbled || (connecting && Causes.has(failure, EOFException.class))) {
      return stranger(target, failure);
    }
    if (Causes.has(failure, EOFException.class)
        || Causes.has(failure, SocketException.class)
        || state.startsWith("08")) {
      return refusal(
          Reason.BROKEN_OFF,
          "reading " + target.address(),
          said + " (" + message(Causes.root(failure)) + ")",
          "The engine went away or something between cut the connection; it is tried again by"
              + " itself.");
    }
    return Optional.empty();
  }

  private static Optional<Refusal> refusal(
      Reason reason, String tried, String answered, String advice) {
    return Optional.of(new Refusal(reason, tried, answered, advice));
  }

  private static Optional<Refusal> mended(
      Reason reason, String tried, String answered, String advice, String commands) {
    return Optional.of(new Refusal(reason, tried, answered, advice).mendedBy(commands));
  }

  /** A name as SQL writes it. */
  static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  private static boolean said(Throwable failure, String words) {
    return Causes.of(failure)
        .anyMatch(cause -> message(cause).toLowerCase(Locale.ROOT).contains(words));
  }

  private static String message(Throwable failure) {
    return Objects.requireNonNullElse(failure.getMessage(), failure.getClass().getSimpleName())
        .lines()
        .findFirst()
        .orElse("");
  }
}
