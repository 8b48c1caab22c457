package jamjar.standins.inbox;

import jakarta.mail.MessagingException;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.URI;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.subethamail.smtp.MessageContext;
import org.subethamail.smtp.MessageHandler;
import org.subethamail.smtp.RejectException;
import org.subethamail.smtp.server.SMTPServer;

/**
 * A mail server that keeps what comes and shows it on a page, and a receiver of web hooks. Both can
 * be told to misbehave. What came is gone with the process.
 */
public final class Inbox implements AutoCloseable {
  private static final int MOST = 1_000;

  /** Whom it does not know: recipients whose address begins so. */
  public static final String UNKNOWN = "nobody";

  private final List<Mail> mails = new ArrayList<>();
  private final List<Hooked> hooks = new ArrayList<>();
  private final Clock clock;
  private final SMTPServer server;
  private final Gate gate;
  private final InboxPages pages;

  private Inbox(int mailPort, int port, Clock clock) throws IOException {
    this.clock = clock;
    server =
        SMTPServer.port(0)
            .bindAddress(InetAddress.getLoopbackAddress())
            .hostName("inbox.invalid")
            .messageHandlerFactory(Taking::new)
            .build();
    server.start();
    gate = new Gate(mailPort, server.getPortAllocated());
    pages = new InboxPages(port, this);
  }

  /**
   * @param mailPort where mail is taken; 0 for any
   * @param port where hooks are taken and the page is; 0 for any
   */
  public static Inbox start(int mailPort, int port, Clock clock) throws IOException {
    return new Inbox(mailPort, port, clock);
  }

  /** Where mail is taken. */
  public int mailPort() {
    return gate.port();
  }

  /** Where what came can be read. */
  public URI address() {
    return pages.address();
  }

  /** Where a hook of a name is taken. */
  public URI hook(String name) {
    return address().resolve("/hook/" + name);
  }

  /**
   * What mail does from now on.
   *
   * @param mood well, hangs, drips, drops or away
   */
  public void mail(String mood) {
    gate.becomes(Gate.Mood.valueOf(mood.toUpperCase(java.util.Locale.ROOT)));
  }

  /**
   * What hooks do from now on.
   *
   * @param mood well, slow, refuse, fail or lose
   */
  public void hooks(String mood) {
    pages.becomes(mood);
  }

  /** What came, the oldest first. */
  public List<Mail> mails() {
    synchronized (mails) {
      return List.copyOf(mails);
    }
  }

  /** As above. */
  public List<Hooked> hooked() {
    synchronized (hooks) {
      return List.copyOf(hooks);
    }
  }

  void take(Hooked one) {
    synchronized (hooks) {
      hooks.add(one);
      if (hooks.size() > MOST) {
        hooks.remove(0);
      }
    }
  }

  Clock clock() {
    return clock;
  }

  /** Takes one message. */
  private final class Taking implements MessageHandler {
    private final List<String> to = new ArrayList<>();

    Taking(MessageContext context) {
      // who sends matters to nobody
    }

    @Override
    public void from(String address) {
      // as above
    }

    @Override
    public void recipient(String address) throws RejectException {
      if (address.startsWith(UNKNOWN)) {
        throw new RejectException(550, "5.1.1 " + address + " is not known here");
      }
      to.add(address);
    }

    @Override
    public String data(InputStream in) throws RejectException, IOException {
      byte[] raw = in.readAllBytes();
      try {
        synchronized (mails) {
          int number = mails.isEmpty() ? 1 : mails.get(mails.size() - 1).number() + 1;
          mails.add(Mail.of(number, clock.millis(), String.join(", ", to), raw));
          if (mails.size() > MOST) {
            mails.remove(0);
          }
          return "250 taken as " + number;
        }
      } catch (MessagingException e) {
        throw new RejectException(554, "that is no mail: " + e.getMessage());
      }
    }

    @Override
    public void done() {
      // all is kept already
    }
  }

  @Override
  public void close() throws IOException {
    gate.close();
    server.stop();
    pages.close();
  }
}
