package jamjar.server.watch;

import jamjar.collect.ByHand;
import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.collect.Collector.CountedStatements;
import jamjar.collect.Refusal;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.core.reading.Work;
import jamjar.core.statement.Counted;
import jamjar.core.statement.FollowedReading;
import jamjar.core.threads.DumpCause;
import jamjar.core.threads.ThreadDump;
import jamjar.server.limits.LiveJudge;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.intake.NotKept;
import jamjar.store.readings.KeptReading;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads one source of one instance on its own schedule, in a thread of its own, so that one that
 * hangs delays nobody: source → increases → limits → journal → whoever listens. One reading at a
 * time; a tick that comes while one is under way is left out. Nothing that the target or the store
 * does ends the thread: what it could not do is told.
 */
final class Watcher implements Runnable {
  private static final Logger LOG = LoggerFactory.getLogger(Watcher.class);
  private static final Duration LAST_READING_WITHIN = Duration.ofSeconds(10);
  private static final int MINUTE_SECONDS = 60;
  private static final Duration BETWEEN_DUMPS = Duration.ofMinutes(5);

  /** What a watcher tells its instance. */
  interface Told {
    void read(Instant at, int[] ids, List<Shown> shown, Map<String, String> facts, Taken taken);

    void silent(Instant since, Refusal refusal);

    /**
     * @param why the kind of failure in a word
     */
    void failing(Instant since, String why, String words);
  }

  /**
   * What is read.
   *
   * @param makes makes what reads it
   * @param follows makes a reading of the pace by the minute of what was counted of statements
   * @param afresh whether what was read before is of another target
   */
  record Job(
      int instance,
      String name,
      Pace source,
      int intervalS,
      Recipe recipe,
      Function<Pace, Collector> makes,
      Function<Counted, Optional<Increases.Step>> follows,
      boolean afresh) {}

  private final Job job;
  private final int instance;
  private final Pace source;
  private List<Watcher> before;
  private final Store store;
  private final Intake intake;
  private final LiveJudge judge;
  private final WatchCounts counts;
  private final Clock clock;
  private final Function<Pace, Told> told;
  private final Thread thread;
  private volatile boolean ended;
  private volatile boolean givenUp;
  private volatile boolean waiting;
  private volatile Collector collector;
  private Optional<LastTotals> last = Optional.empty();
  private final Map<Pace, Long> seq = new EnumMap<>(Pace.class);

  /** What the latest readings were made of, to be looked at by any thread. */
  private final Map<Pace, Work.Made> made = new ConcurrentHashMap<>();

  private long dumped;
  private boolean silent;
  private boolean refused;
  private int failures;
  private double late;
  private String failing = "";

  /**
   * @param before those that read the instance until now: their last reading is waited for
   * @param told who is told of readings of a pace
   */
  Watcher(
      Job job,
      List<Watcher> before,
      Store store,
      Intake intake,
      LiveJudge judge,
      WatchCounts counts,
      Clock clock,
      Function<Pace, Told> told) {
    this.job = job;
    this.instance = job.instance();
    this.source = job.source();
    this.before = before;
    this.store = store;
    this.intake = intake;
    this.judge = judge;
    this.counts = counts;
    this.clock = clock;
    this.told = told;
    this.thread = new Thread(this, "watch-" + job.name() + "-" + source.word());
    thread.setDaemon(true);
  }

  void start() {
    thread.start();
  }

  /** How the latest value of a series came about; empty where no reading of this one holds it. */
  Optional<Worked> work(SeriesKey series) {
    return made.entrySet().stream()
        .flatMap(
            one ->
                Work.of(one.getValue(), job.recipe(), series)
                    .map(work -> new Worked(one.getKey(), work, byHand(work)))
                    .stream())
        .findFirst();
  }

  private Map<SeriesKey, ByHand> byHand(Work work) {
    Collector reads = collector;
    Map<SeriesKey, ByHand> all = new HashMap<>();
    if (reads != null) {
      work.parts()
          .forEach(
              part -> reads.byHand(part.series()).ifPresent(how -> all.put(part.series(), how)));
    }
    return all;
  }

  /** Ends it; a reading under way is finished and kept. */
  void end() {
    ended = true;
    if (waiting) {
      thread.interrupt();
    }
  }

  /** Ends it; what a reading under way brings is not wanted any more. */
  void giveUp() {
    givenUp = true;
    end();
  }

