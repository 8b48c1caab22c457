package jamjar.server.telling;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A server that drips its answer holds nobody up for ever: each byte comes before any time-out. */
class DeadlineTest {
  private static final Duration MOST = Duration.ofMillis(500);
  private ServerSocket server;

  @BeforeEach
  void listen() throws IOException {
    server = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
  }

  @AfterEach
  void end() throws IOException {
    server.close();
  }

  /** Begins as is told, and then sends a byte again and again, until nobody listens. */
  private Thread drip(String begin) {
    Thread thread =
        new Thread(
            () -> {
              try (Socket socket = server.accept()) {
                OutputStream out = socket.getOutputStream();
                out.write(begin.getBytes(StandardCharsets.US_ASCII));
                while (true) {
                  out.write('-');
                  out.flush();
                  Thread.sleep(20);
                }
              } catch (IOException | InterruptedException e) {
                // it was broken off
              }
            });
    thread.start();
    return thread;
  }

  private static Letter letter() {
    return new Letter(
        "m/rise-2/anna/letters",
        "rise",
        "critical",
        "m",
        "anna",
        "anna@skerryline.invalid",
        List.of(),
        "Critical: booking-1",
        "",
        "",
        "",
        null,
        0);
  }

  private static void isBrokenOff(Outcome outcome, Thread dripping) throws Exception {
    assertThat(outcome.state()).isEqualTo(Outcome.State.AGAIN);
    assertThat(outcome.answer()).isEqualTo("it took more than 0 s and was broken off");
    dripping.join(Duration.ofMinutes(1).toMillis());
    assertThat(dripping.isAlive()).as("the connection is closed").isFalse();
  }

  @Test
  void a_mail_server_that_drips_its_greeting() throws Exception {
    Thread dripping = drip("220");
    ChannelBody.Mail mail =
        new ChannelBody.Mail(
            "127.0.0.1", server.getLocalPort(), "off", "", "", "jamjar@skerryline.invalid");
    isBrokenOff(MailSender.send(new Channel("letters", mail, null, ""), letter(), MOST), dripping);
  }

  @Test
  void a_hook_that_drips_its_answer() throws Exception {
    Thread dripping = drip("HTTP/1.1 200 OK\r\nX-Long: ");
    ChannelBody.Hook hook =
        new ChannelBody.Hook("http://127.0.0.1:" + server.getLocalPort() + "/", "", "");
    HookSender sender = new HookSender(new OwnNetwork("127.0.0.1"));
    isBrokenOff(sender.send(new Channel("chat", null, hook, ""), letter(), MOST), dripping);
  }
}
