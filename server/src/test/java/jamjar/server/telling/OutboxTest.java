package jamjar.server.telling;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.telling.MessageRow;
import jamjar.store.telling.SentRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** What becomes of a message that does not get through, by a clock that goes an hour a second. */
class OutboxTest {
  private static final Instant DAY = Instant.parse("2026-03-03T10:00:00Z");
  private static final Outcome TAKEN = new Outcome(Outcome.State.SENT, "taken");
  private static final Outcome CLOSED = new Outcome(Outcome.State.AGAIN, "connection refused");
  private static final Outcome UNKNOWN = new Outcome(Outcome.State.REFUSED, "550 no such user");

  private final Map<String, Outcome> answers = new ConcurrentHashMap<>();
  private final BlockingQueue<String> tried = new LinkedBlockingQueue<>();
  private final BlockingQueue<SentRow> waiting = new LinkedBlockingQueue<>();
  private final Map<String, CompletableFuture<SentRow>> ends = new ConcurrentHashMap<>();
  private final List<String> ended = new CopyOnWriteArrayList<>();
  private final List<MessageRow> kept = new CopyOnWriteArrayList<>();
  private volatile boolean full;
  private volatile boolean broken;
  private final Outbox outbox = new Outbox(this::keep, this::became, this::attempt, fast());

  /** As fast as is needed to see what takes hours. */
  private static Clock fast() {
    long began = System.nanoTime();
    InstantSource source = () -> DAY.plus(Duration.ofNanos(3_600 * (System.nanoTime() - began)));
    return source.withZone(ZoneOffset.UTC);
  }

  @AfterEach
  void end() {
    outbox.end();
  }

  private void keep(MessageRow row) {
    if (full) {
      throw new IllegalStateException("the disk is full");
    }
    kept.add(row);
  }

  private Outcome attempt(MessageRow row) {
    tried.add(row.channel());
    if (broken) {
      throw new IllegalStateException("of https://hook/secret no link can be made");
    }
    return answers.getOrDefault(row.channel(), TAKEN);
  }

  private static MessageRow row(String matter, String channel, String... others) {
    return new MessageRow(
        matter + "/rise-2/anna/" + channel,
        DAY,
        "rise",
        matter,
        "anna",
        channel,
        "",
        Stream.of(others).map(other -> other + Composer.BETWEEN).toArray(String[]::new),
        "all",
        "critical",
        new String[] {matter},
        "Critical: booking-1",
        "",
        "",
        null);
  }

  private void became(SentRow row) {
    if (row.state().equals(SentRow.WAITING)) {
      waiting.add(row);
    } else {
      ended.add(row.key());
      ends.computeIfAbsent(row.key(), key -> new CompletableFuture<>()).complete(row);
    }
  }

  /** The next attempt that did not get through, and is made again. */
  private SentRow again() throws Exception {
    SentRow row = waiting.poll(60, TimeUnit.SECONDS);
    assertThat(row).as("it was tried").isNotNull();
    return row;
  }

  private SentRow end(String key) throws Exception {
    return ends.computeIfAbsent(key, one -> new CompletableFuture<>()).get(60, TimeUnit.SECONDS);
  }

  @Test
  void what_does_not_get_through_four_times_goes_by_the_next_way() throws Exception {
    answers.put("letters", CLOSED);
    outbox.send(row("m", "letters", "chat"));
    SentRow given = end("m/rise-2/anna/letters");
    assertThat(given.state()).isEqualTo(SentRow.FAILED);
    assertThat(given.attempts()).isEqualTo(4);
    assertThat(given.answer()).isEqualTo("given up after 4 attempts: connection refused");
    assertThat(end("m/rise-2/anna/chat").state()).isEqualTo(SentRow.SENT);
    assertThat(kept).extracting(MessageRow::key).containsExactly("m/rise-2/anna/chat");
    assertThat(tried).containsExactly("letters", "letters", "letters", "letters", "chat");
  }

  @Test
  void who_is_refused_is_told_by_the_next_way_at_once() throws Exception {
    answers.put("letters", UNKNOWN);
    outbox.send(row("m", "letters", "chat"));
    assertThat(end("m/rise-2/anna/letters").attempts()).isEqualTo(1);
    assertThat(end("m/rise-2/anna/chat").state()).isEqualTo(SentRow.SENT);
    // a channel that refuses somebody works
    assertThat(outbox.failing()).isZero();
  }

  @Test
  void a_next_way_that_cannot_be_kept_is_taken_as_soon_as_it_can() throws Exception {
    full = true;
    answers.put("letters", UNKNOWN);
    outbox.send(row("m", "letters", "chat"));
    for (int i = 1; i <= 3; i++) {
      assertThat(again().attempts()).isEqualTo(i);
    }
    assertThat(kept).isEmpty();
    full = false;
    assertThat(end("m/rise-2/anna/letters").state()).isEqualTo(SentRow.FAILED);
    assertThat(end("m/rise-2/anna/chat").state()).isEqualTo(SentRow.SENT);
  }

  @Test
  void what_never_gets_through_is_given_up_after_four_hours() throws Exception {
    answers.put("letters", CLOSED);
    outbox.send(row("m", "letters"));
    SentRow given = end("m/rise-2/anna/letters");
    assertThat(given.state()).isEqualTo(SentRow.FAILED);
    assertThat(Duration.between(DAY, given.at())).isGreaterThan(Duration.ofHours(4));
    // ever longer pauses: not once in five seconds for four hours
    assertThat(given.attempts()).isBetween(2, 25);
    assertThat(outbox.failed()).isEqualTo(1);
    assertThat(outbox.failing()).isEqualTo(1);
  }

  @Test
  void an_attempt_that_breaks_is_made_again_and_ends_no_channel() throws Exception {
    broken = true;
    outbox.send(row("m", "letters"));
    assertThat(again().answer()).contains("IllegalStateException").doesNotContain("secret");
    assertThat(again().attempts()).isEqualTo(2);
    broken = false;
    assertThat(end("m/rise-2/anna/letters").state()).isEqualTo(SentRow.SENT);
  }

  @Test
  void what_hangs_holds_up_its_own_matter_and_no_other() throws Exception {
    answers.put("letters", CLOSED);
    outbox.send(row("m", "letters"));
    again();
    // the first of the matter waits for its pause: what comes after it waits as well
    outbox.send(
        new MessageRow(
            "m/over/anna/letters",
            DAY,
            "over",
            "m",
            "anna",
            "letters",
            "",
            new String[0],
            "all",
            "critical",
            new String[] {"m"},
            "Over: booking-1",
            "",
            "m/rise-2/anna/letters",
            null));
    outbox.send(row("other", "chat"));
    assertThat(end("other/rise-2/anna/chat").state()).isEqualTo(SentRow.SENT);
    assertThat(ended).doesNotContain("m/over/anna/letters");
    answers.clear();
    end("m/over/anna/letters");
    assertThat(ended).containsSubsequence("m/rise-2/anna/letters", "m/over/anna/letters");
    assertThat(outbox.waiting()).isZero();
  }
}
