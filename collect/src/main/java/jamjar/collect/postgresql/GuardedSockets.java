package jamjar.collect.postgresql;

import java.io.FilterInputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicLong;
import javax.net.SocketFactory;

/**
 * Sockets for the driver that guard what it takes from whoever pretends to be an engine: the answer
 * to one question has a greatest size and a longest time, however steadily it drips. Where it is
 * not encrypted, its messages are followed too ({@link Messages}).
 *
 * <p>Public, as the driver makes it by its name.
 */
public final class GuardedSockets extends SocketFactory {
  /** Bytes of one answer. */
  static final long MOST = 48_000_000;

  /** Of one answer, in ms. */
  static final long LONGEST = 60_000;

  /** Those of connections that are being made, by number; several, where a name has addresses. */
  private static final Map<Long, List<Socket>> OPENING = new ConcurrentHashMap<>();

  private static final AtomicLong NUMBERS = new AtomicLong();

  private final long most;
  private final long longestNanos;
  private final boolean plain;
  private final long number;

  /**
   * @param told whether it is not encrypted, the most bytes, the longest time in ms, and the number
   *     of the connection, with commas between
   */
  public GuardedSockets(String told) {
    String[] parts = told.split(",");
    plain = Boolean.parseBoolean(parts[0]);
    most = Long.parseLong(parts[1]);
    longestNanos = Long.parseLong(parts[2]) * 1_000_000;
    number = Long.parseLong(parts[3]);
  }

  /** A connection that is being made. */
  record Opening(long number) implements AutoCloseable {
    Opening() {
      this(NUMBERS.incrementAndGet());
      OPENING.put(number, new CopyOnWriteArrayList<>());
    }

    /** What to tell the sockets in its properties. */
    String told(boolean plain) {
      return plain + "," + MOST + "," + LONGEST + "," + number;
    }

    /** It was made: its socket is the driver's from now on. */
    void made() {
      OPENING.remove(number);
    }

    /** Where it was not made, the driver may have left its socket open. */
    @Override
    public void close() {
      for (Socket left : Objects.requireNonNullElse(OPENING.remove(number), List.<Socket>of())) {
        try {
          left.close();
        } catch (IOException e) {
          // it is given up either way
        }
      }
    }
  }

  @Override
  public Socket createSocket() {
    Socket socket = new Guarded();
    // one that breaks off a query of a connection that was made is the driver's
    List<Socket> opening = OPENING.get(number);
    if (opening != null) {
      opening.add(socket);
    }
    return socket;
  }

  @Override
  public Socket createSocket(String host, int port) throws IOException {
    Socket socket = createSocket();
    socket.connect(new InetSocketAddress(host, port));
    return socket;
  }

  @Override
  public Socket createSocket(String host, int port, InetAddress from, int fromPort)
      throws IOException {
    Socket socket = createSocket();
    socket.bind(new InetSocketAddress(from, fromPort));
    socket.connect(new InetSocketAddress(host, port));
    return socket;
  }

  @Override
  public Socket createSocket(InetAddress host, int port) throws IOException {
    return createSocket(host.getHostAddress(), port);
  }

  @Override
  public Socket createSocket(InetAddress host, int port, InetAddress from, int fromPort)
      throws IOException {
    return createSocket(host.getHostAddress(), port, from, fromPort);
  }

  private final class Guarded extends Socket {
    private final Messages messages = new Messages(most);
    private InputStream in;
    private volatile long asked = System.nanoTime();
    private volatile long taken;

    @Override
    public synchronized InputStream getInputStream() throws IOException {
      if (in == null) {
        in = new Answers(super.getInputStream());
      }
      return in;
    }

    @Override
    public OutputStream getOutputStream() throws IOException {
      return new FilterOutputStream(super.getOutputStream()) {
        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
          asked = System.nanoTime();
          taken = 0;
          messages.asked();
          out.write(bytes, from, length);
        }
      };
    }

    private final class Answers extends FilterInputStream {
      Answers(InputStream in) {
        super(in);
      }

      @Override
      public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
      }

      @Override
      public int read(byte[] bytes, int from, int length) throws IOException {
        int read = super.read(bytes, from, length);
        taken += Math.max(0, read);
        if (taken > most) {
          throw new NotTaken("it answers more than " + most / 1_000_000 + " MB");
        }
        if (System.nanoTime() - asked > longestNanos) {
          throw new NotTaken(
              "it answers for more than " + longestNanos / 1_000_000_000 + " s, and is not done");
        }
        if (plain) {
          messages.take(bytes, from, read);
        }
        return read;
      }
    }
  }
}
