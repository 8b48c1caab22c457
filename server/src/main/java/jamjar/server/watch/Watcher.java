package jamjar.server.watch;

import static java.time.temporal.ChronoUnit.MILLIS;

import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.collect.Refusal;
import jamjar.core.chart.Charting;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.Shown;
import jamjar.server.limits.LiveJudge;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.KeptReading;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads one source of one instance on its own schedule, in a thread of its own, so that one that
 * hangs delays nobody: source → increases → limits → store → whoever listens. One reading at a
 * time; a tick that comes while one is under way is left out.
 */
final class Watcher implements Runnable {
  private static final Logger LOG = LoggerFactory.getLogger(Watcher.class);

  /** What a watcher tells its instance. */
  interface Told {
    void read(Instant at, int[] ids, List<Shown> shown, Map<String, String> facts, Taken taken);

    void silent(Instant since, Refusal refusal);
  }

  private final int instance;
  private final Source source;
  private final int intervalS;
  private final Collector collector;
  private final Recipe recipe;
  private final Store store;
  private final ReadingWriter writer;
  private final LiveJudge judge;
  private final WatchCounts counts;
  private final Clock clock;
  private final Told told;
  private final Thread thread;
  private volatile boolean ended;
  private volatile boolean givenUp;
  private volatile boolean waiting;
  private Optional<LastTotals> last;
  private long seq;
  private boolean silent;
  private int failures;
  private double late;

  Watcher(
      InstanceRow row,
      Source source,
      Collector collector,
      Recipe recipe,
      Store store,
      ReadingWriter writer,
      LiveJudge judge,
      WatchCounts counts,
      Clock clock,
      Told told) {
    this.instance = row.id();
    this.source = source;
    this.intervalS = source == Source.FAST ? row.intervalS() : recipe.paces().get(source.pace());
    this.counts = counts;
    this.collector = collector;
    this.recipe = recipe;
    this.store = store;
    this.writer = writer;
    this.judge = judge;
    this.clock = clock;
    this.told = told;
    this.last = store.readings().last(instance, source.code());
    this.seq = store.readings().lastSeq(instance, source.code());
    this.thread = new Thread(this, "watch-" + row.name() + "-" + source.pace());
    thread.setDaemon(true);
  }

  void start() {
    thread.start();
  }

  /** Ends it; a reading under way is finished and kept. */
  void end() {
    ended = true;
    if (waiting) {
      thread.interrupt();
    }
  }

  /** Waits until it has ended; a call that hangs is given up after the time given. */
  void await(Duration most) throws InterruptedException {
    thread.join(Math.max(1, most.toMillis()));
    givenUp = thread.isAlive();
    if (givenUp) {
      thread.interrupt();
    }
  }

  @Override
  public void run() {
    try {
      resume();
      once();
      Ticks ticks = new Ticks(instance, intervalS, System.nanoTime());
      while (!ended) {
        waiting = true;
        // who ends it either sees that it waits, or has been seen here
        if (!ended) {
          ticks.sleep(failures);
        }
        waiting = false;
        if (!ended) {
          counts.began(ticks.late());
          late = ticks.late() / 1e9;
          once();
        }
        counts.skipped(ticks.skipped());
      }
    } catch (InterruptedException e) {
      LOG.debug("event=watch-ended instance={} source={}", instance, source.pace());
    } finally {
      collector.close();
    }
  }

  /** What lay between the last stored reading and this start is a gap with a reason of its own. */
  private void resume() {
    silent = store.silences().lasting(instance, source.code()).isPresent();
    long interval = TimeUnit.SECONDS.toMillis(intervalS);
    last.filter(l -> !Charting.covers(l.at().until(clock.instant(), MILLIS), interval))
        .filter(l -> !silent)
        .ifPresent(
            l -> {
              silent = true;
              store
                  .silences()
                  .begin(
                      Silence.since(
                          l.at(),
                          instance,
                          source.code(),
                          "not watched",
                          "not watched: Jam Jar was not running"));
            });
  }

  private void once() throws InterruptedException {
    Instant began = clock.instant();
    try {
      long asked = System.nanoTime();
      RawReading raw = collector.read();
      double whole = (System.nanoTime() - asked) / 1e9;
      if (givenUp) {
        return;
      }
      Increases.Step step = Increases.derive(last, raw, recipe);
      List<Shown> shown = Shown.of(step.reading(), recipe, 1000L * intervalS);
      int[] ids =
          store.readings().numbers(instance, shown.stream().map(Shown::series).toList(), raw.at());
      judge.read(
          instance,
          source,
          raw.at(),
          ids,
          shown,
          (arrived, judged) ->
              writer.write(
                  new KeptReading(
                      instance, source.code(), intervalS, seq + 1, arrived, step, judged)));
      last = Optional.of(step.last());
      seq++;
      failures = 0;
      counts.stored();
      if (silent) {
        store.silences().end(instance, source.code(), raw.at());
        silent = false;
        LOG.info("event=answers-again instance={} source={}", instance, source.pace());
      }
      told.read(
          raw.at(), ids, shown, collector.facts(), new Taken(collector.roundTrip(), whole, late));
    } catch (CollectFailed e) {
      // one that was ended while it hung says nothing any more: another may read in its place
      if (!givenUp) {
        fell(began, e.refusal());
      }
    } catch (ReadingWriter.NotStored e) {
      collector.dropped();
      counts.dropped();
      LOG.warn("event=reading-dropped instance={} why=\"{}\"", instance, e.getMessage());
    } catch (RuntimeException e) {
      LOG.error("event=reading-failed instance={} source={}", instance, source.pace(), e);
    }
  }

  private void fell(Instant at, Refusal refusal) {
    failures++;
    if (!silent) {
      LOG.warn(
          "event=silent instance={} source={} why=\"{}\"",
          instance,
          source.pace(),
          refusal.sentence());
    }
    silent = true;
    try {
      store
          .silences()
          .begin(
              Silence.since(
                  at, instance, source.code(), refusal.reason().words(), refusal.sentence()));
    } catch (RuntimeException e) {
      LOG.warn("event=silence-not-stored instance={} why=\"{}\"", instance, e.getMessage());
    }
    told.silent(at, refusal);
  }
}
