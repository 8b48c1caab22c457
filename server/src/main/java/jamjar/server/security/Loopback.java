package jamjar.server.security;

import java.net.InetAddress;
import java.net.UnknownHostException;
import org.springframework.core.env.Environment;

/** Without sign-in the server listens on this machine only. */
public final class Loopback {

  private Loopback() {}

  /**
   * Refuses to start on an address that others can reach.
   *
   * @throws IllegalStateException when {@code server.address} is not a loopback address
   */
  public static void require(Environment environment) {
    String address = environment.getProperty("server.address", "127.0.0.1");
    try {
      if (!InetAddress.getByName(address).isLoopbackAddress()) {
        throw new IllegalStateException(
            "server.address is "
                + address
                + ", which others can reach. There is no sign-in yet, so Jam Jar listens on"
                + " loopback only: set it to 127.0.0.1.");
      }
    } catch (UnknownHostException e) {
      throw new IllegalStateException("server.address " + address + " is not known", e);
    }
  }
}
