package jamjar.collect;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
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
   * @param refusals what a failure means for this kind of target
   * @return the connection, whose reads end after 5 s; empty when it failed and was told
   */
  public static Optional<Socket> open(
      Target target, List<CheckResult> results, Function<IOException, Refusal> refusals) {
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
      results.add(CheckResult.fail(name, refusals.apply(e)));
      return Optional.empty();
    }
    return connected(target, results, refusals);
  }

  private static Optional<Socket> connected(
      Target target, List<CheckResult> results, Function<IOException, Refusal> refusals) {
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
      results.add(CheckResult.fail("Reach", refusals.apply(e)));
      try {
        socket.close();
      } catch (IOException again) {
        // it never was open
      }
      return Optional.empty();
    }
  }
}
