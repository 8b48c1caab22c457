package jamjar.collect.jmx;

import jamjar.collect.Target;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.security.cert.X509Certificate;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509ExtendedTrustManager;

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
  private static final Map<Trust, SSLContext> CONTEXTS = new ConcurrentHashMap<>();

  private final Target before = ABOUT.get();

  /** What makes two targets share their TLS. */
  private record Trust(String address, Target.Tls tls, String ca) {}

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

  static SSLContext context(Target target) throws IOException {
    Trust trust = new Trust(target.address(), target.tls(), target.ca());
    SSLContext known = CONTEXTS.get(trust);
    if (known == null) {
      try {
        known = SSLContext.getInstance("TLS");
        known.init(null, managers(trust), null);
      } catch (GeneralSecurityException e) {
        throw new IOException("the trusted certificate can't be used: " + e.getMessage(), e);
      }
      CONTEXTS.put(trust, known);
    }
    return known;
  }

  private static TrustManager[] managers(Trust trust) throws GeneralSecurityException, IOException {
    if (trust.tls() == Target.Tls.ENCRYPTED) {
      return new TrustManager[] {new Believing()};
    }
    KeyStore store = null;
    if (!trust.ca().isBlank()) {
      store = KeyStore.getInstance(KeyStore.getDefaultType());
      store.load(null, null);
      byte[] pem = trust.ca().getBytes(StandardCharsets.US_ASCII);
      int i = 0;
      for (Certificate certificate :
          CertificateFactory.getInstance("X.509")
              .generateCertificates(new ByteArrayInputStream(pem))) {
        store.setCertificateEntry("ca" + i++, certificate);
      }
    }
    TrustManagerFactory factory =
        TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
    factory.init(store);
    return factory.getTrustManagers();
  }

  /** Whoever answers is believed: the person has chosen so. */
  private static final class Believing extends X509ExtendedTrustManager {
    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type) {
      // believed
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket) {
      // believed
    }

    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type, SSLEngine engine) {
      // believed
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type) {
      throw new UnsupportedOperationException("no clients are served");
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket) {
      throw new UnsupportedOperationException("no clients are served");
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type, SSLEngine engine) {
      throw new UnsupportedOperationException("no clients are served");
    }

    @Override
    public X509Certificate[] getAcceptedIssuers() {
      return new X509Certificate[0];
    }
  }
}
