package jamjar.server.telling;

import jakarta.annotation.PreDestroy;
import jamjar.store.intake.Intake;
import jamjar.store.telling.MessageRow;
import jamjar.store.telling.MessageStateRow;
import jamjar.store.telling.SentRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * Sends what was decided, by each channel in a thread of its own: one that hangs holds up no other.
 * What does not get through is tried again after growing pauses, in the order of its matter, and
 * given up after four hours; then, or when it has failed for a while, the recipient's next way is
 * taken.
 */
@Component
class Outbox {
  private static final Logger LOG = LoggerFactory.getLogger(Outbox.class);
  private static final long[] PAUSES = {5, 15, 60, 120, 300, 600, 1200};
  private static final Duration LONGEST = Duration.ofHours(4);

  /** So often it is tried before the next way is taken. */
  private static final int BEFORE_OTHERS = 4;

  private final Consumer<MessageRow> message;
  private final Consumer<SentRow> sent;
  private final Function<MessageRow, Outcome> attempt;
  private final Clock clock;
  private final Map<String, Line> lines = new ConcurrentHashMap<>();
  private final LongAdder failed = new LongAdder();
  private volatile boolean ended;

  @Autowired
  Outbox(Intake intake, Sending sending, Clock clock) {
    this(intake::message, intake::sent, sending::attempt, clock);
  }

  /**
   * @param message keeps what is to go out
   * @param sent keeps what became of it
   * @param attempt one attempt
   */
  Outbox(
      Consumer<MessageRow> message,
      Consumer<SentRow> sent,
      Function<MessageRow, Outcome> attempt,
      Clock clock) {
    this.message = message;
    this.sent = sent;
    this.attempt = attempt;
    this.clock = clock;
  }

  /** A message that is not through. */
  private static final class Waiting {
    private final MessageRow row;
    private int attempts;
    private long next;

    Waiting(MessageRow row, int attempts) {
      this.row = row;
      this.attempts = attempts;
    }

    String order() {
      return row.matter() + " " + row.recipient();
    }
  }

  /** How a channel does. */
  record Health(int waiting, Optional<Instant> failingSince, String answer) {
    static final Health UNKNOWN = new Health(0, Optional.empty(), "");
  }

  /** What is kept already, and is to go out. */
  void send(MessageRow row) {
    line(row.channel()).add(new Waiting(row, 0));
  }

  /** What an earlier start has left. */
  void resume(MessageStateRow row, Optional<byte[]> picture) {
    MessageRow message =
        new MessageRow(
            row.key(),
            row.at(),
            row.kind(),
            row.matter(),
            row.recipient(),
            row.channel(),
            row.address(),
            row.others(),
            row.rule(),
            row.severity(),
            row.alerts(),
            row.subject(),
            row.body(),
            row.thread(),
            picture.orElse(null));
    line(row.channel()).add(new Waiting(message, row.attempts()));
  }

  Health health(String channel) {
    Line line = lines.get(channel);
    return line == null ? Health.UNKNOWN : line.health();
  }

  /** How many messages are not through. */
  int waiting() {
    return lines.values().stream().mapToInt(line -> line.health().waiting()).sum();
  }

  /** How many channels let nothing through. */
  long failing() {
    return lines.values().stream().filter(line -> line.health().failingSince().isPresent()).count();
  }

  /** How many messages were given up since the start. */
  long failed() {
    return failed.sum();
  }

  private Line line(String channel) {
    return lines.computeIfAbsent(channel, Line::new);
  }

  /** One attempt, whatever comes of it: its channel goes on. */
  private Outcome tried(MessageRow row) {
    try {
      return attempt.apply(row);
    } catch (RuntimeException e) {
      // its message may hold an address that is a secret
      String what = e.getClass().getSimpleName();
      Object where = Stream.of(e.getStackTrace()).findFirst().orElse(null);
      LOG.error("event=attempt-broke key={} why={} at={}", row.key(), what, where);
      return new Outcome(Outcome.State.AGAIN, "Jam Jar failed at it: " + what);
    }
  }

  /** What waits for one channel. */
  private final class Line {
    private final String channel;
    private final List<Waiting> all = new ArrayList<>();
    private Instant failingSince;
    private String answer = "";

