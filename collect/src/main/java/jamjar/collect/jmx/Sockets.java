package jamjar.collect.jmx;

import java.io.IOException;
import java.io.ObjectInputFilter;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.rmi.server.RMISocketFactory;
import java.security.GeneralSecurityException;
import javax.net.ssl.SSLContext;

/**
 * A call over RMI can't be interrupted and by default waits for ever. Its times are those of the
 * whole process, set once before the first connection.
 */
final class Sockets {
  private static final int CONNECT_MILLIS = 4000;
  private static final String ANSWER_MILLIS = "8000";
  private static final String HANDSHAKE_MILLIS = "5000";
  private static final String IDLE_MILLIS = "180000";
  private static boolean prepared;

  private Sockets() {}

  static synchronized void prepare() {
    if (prepared) {
      return;
    }
    System.setProperty("sun.rmi.transport.tcp.responseTimeout", ANSWER_MILLIS);
    System.setProperty("sun.rmi.transport.tcp.handshakeTimeout", HANDSHAKE_MILLIS);
    System.setProperty("sun.rmi.transport.connectionTimeout", IDLE_MILLIS);
    try {
      RMISocketFactory.setSocketFactory(new Timed());
      if (ObjectInputFilter.Config.getSerialFilter() == null) {
        ObjectInputFilter.Config.setSerialFilter(new AllowedClasses());
      }
      // RMI asks the process for its TLS
      SSLContext.setDefault(new TlsContext(SSLContext.getDefault()));
    } catch (IOException | GeneralSecurityException e) {
      throw new IllegalStateException("the sockets of JMX could not be prepared", e);
    }
    prepared = true;
  }

  /** A connection, or a failure in time. */
  static Socket connected(InetSocketAddress address) throws IOException {
    Socket socket = new Socket();
    try {
      socket.connect(address, CONNECT_MILLIS);
      socket.setTcpNoDelay(true);
      return socket;
    } catch (IOException e) {
      socket.close();
      throw e;
    }
  }

  private static final class Timed extends RMISocketFactory {
    @Override
    public Socket createSocket(String host, int port) throws IOException {
      InetSocketAddress address = new InetSocketAddress(host, port);
      TlsOfTarget.requireSame(address);
      return connected(address);
    }

    @Override
    public ServerSocket createServerSocket(int port) throws IOException {
      return getDefaultSocketFactory().createServerSocket(port);
    }
  }
}
