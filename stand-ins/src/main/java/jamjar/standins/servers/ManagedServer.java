package jamjar.standins.servers;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.rmi.NoSuchObjectException;
import java.rmi.registry.LocateRegistry;
import java.rmi.registry.Registry;
import java.rmi.server.RMIServerSocketFactory;
import java.rmi.server.UnicastRemoteObject;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BooleanSupplier;
import javax.management.MBeanServer;
import javax.management.remote.JMXConnectorServer;
import javax.management.remote.JMXServiceURL;
import javax.management.remote.rmi.RMIConnectorServer;
import javax.management.remote.rmi.RMIJRMPServerImpl;

/** A managed-bean server that answers over JMX on a port of 127.0.0.1 of its own. */
public final class ManagedServer implements AutoCloseable {
  private final JMXConnectorServer connector;
  private final Registry registry;
  private final Loopback sockets = new Loopback();

  /**
   * Starts it.
   *
   * @param port the registry and the server share it
   */
  public ManagedServer(MBeanServer beans, int port) throws IOException {
    System.setProperty("java.rmi.server.hostname", "127.0.0.1");
    registry = LocateRegistry.createRegistry(port, null, sockets);
    RMIJRMPServerImpl remote = new RMIJRMPServerImpl(port, null, sockets, Map.of());
    connector =
        new RMIConnectorServer(
            new JMXServiceURL("service:jmx:rmi://127.0.0.1:" + port), Map.of(), remote, beans);
    connector.start();
    registry.rebind("jmxrmi", remote.toStub());
  }

  /** Ends it as a process that dies does: who was connected is cut off. */
  @Override
  public void close() throws IOException {
    try {
      UnicastRemoteObject.unexportObject(registry, true);
    } catch (NoSuchObjectException e) {
      // it is gone already
    }
    connector.stop();
    sockets.close();
  }

  /** Cuts off who is connected, and accepts nobody from now on. */
  void acceptNobody() throws IOException {
    sockets.accepting = false;
    sockets.cutOff();
  }

  /**
   * Sends no more than so many bytes from now on, and then nothing.
   *
   * @param cut whether to cut off who is connected first
   */
  void stall(long bytes, boolean cut) throws IOException {
    sockets.left.set(bytes);
    sockets.stalled = true;
    if (cut) {
      sockets.cutOff();
    }
  }

  /** Listens on loopback only, and remembers whom it accepted. */
  private static final class Loopback implements RMIServerSocketFactory {
    private final Set<Socket> accepted = ConcurrentHashMap.newKeySet();
    private final Set<ServerSocket> listening = ConcurrentHashMap.newKeySet();
    private final AtomicLong left = new AtomicLong();
    private volatile boolean accepting = true;
    private volatile boolean stalled;
    private volatile boolean closed;

    @Override
    public ServerSocket createServerSocket(int port) throws IOException {
      ServerSocket socket =
          new ServerSocket(port, 50, InetAddress.getLoopbackAddress()) {
            @Override
            public Socket accept() throws IOException {
              waitWhile(() -> !accepting);
              Socket client = new Client();
              implAccept(client);
              accepted.removeIf(Socket::isClosed);
              accepted.add(client);
              return client;
            }
          };
      listening.add(socket);
      return socket;
    }

    private void waitWhile(BooleanSupplier holds) throws IOException {
      try {
        while (holds.getAsBoolean() && !closed) {
          Thread.sleep(50);
        }
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IOException(e);
      }
    }

    void cutOff() throws IOException {
      for (Socket socket : accepted) {
        socket.close();
      }
    }

    void close() throws IOException {
      closed = true;
      for (ServerSocket socket : listening) {
        socket.close();
      }
      cutOff();
    }

    /** One whose answers may stop half way. */
    private final class Client extends Socket {
      @Override
      public OutputStream getOutputStream() throws IOException {
        return new FilterOutputStream(super.getOutputStream()) {
          @Override
          public void write(int one) throws IOException {
            write(new byte[] {(byte) one}, 0, 1);
          }

          @Override
          public void write(byte[] bytes, int from, int length) throws IOException {
            int now = stalled ? (int) Math.min(length, left.get()) : length;
            out.write(bytes, from, now);
            left.addAndGet(-now);
            if (now < length) {
              out.flush();
              waitWhile(() -> stalled);
              throw new IOException("stalled");
            }
          }
        };
      }
    }
  }
}
