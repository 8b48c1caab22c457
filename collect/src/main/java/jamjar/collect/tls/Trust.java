package jamjar.collect.tls;

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
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509ExtendedTrustManager;

/** Whom a connection believes. */
public final class Trust {
  private Trust() {}

  /**
   * A TLS of its own, with no sessions of others.
   *
   * @param ca certificates in PEM that are trusted; empty for those of the machine
   * @throws IOException when the certificates can't be used
   */
  public static SSLContext context(Target.Tls tls, String ca) throws IOException {
    return context(tls == Target.Tls.ENCRYPTED ? all() : managers(ca));
  }

  /** Believes whoever answers, so as to look at what is shown. */
  public static SSLContext believing() throws IOException {
    return context(all());
  }

  private static SSLContext context(TrustManager[] managers) throws IOException {
    try {
      SSLContext context = SSLContext.getInstance("TLS");
      context.init(null, managers, null);
      return context;
    } catch (GeneralSecurityException e) {
      throw new IOException("TLS can't be used here: " + e.getMessage(), e);
    }
  }

  private static TrustManager[] all() {
    return new TrustManager[] {new Believing()};
  }

  /**
   * @param ca as for {@link #context}
   */
  static TrustManager[] managers(String ca) throws IOException {
    try {
      KeyStore store = null;
      if (!ca.isBlank()) {
        store = KeyStore.getInstance(KeyStore.getDefaultType());
        store.load(null, null);
        byte[] pem = ca.getBytes(StandardCharsets.US_ASCII);
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
    } catch (GeneralSecurityException e) {
      throw new IOException("the trusted certificate can't be used: " + e.getMessage(), e);
    }
  }

  /** Whoever answers is believed. */
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
