package jamjar.collect;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Map;

/** Stands between us and an engine: passes on what is said, later or with other words. */
public final class Between implements AutoCloseable {
  private final ServerSocket listening;
  private final int engine;
  private final long delayMillis;
  private final int late;
  private final Map<String, String> words;

  /**
   * @param engine port of the engine on 127.0.0.1
   * @param delayMillis how much later its answers come
   * @param words what is said in place of what, each as long as the other
   */
  public Between(int engine, long delayMillis, Map<String, String> words) throws IOException {
    this(engine, delayMillis, Integer.MAX_VALUE, words);
  }

  /**
   * As above.
   *
   * @param late so many of its answers come later on each line, the rest at once
   */
  public Between(int engine, long delayMillis, int late, Map<String, String> words)
      throws IOException {
    this.engine = engine;
    this.delayMillis = delayMillis;
    this.late = late;
    this.words = words;
    listening = new ServerSocket(0, 20, InetAddress.getLoopbackAddress());
    daemon(this::accept);
  }

  public int port() {
    return listening.getLocalPort();
  }

  private void accept() {
    try {
      while (true) {
        Socket client = listening.accept();
        Socket server = new Socket(InetAddress.getLoopbackAddress(), engine);
        client.setTcpNoDelay(true);
        server.setTcpNoDelay(true);
        daemon(() -> pass(client, server, false));
        daemon(() -> pass(server, client, true));
      }
    } catch (IOException e) {
      // closed at the end of the test
    }
  }

  private void pass(Socket from, Socket to, boolean answers) {
    byte[] buffer = new byte[1 << 16];
    int left = late;
    try (InputStream in = from.getInputStream();
        OutputStream out = to.getOutputStream()) {
      for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
        byte[] said = java.util.Arrays.copyOf(buffer, n);
        if (answers) {
          if (left-- > 0) {
            Thread.sleep(delayMillis);
          }
          said = others(said);
        }
        out.write(said);
        out.flush();
      }
    } catch (IOException | InterruptedException e) {
      // one side has gone
    }
  }

  private byte[] others(byte[] said) {
    String text = new String(said, StandardCharsets.ISO_8859_1);
    for (Map.Entry<String, String> word : words.entrySet()) {
      text = text.replace(word.getKey(), word.getValue());
    }
    return text.getBytes(StandardCharsets.ISO_8859_1);
  }

  private static void daemon(Runnable what) {
    Thread thread = new Thread(what, "between");
    thread.setDaemon(true);
    thread.start();
  }

  @Override
  public void close() throws IOException {
    listening.close();
  }
}
