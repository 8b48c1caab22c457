package jamjar.server.telling;

import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.hc.client5.http.DnsResolver;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Looks up where hooks lead. Who may set a hook is not to reach by it what this machine reaches and
 * they do not: addresses of its own network are refused, but those that are allowed when it is
 * started. What was looked up is what is connected to.
 */
@Component
class OwnNetwork implements DnsResolver {
  private final Set<String> allowed;

  /** A hook leads into the server's own network. */
  static final class Refused extends UnknownHostException {
    private static final long serialVersionUID = 1L;

    Refused(String host) {
      super(
          host
              + " is an address of the server's own network: who starts Jam Jar can allow it by"
              + " JAMJAR_HOOKS_OWNNETWORK="
              + host);
    }
  }

  OwnNetwork(@Value("${jamjar.hooks.own-network:}") String allowed) {
    this.allowed =
        Arrays.stream(allowed.split(","))
            .map(String::strip)
            .filter(one -> !one.isEmpty())
            .collect(Collectors.toSet());
  }

  @Override
  public InetAddress[] resolve(String host) throws UnknownHostException {
    InetAddress[] all = InetAddress.getAllByName(host);
    if (!allowed.contains(host)) {
      for (InetAddress one : all) {
        if (isOwn(one)) {
          throw new Refused(host);
        }
      }
    }
    return all;
  }

  @Override
  public String resolveCanonicalHostname(String host) {
    return host;
  }

  /**
   * Whether a host is none that may be asked.
   *
   * @throws UnknownHostException where it leads nowhere
   */
  void check(String host) throws UnknownHostException {
    resolve(host);
  }

  private static boolean isOwn(InetAddress address) {
    byte[] bytes = address.getAddress();
    int first = bytes[0] & 0xff;
    int second = bytes[1] & 0xff;
    boolean local6 = address instanceof Inet6Address && (first & 0xfe) == 0xfc;
    // shared between a provider and its customers, and what translates between 4 and 6
    boolean shared = bytes.length == 4 && first == 100 && (second & 0xc0) == 64;
    boolean translated = bytes.length == 16 && first == 0 && second == 0x64;
    boolean nowhere = bytes.length == 4 && (first == 0 || first >= 240);
    return address.isLoopbackAddress()
        || address.isAnyLocalAddress()
        || address.isLinkLocalAddress()
        || address.isSiteLocalAddress()
        || address.isMulticastAddress()
        || local6
        || shared
        || translated
        || nowhere;
  }
}
