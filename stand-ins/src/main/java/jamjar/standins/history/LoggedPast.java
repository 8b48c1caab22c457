package jamjar.standins.history;

import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.StatementText;
import jamjar.standins.booking.Doing;
import jamjar.store.logs.LogStore;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.function.Predicate;

/**
 * What an engine logged in a time that is over, as it was read each minute: statements over 100 ms,
 * waits for locks that are over, and the deadlock of the story. A pure function of the seed and the
 * moment.
 */
public final class LoggedPast {
  /** As long as what is read of logs is kept. */
  private static final Duration KEPT = Duration.ofDays(35);

  private static final long THRESHOLD_MS = 100;
  private static final int SECONDS = 60;

  /** Of a minute: that a statement took longer than is logged. */
  private static final double SLOW = 0.12;

  private static final StatementText PAYS =
      StatementText.of("update booking set paid_at = now() where id = ?");
  private static final StatementText REFUNDS =
      StatementText.of("update booking set fare = 0, paid_at = null where id = ?");

  private final String name;
  private final SampledPast sampled;
  private final EngineStory story;
  private final Predicate<Instant> cutOff;
  private final long seed;

  public LoggedPast(
      String name, SampledPast sampled, EngineStory story, Predicate<Instant> cutOff, long seed) {
    this.name = name;
    this.sampled = sampled;
    this.story = story;
    this.cutOff = cutOff;
    this.seed = seed * 37 + name.hashCode();
  }

  /** Texts of statements that no sample has. */
  public Map<Long, String> texts() {
    return Map.of(PAYS.fingerprint(), PAYS.text(), REFUNDS.fingerprint(), REFUNDS.text());
  }

  /** What was read at minutes in [from, to). */
  public List<Logged> between(Instant from, Instant to) {
    return Newest.minutes(from, to, cutOff).stream().map(this::minute).toList();
  }

  /** What was logged in the minute until then. */
  public Logged minute(Instant at) {
    Instant before = at.minusSeconds(SECONDS);
    List<LogEntry> entries = new ArrayList<>();
    slow(before, entries);
    released(before, at, entries);
    if (story.deadlocks(name, before, at) > 0) {
      entries.add(deadlock(before));
    }
    return new Logged(at, "", 0, THRESHOLD_MS, true, 0, entries);
  }

  private void slow(Instant before, List<LogEntry> entries) {
    SplittableRandom random =
        new SplittableRandom(seed ^ before.toEpochMilli() * 0x9e3779b97f4a7c15L);
    if (random.nextDouble() >= SLOW) {
      return;
    }
    Instant at = before.plusMillis(random.nextInt(SECONDS * 1000));
    Session one = sampled.one(at);
    // mostly little more than is logged
    double ms = THRESHOLD_MS * Math.exp(-0.7 * Math.log(1 - random.nextDouble()));
    entries.add(line(one, LogEntry.Kind.FINISHED, at, (long) (1000 * ms), ""));
  }

  /** Those that the fare reload let go: what they had waited is known when it is over. */
  private void released(Instant from, Instant to, List<LogEntry> entries) {
    if (story.released(name, from, to).isEmpty()) {
      return;
    }
    Instant last = from;
    for (Instant at = from; at.isBefore(to); at = at.plusSeconds(1)) {
      last = story.blocked(name, at) > 0 ? at : last;
    }
    Sample sample = sampled.sample(last);
    int nth = 0;
    for (Session session : sample.sessions()) {
      if (session.isWaitingForLock()) {
        Instant at = last.plusMillis(900 + 12L * nth++);
        long us = 1000 * (at.toEpochMilli() - session.since().statement());
        entries.add(line(session, LogEntry.Kind.WAITED, at, us, "RowShareLock on relation …"));
        entries.add(line(session, LogEntry.Kind.FINISHED, at.plusMillis(3), us + 3_000, ""));
      }
    }
  }

  private static LogEntry line(
      Session session, LogEntry.Kind kind, Instant at, long us, String message) {
    return new LogEntry(
        at.toEpochMilli(),
        kind,
        session.pid(),
        session.who().started() / 1000 * 1000,
        session.who().user(),
        session.who().program(),
        session.who().database(),
        us,
        session.statement(),
        "00000",
        message,
        List.of());
  }

  private LogEntry deadlock(Instant before) {
    Instant at = before.plusMillis(7_412);
    int refund = 5_871;
    int pay = 5_312;
    String wants = "ShareLock on transaction ?";
    return new LogEntry(
        at.toEpochMilli(),
        LogEntry.Kind.DEADLOCK,
        refund,
        at.truncatedTo(ChronoUnit.DAYS).toEpochMilli(),
        Doing.REPORT.user(),
        "refund",
        "bookings",
        -1,
        REFUNDS.fingerprint(),
        "40P01",
        "deadlock detected",
        List.of(
            new LogEntry.Party(refund, wants, pay, REFUNDS.fingerprint()),
            new LogEntry.Party(pay, wants, refund, PAYS.fingerprint())));
  }

  /** Writes all that would be kept by the end, the newest hours first; what is there is left. */
  public void write(LogStore store, int instance, Instant end) {
    Newest.hours(KEPT, end, (hour, to) -> store.put(instance, hour, between(hour, to)));
  }
}
