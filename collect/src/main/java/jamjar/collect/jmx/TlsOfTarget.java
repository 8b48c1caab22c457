package jamjar.collect.jmx;

import jamjar.collect.Target;
import jamjar.collect.tls.Trust;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import javax.net.ssl.SSLContext;

/**
 * The TLS of a target: whom to trust there, with sessions of its own, as one that was taken up
 * again would not be checked. RMI takes its TLS from the process, so that the choice is made when a
 * connection is opened: by the target that this thread is about. RMI also renews its leases in
 * threads of its own, which are about the last target of that host.
 */
final class TlsOfTarget implements AutoCloseable {
  private static final String LEASES = "RMI RenewClean";
  private static final ThreadLocal<Target> ABOUT = new ThreadLocal<>();
  private static final Map<String, Target> BY_HOST = new ConcurrentHashMap<>();
  private static final Map<Shared, SSLContext> CONTEXTS = new ConcurrentHashMap<>();

  private final Target before = ABOUT.get();

  /** What makes two targets share their TLS. */
  private record Shared(String address, Target.Tls tls, String ca) {}

  private TlsOfTarget() {}

  /** This thread is about a target, until closed. */
  static TlsOfTarget of(Target target) {
    TlsOfTarget about = new TlsOfTarget();
    ABOUT.set(target);
    return about;
  }

  @Override
  public void close() {
    if (before == null) {
      ABOUT.remove();
    } else {
      ABOUT.set(before);
    }
  }

  /**
   * What a connection that this thread opens is about; empty when it is not about a target.
   *
   * @param host where it is opened to, as RMI was told over there
   */
  static Optional<Target> about(String host) {
    Target target = ABOUT.get();
    if (target != null) {
      BY_HOST.put(host, target);
      return Optional.of(target);
    }
    boolean leases = Thread.currentThread().getName().startsWith(LEASES);
    return leases ? Optional.ofNullable(BY_HOST.get(host)) : Optional.empty();
  }

  /**
   * What answers at a target's port tells where to go on to: to no machine but that which was
   * typed. Whoever pretends to be the target would else have us connect, and sign in, wherever he
   * likes.
   *
   * @throws HandedElsewhere when it is another one
   */
  static void requireSame(InetSocketAddress address) throws IOException {
    Target target = ABOUT.get();
    if (target == null || target.port() == 0 || address.getHostString().equals(target.host())) {
      return;
    }
    boolean same =
        !address.isUnresolved()
            && (Arrays.asList(InetAddress.getAllByName(target.host()))
                    .contains(address.getAddress())
                || target.local() && address.getAddress().isLoopbackAddress());
    if (!same) {
      throw new HandedElsewhere(address.getHostString() + ":" + address.getPort());
    }
  }

  /** A target hands on to another machine than the one that was typed. */
  static final class HandedElsewhere extends IOException {
    private static final long serialVersionUID = 1L;

    HandedElsewhere(String where) {
      super(where);
    }
  }

  static SSLContext context(Target target) throws IOException {
    Shared shared = new Shared(target.address(), target.tls(), target.ca());
    SSLContext known = CONTEXTS.get(shared);
    if (known == null) {
      known = Trust.context(target.tls(), target.ca());
      CONTEXTS.put(shared, known);
    }
    return known;
  }
}
