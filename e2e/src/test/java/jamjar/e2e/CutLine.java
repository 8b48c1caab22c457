package jamjar.e2e;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** A line to a port on loopback that can be cut, and mended again. */
final class CutLine implements AutoCloseable {
  private final ServerSocket door = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
  private final int behind;
  private final Set<Socket> open = ConcurrentHashMap.newKeySet();
  private volatile boolean cut;

  CutLine(int behind) throws IOException {
    this.behind = behind;
    start(this::accept);
  }

  String address() {
    return "http://127.0.0.1:" + door.getLocalPort();
  }

  /** Nothing goes through any more, and who tries is turned away. */
  void cut() {
    cut = true;
    open.forEach(CutLine::close);
  }

  void mend() {
    cut = false;
  }

  private void accept() {
    try {
      while (true) {
        Socket here = door.accept();
        open.add(here);
        if (cut) {
          close(here);
          continue;
        }
        Socket there = new Socket();
        there.connect(new InetSocketAddress(InetAddress.getLoopbackAddress(), behind), 2000);
        open.add(there);
        start(() -> pass(here, there));
        start(() -> pass(there, here));
        if (cut) {
          cut();
        }
      }
    } catch (IOException e) {
      // it was closed
    }
  }

  private void pass(Socket from, Socket to) {
    try {
      from.getInputStream().transferTo(to.getOutputStream());
    } catch (IOException e) {
      // one of both has gone
    } finally {
      close(from);
      close(to);
      open.remove(from);
      open.remove(to);
    }
  }

  private static void start(Runnable task) {
    Thread thread = new Thread(task, "line");
    thread.setDaemon(true);
    thread.start();
  }

  private static void close(Socket socket) {
    try {
      socket.close();
    } catch (IOException e) {
      // it is closed already
    }
  }

  @Override
  public void close() throws IOException {
    door.close();
    cut();
  }
}
