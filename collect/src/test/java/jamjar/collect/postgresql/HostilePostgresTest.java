package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What pretends to be a PostgreSQL engine, and answers what does harm to who reads it. */
class HostilePostgresTest {

  /** Answers a question. */
  private interface Answer {
    void say(DataOutputStream out) throws IOException;
  }

  static Stream<Arguments> answers() {
    byte[] hello = new byte[100];
    return Stream.of(
        of("rows without end", "more than 20000 messages", endless('D', row(40, new byte[40]))),
        of("rows of nothing without end", "more than 20000 messages", endless('D', count(0))),
        of(
            "long rows without end",
            "maxResultBuffer",
            endless('D', row(900_000, new byte[900_000]))),
        of("notices without end", "more than 20000 messages", endless('N', notice())),
        of("settings without end", "more than 20000 messages", endless('S', text("a", "b"))),
        of(
            "a message of two gigabytes",
            "claims a message of 2147483000 bytes",
            out -> message(out, 'D', 2_147_483_000, hello)),
        of(
            "a message of less than nothing",
            "claims a message of 4294967295 bytes",
            out -> message(out, 'E', -1, hello)),
        of(
            "a column of a gigabyte in a short row",
            "claims a column of 1073741824 bytes",
            out -> message(out, 'D', row(1 << 30, new byte[20]))),
        of(
            "a row hidden behind a message that has no more to say",
            "more in a message '1' than belongs there",
            out -> message(out, '1', row(1 << 30, new byte[20]))),
        of(
            "a row hidden behind a setting",
            "more in a message 'S' than belongs there",
            out -> message(out, 'S', joined(text("a", "b"), row(1 << 30, new byte[20])))),
        of(
            "copying that nobody asked for",
            "a message that no engine sends",
            out -> message(out, 'G', new byte[8])),
        of(
            "what is no message at all",
            "a message that no engine sends",
            out -> out.write("HTTP/1.1 200 OK\r\n\r\n".getBytes(StandardCharsets.US_ASCII))));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("answers")
  void is_refused_in_words(String what, String told, Answer answer) throws Exception {
    try (Impostor impostor = new Impostor(answer)) {
      for (int i = 0; i < 2; i++) {
        CollectFailed failed = failed(impostor.target());
        assertThat(failed.refusal().answered()).contains(told);
        assertThat(failed.refusal().reason()).isIn(Reason.FOREIGN, Reason.OTHER_PROTOCOL);
      }
    }
  }

  @Test
  void a_connection_that_is_not_made_is_closed_whatever_the_driver_makes_of_the_answer()
      throws Exception {
    // rows that nobody described, in the midst of what the driver sets at first
    try (Impostor impostor = new Impostor(endless('D', row(4, new byte[4])), true)) {
      assertThat(failed(impostor.target())).isNotNull();
    }
  }

  @Test
  void an_answer_that_drips_is_given_up_in_time() throws Exception {
    try (ServerSocket server = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      Thread drip =
          new Thread(
              () -> {
                try (Socket socket = server.accept()) {
                  while (true) {
                    message(new DataOutputStream(socket.getOutputStream()), 'n', new byte[0]);
                    Thread.sleep(20);
                  }
                } catch (IOException | InterruptedException e) {
                  // it was given up, as wanted
                }
              },
              "drip");
      drip.start();
      try (Socket socket =
          new GuardedSockets("true,1000000,300,0")
              .createSocket("127.0.0.1", server.getLocalPort())) {
        byte[] some = new byte[100];
        assertThatThrownBy(
                () -> {
                  while (true) {
                    socket.getInputStream().read(some);
                  }
                })
            .isInstanceOf(IOException.class)
            .hasMessageContaining("it answers for more than");
      }
      drip.join();
    }
  }

  private static CollectFailed failed(Target target) {
    try (PostgresCollector collector =
        PostgresCollector.of(
            target,
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            new OwnCommits(),
            Clock.systemUTC())) {
      return catchThrowableOfType(CollectFailed.class, collector::read);
    }
  }

  private static Arguments of(String what, String told, Answer answer) {
    return Arguments.of(what, told, answer);
  }

  private static Answer endless(char letter, byte[] body) {
    return out -> {
      while (true) {
        message(out, letter, body);
      }
    };
  }

  private static byte[] count(int number) {
    return new byte[] {(byte) (number >> 8), (byte) number};
  }

  /** A row of one column that is claimed to be so long. */
  private static byte[] row(int claimed, byte[] value) {
    byte[] length = {
      (byte) (claimed >> 24), (byte) (claimed >> 16), (byte) (claimed >> 8), (byte) claimed
    };
    return joined(count(1), length, value);
  }

  private static byte[] notice() {
    return joined(text("SNOTICE", "C00000", "Mhere I am"), new byte[1]);
  }

  private static byte[] text(String... texts) {
    return (String.join("\0", texts) + "\0").getBytes(StandardCharsets.US_ASCII);
  }

  private static byte[] joined(byte[]... parts) {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    for (byte[] part : parts) {
      all.writeBytes(part);
    }
    return all.toByteArray();
  }

  private static void message(DataOutputStream out, char letter, byte[] body) throws IOException {
    message(out, letter, body.length + 4, body);
  }

  private static void message(DataOutputStream out, char letter, int length, byte[] body)
      throws IOException {
    ByteArrayOutputStream whole = new ByteArrayOutputStream();
    DataOutputStream data = new DataOutputStream(whole);
    data.write(letter);
    data.writeInt(length);
    data.write(body);
    out.write(whole.toByteArray());
    out.flush();
  }

  /** Lets everybody in, and gives one answer to the first question for rows. */
  private static final class Impostor implements AutoCloseable {
    private final ServerSocket server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress());
    private final Answer answer;
    private final boolean atOnce;
    private final Thread thread = new Thread(this::serve, "impostor");

    Impostor(Answer answer) throws IOException {
      this(answer, false);
    }

    /**
     * @param atOnce whether it gives its answer to the first question already
     */
    Impostor(Answer answer, boolean atOnce) throws IOException {
      this.answer = answer;
      this.atOnce = atOnce;
      thread.start();
    }

    Target target() {
      return new Target(
          "127.0.0.1", server.getLocalPort(), "postgres", Target.Tls.OFF, "", "reader", "secret");
    }

    private void serve() {
      while (!server.isClosed()) {
        try (Socket socket = server.accept()) {
          serve(socket);
        } catch (IOException e) {
          // who was asking went away
        }
      }
    }

    private void serve(Socket socket) throws IOException {
      DataInputStream in = new DataInputStream(socket.getInputStream());
      OutputStream raw = socket.getOutputStream();
      DataOutputStream out = new DataOutputStream(raw);
      in.skipNBytes(in.readInt() - 4L);
      message(out, 'R', new byte[4]);
      for (String[] setting :
          new String[][] {
            {"server_version", "15.18"},
            {"server_encoding", "UTF8"},
            {"client_encoding", "UTF8"},
            {"DateStyle", "ISO"},
            {"integer_datetimes", "on"},
            {"standard_conforming_strings", "on"},
            {"TimeZone", "UTC"}
          }) {
        message(out, 'S', text(setting));
      }
      message(out, 'K', new byte[8]);
      message(out, 'Z', new byte[] {'I'});
      if (atOnce) {
        in.readByte();
      } else {
        untilAQuery(in, out);
      }
      answer.say(out);
      // a question that is not answered to the end: whoever asked must go away by himself
      while (in.read() >= 0) {
        continue;
      }
    }

    /** Answers what comes before as an engine does, until rows are asked for. */
    private static void untilAQuery(DataInputStream in, DataOutputStream out) throws IOException {
      boolean described = false;
      while (true) {
        char letter = (char) in.readByte();
        String said = new String(in.readNBytes(in.readInt() - 4), StandardCharsets.US_ASCII);
        switch (letter) {
          case 'P' -> message(out, '1', new byte[0]);
          case 'B' -> message(out, '2', new byte[0]);
          case 'D' -> {
            described = true;
            message(out, 'T', joined(count(1), text("x"), new byte[18]));
          }
          case 'S' -> message(out, 'Z', new byte[] {'I'});
          case 'Q' -> {
            boolean begins = said.startsWith("BEGIN");
            message(out, 'C', text(begins ? "BEGIN" : "SET"));
            message(out, 'Z', new byte[] {(byte) (begins ? 'T' : 'I')});
          }
          case 'E' -> {
            if (described) {
              return;
            }
            message(out, 'C', text("BEGIN"));
          }
          default -> throw new IOException("asked for " + letter);
        }
      }
    }

    @Override
    public void close() throws Exception {
      server.close();
      // it ends only when nobody is connected to it any more
      thread.join(20_000);
      assertThat(thread.isAlive()).isFalse();
    }
  }
}