  /** Waits until those have ended; whose call hangs is given up after ten seconds. */
  static void await(List<Watcher> watchers) throws InterruptedException {
    long until = System.nanoTime() + LAST_READING_WITHIN.toNanos();
    for (Watcher watcher : watchers) {
      long left = Duration.ofNanos(until - System.nanoTime()).toMillis();
      watcher.thread.join(watcher.givenUp ? 1 : Math.max(1, left));
      if (watcher.thread.isAlive()) {
        watcher.givenUp = true;
        watcher.thread.interrupt();
      }
    }
  }

  @Override
  public void run() {
    try {
      await(before);
      before = List.of();
      once();
      Ticks ticks = new Ticks(instance, job.intervalS(), System.nanoTime());
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
      LOG.debug("event=watch-ended instance={} source={}", instance, source.word());
    } finally {
      if (collector != null) {
        collector.close();
      }
    }
  }

  /** Takes up what was stored last: from then on it needs no database. */
  private void prepare() throws InterruptedException {
    if (collector == null) {
      intake.awaitBrought(LAST_READING_WITHIN);
      store.readings().prepare(instance);
      if (job.afresh()) {
        store.instances().forgetTotals(instance, source.code());
      }
      last = store.readings().last(instance, source.code());
      for (Pace pace : paces()) {
        seq.put(pace, store.readings().lastSeq(instance, pace.code()));
      }
      Optional<Silence> lasting = store.silences().lasting(instance, source.code());
      silent = lasting.isPresent();
      refused =
          lasting
              .flatMap(s -> Refusal.Reason.of(s.reason()))
              .map(Refusal.Reason::answered)
              .orElse(false);
      collector = job.makes().apply(source);
    }
  }

  /** What it makes readings of. */
  private Set<Pace> paces() {
    boolean counts = source == Pace.FAST && job.recipe().groups().contains(FollowedReading.GROUP);
    return counts ? EnumSet.of(source, Pace.MINUTE) : EnumSet.of(source);
  }

  private void once() throws InterruptedException {
    Instant began = clock.instant();
    try {
      prepare();
      read();
    } catch (CollectFailed e) {
      // one that was ended while it hung says nothing any more: another may read in its place
      if (!givenUp) {
        fell(began, e.refusal());
      }
    } catch (NotKept e) {
      notKept(began, e.getMessage());
    } catch (InterruptedException e) {
      throw e;
    } catch (Throwable e) {
      if (StoreAway.passes(e)) {
        fails(began, "cannot begin", "Jam Jar's own database does not answer in time", null);
        return;
      }
      // a fault of ours, or of a target that answers what nobody foresaw
      fails(began, "reading fails", e.toString(), e);
    }
  }

  /** What the target answers. Only while it is asked is its silence its own. */
  private RawReading asked() throws CollectFailed {
    boolean first = source == Pace.FAST;
    if (first) {
      judge.asks(instance, Math.round(1000 * late));
    }
    try {
      return collector.read();
    } finally {
      if (first && !givenUp) {
        judge.answered(instance);
      }
    }
  }

  private void read() throws CollectFailed, InterruptedException {
    long asked = System.nanoTime();
    RawReading raw = asked();
    double whole = (System.nanoTime() - asked) / 1e9;
    if (givenUp) {
      return;
    }
    Increases.Step step = Increases.derive(last, raw, job.recipe());
    Kept kept = keep(source, job.intervalS(), step);
    made.put(source, new Work.Made(last, Optional.of(raw), step.reading()));
    last = Optional.of(step.last());
    Optional<CountedStatements> counted = collector.counted();
    counted.ifPresent(c -> intake.counted(instance, c.counted(), c.texts()));
    failures = 0;
    failing = "";
    counts.stored();
    if (silent) {
      for (Pace pace : paces()) {
        intake.answers(instance, pace.code(), raw.at());
      }
      silent = false;
      LOG.info("event=answers-again instance={} source={}", instance, source.word());
    }
    told.apply(source)
        .read(
            raw.at(),
            kept.ids(),
            kept.shown(),
            collector.facts(),
            new Taken(collector.roundTrip(), whole, late));
    if (counted.isPresent()) {
      follow(counted.get().counted());
    }
    look(kept.judged());
  }

