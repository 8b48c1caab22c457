package jamjar.collect.jmx;

import jamjar.collect.Refusal;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.core.failure.Causes;
import java.io.EOFException;
import java.io.InvalidClassException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.rmi.ConnectIOException;
import java.rmi.NoSuchObjectException;
import java.rmi.NotBoundException;
import java.rmi.UnmarshalException;
import java.security.cert.CertificateException;
import java.util.Optional;
import javax.net.ssl.SSLException;

/** Tells from what JMX throws why a target could not be read, and what to do about it. */
final class JmxRefusals {

  private JmxRefusals() {}

  static Refusal of(Target target, Throwable failure) {
    String where =
        target.port() == 0 ? "the process '" + target.database() + "'" : target.address();
    String tried = "JMX at " + where + (target.user().isEmpty() ? "" : " as " + target.user());
    Optional<CertificateException> untrusted = Causes.of(failure, CertificateException.class);
    // a chain that is not trusted is a kind of its own; the plain one is the name
    if (untrusted.filter(e -> e.getClass() == CertificateException.class).isPresent()) {
      return new Refusal(
          Reason.TLS_OTHER_NAME,
          tried,
          Causes.words(failure),
          "Use the name that the certificate is of, or have one issued for " + target.host() + ".");
    }
    if (untrusted.isPresent()) {
      return new Refusal(
          Reason.TLS_NOT_TRUSTED,
          tried,
          Causes.words(failure),
          "Paste the certificate of the authority that signed it, in PEM.");
    }
    if (Causes.has(failure, TlsOfTarget.HandedElsewhere.class)) {
      return new Refusal(
              Reason.HANDED_ELSEWHERE,
              tried,
              "it hands on to " + Causes.words(failure),
              "That is another machine than "
                  + target.host()
                  + ", and nothing is sent there. If it is"
                  + " the right one, type that address here; else start it with the name or address"
                  + " by which it is reached.")
          .mendedBy("-Djava.rmi.server.hostname=" + target.host())
          .afterRestart();
    }
    if (Troubled.isForeign(failure)) {
      return new Refusal(
          Reason.FOREIGN,
          tried,
          Causes.has(failure, InvalidClassException.class)
              ? "it answers with what is not taken: a class other than those of JMX, or too much"
              : "it answers with a class unknown here: " + Causes.words(failure),
          "Check the port: a JVM does not answer so by itself. What it sent was not read.");
    }
    if (Causes.has(failure, SSLException.class)) {
      return new Refusal(
              Reason.TLS_NOT_OFFERED,
              tried,
              Causes.words(failure),
              "Start it with these options, or choose 'off' here if the network is trusted.")
          .mendedBy(JmxCheck.TLS_ON)
          .afterRestart();
    }
    if (Causes.has(failure, SecurityException.class)) {
      return new Refusal(
              Reason.SIGN_IN,
              tried,
              Causes.words(failure),
              "Check user and password. There they stand in the two files named by"
                  + " com.sun.management.jmxremote.password.file and access.file, read at its start:"
                  + " the first line belongs into the one, the second into the other.")
          .mendedBy(target.user() + " …\n" + target.user() + " readonly")
          .afterRestart();
    }
    if (Causes.has(failure, LocalJvms.NotOne.class)) {
      return new Refusal(
          Reason.NAME_UNKNOWN,
          "finding " + where,
          Causes.words(failure),
          "Start it, as the user that Jam Jar runs as, or pick another from the list.");
    }
    if (Causes.has(failure, UnknownHostException.class)) {
      return new Refusal(
          Reason.NAME_UNKNOWN,
          tried,
          "the name " + target.host() + " is not known here",
          "Check how it is written, or give its address.");
    }
    if (Causes.has(failure, SocketTimeoutException.class)) {
      return new Refusal(
          Reason.TIMED_OUT,
          tried,
          "no answer in time",
          target.port() == 0
              ? "It hangs: jcmd shows there what its threads do (Thread.print)."
              : "It hangs, or a firewall drops what is sent: try nc -vz "
                  + target.host()
                  + " "
                  + target.port()
                  + " from here, and jcmd with Thread.print there.");
    }
    if (Causes.has(failure, NoRouteToHostException.class)
        || Causes.words(failure).contains("unreachable")) {
      return new Refusal(
          Reason.NO_ROUTE,
          tried,
          Causes.words(failure),
          "This machine has no way there: check the network and its routes.");
    }
    if (Causes.has(failure, NotBoundException.class)) {
      return new Refusal(
          Reason.OTHER_PROTOCOL,
          tried,
          "a registry that offers no JMX answers there",
          "Give the port of com.sun.management.jmxremote.port.");
    }
    if (Causes.has(failure, ConnectException.class)) {
      return new Refusal(
              Reason.REFUSED,
              tried,
              "nobody listens there",
              "Start it so that it answers there, and check the port.")
          .mendedBy(listening(target.port()))
          .afterRestart();
    }
    if (Causes.has(failure, ConnectIOException.class)
        || Causes.has(failure, UnmarshalException.class)
            && !Causes.has(failure, EOFException.class)) {
      return new Refusal(
          Reason.OTHER_PROTOCOL,
          tried,
          Causes.words(failure),
          target.tls() == Target.Tls.OFF
              ? "Check the port; if it speaks TLS, choose 'certificate checked' here."
              : "Check the port: what answers there does not speak RMI.");
    }
    // what was handed out is not there any more: it is just stopping
    if (Causes.has(failure, SocketException.class)
        || Causes.has(failure, NoSuchObjectException.class)
        || Causes.has(failure, EOFException.class)
        || Causes.has(failure, UnmarshalException.class)) {
      return new Refusal(
          Reason.BROKEN_OFF,
          tried,
          "the connection was broken off",
          "It stopped, or something between broke it; it is tried again.");
    }
    return new Refusal(
        Reason.FAILED, tried, Causes.words(failure), "See the log of the target at this time.");
  }

  /** What a JVM is started with to answer at a port. */
  static String listening(int port) {
    String at = port == 0 ? "PORT" : Integer.toString(port);
    String jmx = "-Dcom.sun.management.jmxremote.";
    return jmx + "port=" + at + "\n" + jmx + "rmi.port=" + at;
  }
}
