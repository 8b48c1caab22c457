package jamjar.server.watch;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Sampler;
import jamjar.core.session.Sample;
import jamjar.store.StoreAway;
import jamjar.store.intake.Intake;
import jamjar.store.intake.NotKept;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Samples the sessions of one instance on a schedule of its own, in a thread of its own. That the
 * instance does not answer is told by who reads it; here it is only tried again.
 */
final class SampleWatcher implements Runnable {
  private static final Logger LOG = LoggerFactory.getLogger(SampleWatcher.class);

  private static final Duration LAST_READING_WITHIN = Duration.ofSeconds(10);

  private final int instance;
  private final int intervalS;
  private List<Watcher> before;
  private final Supplier<Sampler> makes;
  private final Intake intake;
  private final Thread thread;
  private volatile boolean ended;
  private volatile boolean waiting;
  private volatile Optional<Sample> latest = Optional.empty();
  private volatile Optional<Refusal> refusal = Optional.empty();
  private volatile String unreadLog = "its log is not read yet";
  private Sampler sampler;
  private int failures;
  private String failing = "";

  /**
   * @param before those that read the instance until now: what they counted is taken over
   */
  SampleWatcher(
      int instance,
      String name,
      int intervalS,
      List<Watcher> before,
      Supplier<Sampler> makes,
      Intake intake) {
    this.before = before;
    this.instance = instance;
    this.intervalS = intervalS;
    this.makes = makes;
    this.intake = intake;
    this.thread = new Thread(this, "sample-" + name);
    this.thread.setDaemon(true);
  }

  void start() {
    thread.start();
  }

  /** Ends it; one that is being kept is kept: an interrupt then would close the journal's file. */
  void end() {
    ended = true;
    if (waiting) {
      thread.interrupt();
    }
  }

  int intervalS() {
    return intervalS;
  }

  /** The last sample that was taken; empty while none can be taken. */
  Optional<Sample> latest() {
    return latest;
  }

  /** Why none can be taken; empty while they are. */
  Optional<Refusal> refusal() {
    return refusal;
  }

  /** Why its own log can't be read; empty while it is. */
  String unreadLog() {
    return unreadLog;
  }

  @Override
  public void run() {
    try {
      Watcher.await(before);
      before = List.of();
      Ticks ticks = new Ticks(instance, intervalS, System.nanoTime());
      while (!ended) {
        once();
        waiting = true;
        // who ends it either sees that it waits, or has been seen here
        if (!ended) {
          ticks.sleep(failures);
        }
        waiting = false;
      }
    } catch (InterruptedException e) {
      LOG.debug("event=sampling-ended instance={}", instance);
    } finally {
      if (sampler != null) {
        sampler.close();
      }
    }
  }

  private void once() throws InterruptedException {
    try {
      if (sampler == null) {
        intake.awaitBrought(LAST_READING_WITHIN);
        sampler = makes.get();
      }
      Sampler.Sampled sampled = sampler.sample();
      if (ended) {
        return;
      }
      latest = Optional.of(sampled.sample());
      refusal = Optional.empty();
      failures = 0;
      intake.sampled(instance, sampled.sample(), sampled.texts());
      sampler.log().ifPresent(this::logged);
      failing = "";
    } catch (CollectFailed e) {
      failures++;
      latest = Optional.empty();
      refusal = Optional.of(e.refusal());
    } catch (NotKept e) {
      sampler.dropped();
      fails("not kept: " + e.getMessage(), null);
    } catch (InterruptedException e) {
      throw e;
    } catch (Throwable e) {
      // a fault of ours, or of a target that answers what nobody foresaw
      failures++;
      fails(e.toString(), StoreAway.is(e) ? null : e);
    }
  }

  private void logged(Sampler.ReadLog read) {
    unreadLog = read.unread();
    read.logged().ifPresent(logged -> intake.logged(instance, logged, read.texts()));
  }

  private void fails(String why, Throwable failure) {
    if (!ended && !failing.equals(why)) {
      failing = why;
      LOG.warn("event=sampling-failed instance={} why=\"{}\"", instance, why, failure);
    }
  }
}