    Line(String channel) {
      this.channel = channel;
      Thread thread = new Thread(this::run, "telling-" + channel);
      thread.setDaemon(true);
      thread.start();
    }

    synchronized void add(Waiting waiting) {
      boolean known = all.stream().anyMatch(one -> one.row.key().equals(waiting.row.key()));
      if (!known) {
        all.add(waiting);
        notifyAll();
      }
    }

    synchronized Health health() {
      return new Health(all.size(), Optional.ofNullable(failingSince), answer);
    }

    private void run() {
      while (!ended) {
        try {
          Waiting next = next();
          if (next != null) {
            after(next, tried(next.row));
          }
        } catch (InterruptedException e) {
          return;
        }
      }
    }

    /** The first that is due, and that nothing of its matter goes before; null after a while. */
    private synchronized Waiting next() throws InterruptedException {
      long now = clock.millis();
      long soonest = now + 1_000;
      Set<String> held = new HashSet<>();
      for (Waiting one : all) {
        if (held.add(one.order())) {
          if (one.next <= now) {
            return one;
          }
          soonest = Math.min(soonest, one.next);
        }
      }
      wait(Math.max(1, soonest - now));
      return null;
    }

    private void after(Waiting one, Outcome outcome) {
      one.attempts++;
      Instant now = clock.instant();
      boolean through = outcome.state() == Outcome.State.SENT;
      boolean late = now.isAfter(one.row.at().plus(LONGEST)) && one.attempts > 1;
      boolean other = one.attempts >= BEFORE_OTHERS && one.row.others().length > 0;
      boolean refused = outcome.state() == Outcome.State.REFUSED;
      boolean givenUp = !through && (refused || late || other) && isHandedOn(one.row);
      String state = through ? SentRow.SENT : givenUp ? SentRow.FAILED : SentRow.WAITING;
      String words =
          givenUp && !refused
              ? "given up after " + one.attempts + " attempts: " + outcome.answer()
              : outcome.answer();
      synchronized (this) {
        answer = words;
        // who is refused is refused by a channel that works
        failingSince =
            outcome.state() == Outcome.State.AGAIN
                ? failingSince == null ? now : failingSince
                : null;
        if (through || givenUp) {
          all.remove(one);
        } else {
          one.next = now.toEpochMilli() + 1000 * PAUSES[Math.min(one.attempts, PAUSES.length) - 1];
        }
      }
      if (givenUp) {
        failed.increment();
      }
      kept(new SentRow(one.row.key(), state, one.attempts, words, now));
      if (!through) {
        LOG.warn(
            "event=not-sent channel=\"{}\" attempts={} given_up={} why=\"{}\"",
            channel,
            one.attempts,
            givenUp,
            words);
      }
    }
  }

  /**
   * Has it told by the recipient's next way, if there is one.
   *
   * @return whether it may be given up: not where the other one could not be kept
   */
  private boolean isHandedOn(MessageRow row) {
    if (row.others().length == 0) {
      return true;
    }
    String[] next = row.others()[0].split(Composer.BETWEEN, 2);
    String channel = next[0];
    String address = next[1];
    MessageRow other =
        new MessageRow(
            row.key().substring(0, row.key().lastIndexOf('/') + 1) + channel,
            row.at(),
            row.kind(),
            row.matter(),
            row.recipient(),
            channel,
            address,
            Arrays.copyOfRange(row.others(), 1, row.others().length),
            row.rule(),
            row.severity(),
            row.alerts(),
            row.subject(),
            row.body(),
            "",
            row.picture());
    try {
      message.accept(other);
    } catch (RuntimeException e) {
      LOG.error("event=next-way-not-kept key={} why=\"{}\"", other.key(), e.getMessage());
      return false;
    }
    send(other);
    return true;
  }

  /** That it is not kept is no reason to send it twice in this process. */
  private void kept(SentRow row) {
    try {
      sent.accept(row);
    } catch (RuntimeException e) {
      LOG.warn("event=not-kept-that-sent key={} why=\"{}\"", row.key(), e.getMessage());
    }
  }

  @PreDestroy
  void end() {
    ended = true;
  }
}