  /** What was kept of a reading, as shown, with the numbers of the series, and what it changed. */
  private record Kept(int[] ids, List<Shown> shown, Judged judged) {}

  private Kept keep(Pace pace, int intervalS, Increases.Step step) throws InterruptedException {
    Instant at = step.reading().at();
    List<Shown> shown = Shown.of(step.reading(), job.recipe(), 1000L * intervalS);
    int[] ids = store.readings().numbers(instance, shown.stream().map(Shown::series).toList(), at);
    long next = seq.get(pace) + 1;
    Judged[] changed = {Judged.NOTHING};
    judge.read(
        instance,
        pace,
        at,
        ids,
        shown,
        (arrived, judged) -> {
          intake.reading(
              new KeptReading(instance, pace.code(), intervalS, next, arrived, step, judged));
          changed[0] = judged;
        });
    seq.put(pace, next);
    return new Kept(ids, shown, changed[0]);
  }

  /** Statements that are followed have a reading of their own of what was counted in a minute. */
  private void follow(Counted counted) throws InterruptedException {
    Optional<Increases.Step> step = job.follows().apply(counted);
    if (step.isEmpty()) {
      return;
    }
    try {
      Kept kept = keep(Pace.MINUTE, MINUTE_SECONDS, step.get());
      made.put(
          Pace.MINUTE, new Work.Made(Optional.empty(), Optional.empty(), step.get().reading()));
      told.apply(Pace.MINUTE).read(counted.at(), kept.ids(), kept.shown(), Map.of(), Taken.NONE);
    } catch (NotKept e) {
      // what was counted is kept: to have it told again would count it twice
      counts.dropped();
      LOG.warn("event=minute-not-kept instance={} why=\"{}\"", instance, e.getMessage());
    }
  }

  /**
   * Looks at the threads where something that tells of them became critical: seldom, as the target
   * stands still for it.
   */
  private void look(Judged judged) {
    Optional<String> cause = DumpCause.of(judged.changes(), judged.keys(), job.recipe());
    long now = System.nanoTime();
    if (cause.isEmpty() || dumped != 0 && now - dumped < BETWEEN_DUMPS.toNanos()) {
      return;
    }
    Optional<ThreadDump> dump = collector.dump(cause.get());
    if (dump.isPresent()) {
      dumped = now;
      try {
        intake.dumped(instance, dump.get());
      } catch (NotKept e) {
        LOG.warn("event=threads-not-kept instance={} why=\"{}\"", instance, e.getMessage());
      }
    }
  }

  private void notKept(Instant at, String words) {
    if (collector != null) {
      collector.dropped();
    }
    counts.dropped();
    fails(at, "not kept", words, null);
  }

  /**
   * @param failure what stands in the log; null where the words say all
   */
  private void fails(Instant at, String why, String words, Throwable failure) {
    if (givenUp) {
      return;
    }
    String sentence = why + ": " + words;
    if (!failing.equals(sentence)) {
      failing = sentence;
      LOG.warn(
          "event=reading-failed instance={} source={} why=\"{}\"",
          instance,
          source.word(),
          sentence,
          failure);
    }
    tell(() -> told.apply(source).failing(at, why, sentence));
  }

  private void fell(Instant at, Refusal refusal) {
    failures++;
    if (!silent) {
      LOG.warn(
          "event=silent instance={} source={} why=\"{}\"",
          instance,
          source.word(),
          refusal.sentence());
    }
    boolean other = silent && refusal.reason().answered() != refused;
    silent = true;
    refused = refusal.reason().answered();
    if (source == Pace.FAST) {
      tell(() -> judge.unread(instance, at, refused));
    }
    try {
      for (Pace pace : paces()) {
        if (other) {
          // silent and unreachable are told apart in what is kept, too
          intake.answers(instance, pace.code(), at);
        }
        intake.silent(
            Silence.since(at, instance, pace.code(), refusal.reason().words(), refusal.sentence()));
      }
    } catch (NotKept e) {
      LOG.warn("event=silence-not-kept instance={} why=\"{}\"", instance, e.getMessage());
    }
    tell(() -> told.apply(source).silent(at, refusal));
  }

  /** Whoever listens may fail without ending the watch. */
  private void tell(Runnable telling) {
    try {
      telling.run();
    } catch (RuntimeException e) {
      LOG.warn("event=not-told instance={} why=\"{}\"", instance, e.toString());
    }
  }
}
