package jamjar.standins.inbox;

import java.io.PrintStream;
import java.time.Clock;

/** An inbox as one starts it by hand. */
public final class InboxCommand {
  private final PrintStream out;

  public InboxCommand(PrintStream out) {
    this.out = out;
  }

  /** Runs until it is stopped. */
  public int run(int mailPort, int port) throws Exception {
    try (Inbox inbox = Inbox.start(mailPort, port, Clock.systemUTC())) {
      out.println("mail is taken at 127.0.0.1:" + inbox.mailPort() + ", without TLS and sign-in");
      out.println("hooks are taken at " + inbox.hook("any name"));
      out.println("what came: " + inbox.address());
      Thread.currentThread().join();
    }
    return 0;
  }
}
