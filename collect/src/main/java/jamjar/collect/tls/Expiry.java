package jamjar.collect.tls;

import jamjar.collect.Target;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * How long the certificate of a target is still valid. It is looked at on a connection of its own,
 * and again every hour, as it may have been renewed; in between time goes by our clock.
 */
public final class Expiry {
  /** The group of counters that it fills. */
  public static final String GROUP = "certificate";

  /** In seconds; below 0 it has run out. */
  public static final String LEFT = "certificate.left";

  private static final int CONNECT_MILLIS = 4000;
  private static final int ANSWER_MILLIS = 5000;
  private static final Duration AGAIN = Duration.ofHours(1);
  private static final Duration AFTER_FAILURE = Duration.ofMinutes(5);

  private final Target target;
  private final Asking asking;
  private final Clock clock;
  private Optional<Instant> until = Optional.empty();
  private Instant next = Instant.MIN;

  /** What is said to a target of that kind before it speaks TLS. */
  public interface Asking {
    void ask(Socket socket) throws IOException;
  }

  public Expiry(Target target, Asking asking, Clock clock) {
    this.target = target;
    this.asking = asking;
    this.clock = clock;
  }

  /** Empty where the connection is not encrypted. */
  public Optional<RawValue> value() {
    if (target.tls() == Target.Tls.OFF || target.port() == 0) {
      return Optional.empty();
    }
    Instant now = clock.instant();
    if (!now.isBefore(next)) {
      look(now);
    }
    SeriesKey key = SeriesKey.of(LEFT);
    return Optional.of(
        until
            .<RawValue>map(end -> new RawValue.Level(key, Duration.between(now, end).toSeconds()))
            .orElseGet(() -> new RawValue.Nothing(key, WhyNothing.CUT_OFF)));
  }

  /** What was seen last holds where it can't be looked at now. */
  private void look(Instant now) {
    try (Socket socket = new Socket()) {
      socket.connect(new InetSocketAddress(target.host(), target.port()), CONNECT_MILLIS);
      socket.setSoTimeout(ANSWER_MILLIS);
      asking.ask(socket);
      until = Optional.of(Handshake.over(socket, target).until());
      next = now.plus(AGAIN);
    } catch (IOException e) {
      next = now.plus(AFTER_FAILURE);
    }
  }
}
