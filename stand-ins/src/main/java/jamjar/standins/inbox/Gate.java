package jamjar.standins.inbox;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Stands before the mail server, on the port that is told: lets connections through, or keeps them
 * waiting, or drops them after the message's end, when it is taken and that is not told any more.
 */
final class Gate implements AutoCloseable {
  /** What it does with connections. */
  enum Mood {
    WELL,
    /** Greets, and says nothing more. */
    HANGS,
    /** Says one sign a second. */
    DRIPS,
    /** Takes the message, and is gone before it says so. */
    DROPS,
    /** Is not there. */
    AWAY
  }

  private static final byte[] END = "\r\n.\r\n".getBytes(StandardCharsets.US_ASCII);
  private final ServerSocket socket;
  private final int behind;
  private final Set<Socket> open = ConcurrentHashMap.newKeySet();
  private volatile Mood mood = Mood.WELL;

  /**
   * @param port 0 for any
   * @param behind the port of the server behind it
   */
  Gate(int port, int behind) throws IOException {
    this.socket = new ServerSocket(port, 50, InetAddress.getLoopbackAddress());
    this.behind = behind;
    start(this::accept);
  }

  int port() {
    return socket.getLocalPort();
  }

  /** From now on; what is connected is let go. */
  void becomes(Mood next) {
    mood = next;
    open.forEach(Gate::end);
  }

  private static void start(Runnable task) {
    Thread thread = new Thread(task, "inbox-gate");
    thread.setDaemon(true);
    thread.start();
  }

  private void accept() {
    while (!socket.isClosed()) {
      try {
        Socket one = socket.accept();
        open.add(one);
        start(() -> serve(one));
      } catch (IOException e) {
        // it was closed, or the one who came is gone
      }
    }
  }

  private void serve(Socket from) {
    Mood now = mood;
    try (from) {
      if (now == Mood.AWAY) {
        return;
      }
      if (now == Mood.HANGS || now == Mood.DRIPS) {
        keepWaiting(from, now == Mood.DRIPS);
        return;
      }
      try (Socket to = new Socket(InetAddress.getLoopbackAddress(), behind)) {
        open.add(to);
        start(() -> answers(to, from));
        messages(from, to, now == Mood.DROPS);
        open.remove(to);
      }
    } catch (IOException e) {
      // who came is gone
    } finally {
      open.remove(from);
    }
  }

  private static void keepWaiting(Socket from, boolean drips) throws IOException {
    OutputStream out = from.getOutputStream();
    out.write("220-inbox".getBytes(StandardCharsets.US_ASCII));
    out.flush();
    try {
      while (!from.isClosed()) {
        Thread.sleep(1_000);
        if (drips) {
          out.write('.');
          out.flush();
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static void answers(Socket from, Socket to) {
    try {
      from.getInputStream().transferTo(to.getOutputStream());
    } catch (IOException e) {
      // one of the two is gone
    }
    end(to);
  }

  private static void messages(Socket from, Socket to, boolean drops) throws IOException {
    InputStream in = from.getInputStream();
    OutputStream out = to.getOutputStream();
    int matched = 0;
    for (int b = in.read(); b >= 0; b = in.read()) {
      out.write(b);
      matched = b == END[matched] ? matched + 1 : b == END[0] ? 1 : 0;
      if (in.available() == 0 || matched == END.length) {
        out.flush();
      }
      if (matched == END.length) {
        matched = 0;
        if (drops) {
          // gone before the answer comes
          end(from);
          to.shutdownOutput();
          to.getInputStream().readAllBytes();
          return;
        }
      }
    }
  }

  private static void end(Socket one) {
    try {
      one.close();
    } catch (IOException e) {
      // it is gone
    }
  }

  @Override
  public void close() throws IOException {
    socket.close();
    open.forEach(Gate::end);
  }
}
