package jamjar.collect.jmx;

import jamjar.collect.Target;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.security.KeyManagementException;
import java.security.SecureRandom;
import java.util.Optional;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLContextSpi;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLServerSocketFactory;
import javax.net.ssl.SSLSessionContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.SSLSocketFactory;
import javax.net.ssl.TrustManager;

/**
 * The TLS of the process: that of the machine, as it was, but for the sockets that are opened about
 * a target, which have the target's own.
 */
final class TlsContext extends SSLContext {

  TlsContext(SSLContext machine) {
    super(new Choosing(machine), machine.getProvider(), machine.getProtocol());
  }

  private static final class Choosing extends SSLContextSpi {
    private final SSLContext machine;

    Choosing(SSLContext machine) {
      this.machine = machine;
    }

    @Override
    protected void engineInit(KeyManager[] keys, TrustManager[] trusted, SecureRandom random)
        throws KeyManagementException {
      throw new KeyManagementException("the TLS of the process is made once");
    }

    @Override
    protected SSLSocketFactory engineGetSocketFactory() {
      return new ChosenSockets(machine.getSocketFactory());
    }

    @Override
    protected SSLServerSocketFactory engineGetServerSocketFactory() {
      return machine.getServerSocketFactory();
    }

    @Override
    protected SSLEngine engineCreateSSLEngine() {
      return machine.createSSLEngine();
    }

    @Override
    protected SSLEngine engineCreateSSLEngine(String host, int port) {
      return machine.createSSLEngine(host, port);
    }

    @Override
    protected SSLSessionContext engineGetServerSessionContext() {
      return machine.getServerSessionContext();
    }

    @Override
    protected SSLSessionContext engineGetClientSessionContext() {
      return machine.getClientSessionContext();
    }

    @Override
    protected SSLParameters engineGetDefaultSSLParameters() {
      return machine.getDefaultSSLParameters();
    }

    @Override
    protected SSLParameters engineGetSupportedSSLParameters() {
      return machine.getSupportedSSLParameters();
    }
  }

  private static final class ChosenSockets extends SSLSocketFactory {
    private final SSLSocketFactory machine;

    ChosenSockets(SSLSocketFactory machine) {
      this.machine = machine;
    }

    /**
     * TLS over a connection. The certificate must carry the name that was typed, whatever name RMI
     * was given over there.
     */
    private static Socket over(Socket under, Target target, boolean close) throws IOException {
      Socket socket =
          TlsOfTarget.context(target)
              .getSocketFactory()
              .createSocket(under, target.host(), under.getPort(), close);
      if (target.tls() != Target.Tls.ENCRYPTED) {
        SSLSocket tls = (SSLSocket) socket;
        SSLParameters parameters = tls.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS");
        tls.setSSLParameters(parameters);
      }
      return socket;
    }

    private static Socket sameMachine(String host, int port) throws IOException {
      InetSocketAddress address = new InetSocketAddress(host, port);
      TlsOfTarget.requireSame(address);
      return Sockets.connected(address);
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
      Optional<Target> about = TlsOfTarget.about(host);
      return about.isEmpty()
          ? machine.createSocket(host, port)
          : over(sameMachine(host, port), about.get(), true);
    }

    @Override
    public Socket createSocket(Socket under, String host, int port, boolean close)
        throws IOException {
      Optional<Target> about = TlsOfTarget.about(host);
      return about.isEmpty()
          ? machine.createSocket(under, host, port, close)
          : over(under, about.get(), close);
    }

    // RMI makes none of these

    @Override
    public Socket createSocket(String host, int port, InetAddress from, int fromPort)
        throws IOException {
      return machine.createSocket(host, port, from, fromPort);
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
      return machine.createSocket(host, port);
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress from, int fromPort)
        throws IOException {
      return machine.createSocket(host, port, from, fromPort);
    }

    @Override
    public String[] getDefaultCipherSuites() {
      return machine.getDefaultCipherSuites();
    }

    @Override
    public String[] getSupportedCipherSuites() {
      return machine.getSupportedCipherSuites();
    }
  }
}
