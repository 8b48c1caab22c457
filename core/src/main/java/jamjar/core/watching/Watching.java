package jamjar.core.watching;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The spans in which Jam Jar watched: it ran, its clock went on evenly, and what it read was kept.
 * A span ends when one of them fails and the next one begins when all hold again; between them lies
 * a gap with its reason. Silence and limits are judged inside a span only.
 *
 * <p>Whoever judges asks {@link #at} first, with both clocks read together: a step of the wall
 * clock against the monotonic one is then noticed before anything is judged by the new time.
 */
public final class Watching {
  /** A step of the clock, a standstill, or a time without anything kept, from which a span ends. */
  public static final long LONGEST_MILLIS = 5_000;

  private static final long NANOS = 1_000_000;

  private final List<Gap> untold = new ArrayList<>();
  private Span span;
  private long lastWall;
  private long lastNanos;
  private long keptWall;
  private long keptNanos;
  private boolean away;

  /**
   * A span of watching.
   *
   * @param number of the span since the start of the process, from 1
   * @param from its start, epoch ms
   * @param gap how long nobody was watched before it, ms
   */
  public record Span(int number, long from, long gap) {}

  /**
   * A moment.
   *
   * @param wall epoch ms
   * @param kept whether what is read now is kept, as far as is known: nothing is judged otherwise
   */
  public record Moment(long wall, Span span, boolean kept) {}

  /**
   * @param wall epoch ms
   * @param nanos the monotonic clock
   * @param before when it was last known to watch before this start, epoch ms; empty for the first
   *     start of all
   */
  public Watching(long wall, long nanos, Optional<Long> before) {
    lastWall = wall;
    lastNanos = nanos;
    keptWall = wall;
    keptNanos = nanos;
    span = new Span(1, wall, before.map(then -> Math.abs(wall - then)).orElse(0L));
    before.ifPresent(then -> untold.add(Gap.notRunning(then, wall)));
  }

  /**
   * What holds at this moment. To be asked about once a second at least.
   *
   * @param wall epoch ms
   * @param nanos the monotonic clock, read together with it
   */
  public synchronized Moment at(long wall, long nanos) {
    long passed = (nanos - lastNanos) / NANOS;
    if (Math.abs(wall - lastWall - passed) > LONGEST_MILLIS) {
      next(Gap.clockSet(lastWall, wall, passed), nanos);
    } else if (passed > LONGEST_MILLIS) {
      next(Gap.stoodStill(lastWall, wall, passed), nanos);
    }
    // two threads may ask at once, the later one with the earlier time
    if (nanos > lastNanos) {
      lastWall = wall;
      lastNanos = nanos;
    }
    away = away || (nanos - keptNanos) / NANOS > LONGEST_MILLIS;
    return new Moment(wall, span, !away);
  }

  /**
   * Something was kept.
   *
   * @param wall when that was begun, epoch ms
   * @param nanos the same by the monotonic clock
   * @param nowNanos when it was known to be kept
   */
  public synchronized void kept(long wall, long nanos, long nowNanos) {
    if (away) {
      long lasted = (nowNanos - keptNanos) / NANOS;
      long now = wall + (nowNanos - nanos) / NANOS;
      next(Gap.notKept(keptWall, now, lasted), nowNanos);
      away = false;
    } else if (nanos > keptNanos) {
      keptWall = wall;
      keptNanos = nanos;
    }
  }

  /** Something was not kept: nothing counts as kept until something is. */
  public synchronized void refused() {
    away = true;
  }

  /** Whether what is read now is not kept. */
  public synchronized boolean away() {
    return away;
  }

  /** Gaps that ended since this was asked last, in their order. */
  public synchronized List<Gap> untold() {
    List<Gap> told = List.copyOf(untold);
    untold.clear();
    return told;
  }

  /** They could not be kept: they are told again later. */
  public synchronized void stillUntold(List<Gap> gaps) {
    untold.addAll(0, gaps);
  }

  private void next(Gap gap, long nanos) {
    untold.add(gap);
    span = new Span(span.number() + 1, gap.to(), gap.lasted());
    lastWall = gap.to();
    lastNanos = Math.max(lastNanos, nanos);
    if (!away) {
      // what was kept before says nothing about the new span yet
      keptWall = gap.to();
      keptNanos = nanos;
    } else if (gap.why() == Gap.Why.NOT_KEPT) {
      keptWall = gap.to();
      keptNanos = nanos;
    }
  }
}
