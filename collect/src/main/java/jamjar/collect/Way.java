package jamjar.collect;

import jamjar.collect.Refusal.Reason;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.NoRouteToHostException;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** The way to a target: whether its name is known, whether its port answers, and from where. */
public final class Way {
  private static final int CONNECT_MILLIS = 4000;
  private static final int ANSWER_MILLIS = 5000;

  private Way() {}

  /**
   * Opens a connection, telling each step.
   *
   * @param results where the steps are told
   * @param start what to do there when nobody listens
   * @return the connection, whose reads end after 5 s; empty when it failed and was told
   */
  public static Optional<Socket> open(Target target, List<CheckResult> results, String start) {
    String host = target.host();
    String name = "Name";
    try {
      InetAddress[] addresses = InetAddress.getAllByName(host);
      String found =
          Arrays.stream(addresses)
              .map(InetAddress::getHostAddress)
              .distinct()
              .collect(Collectors.joining(", "));
      results.add(
          CheckResult.pass(
              name, found.equals(host) ? host + " is an address" : host + " is " + found));
    } catch (UnknownHostException e) {
      results.add(
          CheckResult.fail(
              name,
              new Refusal(
                  Reason.NAME_UNKNOWN,
                  "looking up the name " + host,
                  "no address is known for it",
                  "Check how it is written; if it is right, the name service of this machine does"
                      + " not know it: give the address in numbers.")));
      return Optional.empty();
    }
    return connected(target, results, start);
  }

  private static Optional<Socket> connected(
      Target target, List<CheckResult> results, String start) {
    Socket socket = new Socket();
    try {
      long began = System.nanoTime();
      socket.connect(new InetSocketAddress(target.host(), target.port()), CONNECT_MILLIS);
      socket.setSoTimeout(ANSWER_MILLIS);
      results.add(
          CheckResult.pass(
              "Reach",
              String.format(
                  Locale.ROOT,
                  "%s accepts after %.1f ms; Jam Jar comes from %s",
                  target.address(),
                  (System.nanoTime() - began) / 1e6,
                  socket.getLocalAddress().getHostAddress())));
      return Optional.of(socket);
    } catch (IOException e) {
      results.add(CheckResult.fail("Reach", refusal(target, e, start)));
      try {
        socket.close();
      } catch (IOException again) {
        // it never was open
      }
      return Optional.empty();
    }
  }

  private static Refusal refusal(Target target, IOException failure, String start) {
    String tried = "connecting to " + target.address();
    String said = String.valueOf(failure.getMessage());
    if (failure instanceof SocketTimeoutException) {
      return new Refusal(
          Reason.TIMED_OUT,
          tried,
          "no answer within " + CONNECT_MILLIS / 1000 + " s",
          "A firewall may drop what is sent, or the address is that of another network: let port "
              + target.port()
              + " through for this machine.");
    }
    if (failure instanceof NoRouteToHostException || said.contains("unreachable")) {
      return new Refusal(
          Reason.NO_ROUTE,
          tried,
          said,
          "There is no way from this machine to that network: check the address, then the route"
              + " (ip route get "
              + target.host()
              + ").");
    }
    return new Refusal(Reason.REFUSED, tried, "nobody listens there: " + said, start);
  }
}
