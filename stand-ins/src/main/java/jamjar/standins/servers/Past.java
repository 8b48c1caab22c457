package jamjar.standins.servers;

import jamjar.collect.CollectFailed;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.core.counter.Pace;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.Reading;
import jamjar.core.threads.ThreadDump;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.SplittableRandom;
import javax.management.JMException;

/**
 * One server in a day that is over, as the collector would have read it then: the very simulator
 * that stands in for it now, run faster than time, and read by the very collector. The same seed
 * and the same story give the same bits.
 */
public final class Past implements Readings {
  /** How far it goes on at once. */
  private static final int STEP_SECONDS = 10;

  /** So long it runs before that day: then it is as if it had always run. */
  private static final Duration BEFORE = Duration.ofMinutes(20);

  private static final Duration AFTER = Duration.ofMinutes(2);
  private static final int SLOW_SECONDS = 300;
  private static final int LATE_MILLIS = 9;

  /** It is read without a connection. */
  private static final Target SOMEWHERE =
      new Target("127.0.0.1", 1, "", Target.Tls.OFF, "", "", "");

  private final Profile profile;
  private final LoadedRecipe recipe;
  private final Story story;
  private final long seed;

  /** A clock that is moved on. */
  private static final class Moved extends Clock {
    private Instant now;

    @Override
    public ZoneId getZone() {
      return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
      throw new UnsupportedOperationException();
    }

    @Override
    public Instant instant() {
      return now;
    }
  }

  public Past(Profile profile, LoadedRecipe recipe, Story story, long seed) {
    this.profile = profile;
    this.recipe = recipe;
    this.story = story;
    this.seed = seed;
  }

  @Override
  public void read(Instant from, Instant to, Every every, Taking taking) {
    long mine = new SplittableRandom(seed ^ from.getEpochSecond()).nextLong();
    SplittableRandom late = new SplittableRandom(mine);
    Moved clock = new Moved();
    clock.now = from.minus(BEFORE);
    SimServer server =
        new SimServer(profile, 0, Mischief.none(), story, mine, () -> clock.now.toEpochMilli());
    server.hasRun(clock.now, late.nextDouble());
    try (JmxCollector fast = JmxCollector.of(SOMEWHERE, server.beans(), recipe, Pace.FAST, clock);
        JmxCollector slow = JmxCollector.of(SOMEWHERE, server.beans(), recipe, Pace.SLOW, clock)) {
      Source quick = new Source(Pace.FAST, fast, taking);
      Source seldom = new Source(Pace.SLOW, slow, taking);
      Instant end = to.plus(AFTER);
      for (Instant at = clock.now.plusSeconds(STEP_SECONDS);
          at.isBefore(end);
          at = at.plusSeconds(STEP_SECONDS)) {
        clock.now = at.plusMillis(late.nextInt(LATE_MILLIS));
        server.pass(at, STEP_SECONDS);
        int seconds = every.seconds(at);
        if (!story.cutOff(profile, at) && !story.gone(profile, at)) {
          quick.mayRead(at, seconds);
          seldom.mayRead(at, Math.max(seconds, SLOW_SECONDS));
        }
      }
    } catch (JMException | CollectFailed e) {
      throw new IllegalStateException(profile.name() + " from " + from + ": " + e, e);
    }
  }

  /**
   * What its threads did at a moment, as the collector would have looked at them.
   *
   * @param why what was the cause to look
   */
  public ThreadDump threads(Instant at, String why) {
    long mine = new SplittableRandom(seed ^ at.getEpochSecond()).nextLong();
    Moved clock = new Moved();
    clock.now = at.minus(BEFORE);
    SimServer server =
        new SimServer(profile, 0, Mischief.none(), story, mine, () -> clock.now.toEpochMilli());
    try (JmxCollector collector =
        JmxCollector.of(SOMEWHERE, server.beans(), recipe, Pace.FAST, clock)) {
      while (clock.now.isBefore(at)) {
        clock.now = clock.now.plusSeconds(STEP_SECONDS);
        server.pass(clock.now, STEP_SECONDS);
      }
      return collector.dump(why).orElseThrow();
    } catch (JMException e) {
      throw new IllegalStateException(profile.name() + " at " + at + ": " + e, e);
    }
  }

  private final class Source {
    private final Pace pace;
    private final JmxCollector collector;
    private final Taking taking;
    private Optional<LastTotals> last = Optional.empty();

    Source(Pace pace, JmxCollector collector, Taking taking) {
      this.pace = pace;
      this.collector = collector;
      this.taking = taking;
    }

    void mayRead(Instant at, int seconds) throws CollectFailed {
      if (at.getEpochSecond() % seconds == 0) {
        RawReading raw = collector.read();
        Increases.Step step = Increases.derive(last, raw, recipe.recipe());
        last = Optional.of(step.last());
        Reading reading = step.reading();
        if (!reading.series().isEmpty()) {
          taking.take(pace, seconds, step);
        }
      }
    }
  }
}
