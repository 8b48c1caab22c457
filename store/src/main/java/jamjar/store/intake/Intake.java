package jamjar.store.intake;

import jamjar.core.chunk.CountedChunk;
import jamjar.core.chunk.LoggedChunk;
import jamjar.core.chunk.SampleChunk;
import jamjar.core.failure.Causes;
import jamjar.core.log.Logged;
import jamjar.core.session.Sample;
import jamjar.core.statement.Counted;
import jamjar.core.threads.ThreadDump;
import jamjar.core.watching.Gap;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.JournalMapper.Brought;
import jamjar.store.journal.Carrier;
import jamjar.store.journal.FileJournal;
import jamjar.store.journal.Journal;
import jamjar.store.journal.JournalFiles;
import jamjar.store.markers.MarkerRow;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LayoutRow;
import jamjar.store.readings.ReadingStore;
import jamjar.store.readings.Registrar;
import jamjar.store.series.SeriesRow;
import jamjar.store.silences.Silence;
import jamjar.store.telling.MessageRow;
import jamjar.store.telling.SentRow;
import jamjar.store.watching.WatchingMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLTransientConnectionException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The one way in of all that is watched and judged: what is kept stands in the journal, and one
 * thread brings it into the database in that order, each thing once. Who keeps something waits for
 * no database.
 */
public final class Intake implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Intake.class);
  private static final long SEGMENT_BYTES = 32L << 20;
  private static final long IDLE_NANOS = TimeUnit.MILLISECONDS.toNanos(200);
  private static final long AGAIN_NANOS = TimeUnit.SECONDS.toNanos(1);
  private static final long SETTLE_NANOS = TimeUnit.SECONDS.toNanos(2);
  private static final long SYNC_MILLIS = 500;
  private static final long NOT_SYNCED_MILLIS = 5_000;
  private static final long END_MILLIS = 5_000;

  private final ReadingStore readings;
  private final Journal journal;
  private final Carrier carrier;
  private final Thread carrying = new Thread(this::carryOn, "journal-carrier");
  private final Thread syncing = new Thread(this::syncOn, "journal-sync");
  private final Predicate<Throwable> away;
  private final Object brought = new Object();
  private volatile Hearing hearing = NOBODY;
  private volatile boolean ended;
  private volatile boolean stuck;
  private volatile long broughtNanos = System.nanoTime();
  private long lookedNanos = System.nanoTime();
  private long lookedEnd;
  private long settledNanos = System.nanoTime();

  /**
   * @param readings where new series are numbered from now on by what the journal keeps
   * @param folder of the journal
   * @param files how it lies in that
   * @param mostBytes how long the journal may become while the database is away
   * @param changed is told what kinds of lists are other ones now
   * @param away tells a failure as the database is away from others
   */
  public Intake(
      SqlSessionFactory factory,
      ReadingStore readings,
      Path folder,
      JournalFiles.In files,
      long mostBytes,
      Clock clock,
      Consumer<String> changed,
      Predicate<Throwable> away)
      throws IOException {
    this.readings = readings;
    this.away = away;
    this.journal = open(factory, folder, files, mostBytes, clock);
    this.carrier =
        new Carrier(journal, new IntoStore(factory, readings, clock, changed, this::sync), away);
    readings.keepNumbers(new Numbered());
    readings.stockUp();
    carrying.setDaemon(true);
    syncing.setDaemon(true);
  }

  private static Journal open(
      SqlSessionFactory factory, Path folder, JournalFiles.In files, long mostBytes, Clock clock)
      throws IOException {
    Epoch epoch = new Epoch(folder);
    try (SqlSession session = factory.openSession(true)) {
      JournalMapper mapper = session.getMapper(JournalMapper.class);
      Optional<Brought> there = mapper.brought();
      Journal journal = journal(files.of(folder), mostBytes);
      if (epoch.is(there, journal.end())) {
        return journal;
      }
      boolean holds = journal.end() > journal.first();
      journal.close();
      Optional<String> words = holds ? Optional.of(epoch.putAside()) : Optional.empty();
      String begun = epoch.begin();
      Journal fresh = journal(files.of(folder), mostBytes);
      mapper.begin(new Brought(begun, fresh.first()));
      if (words.isPresent()) {
        Instant now = clock.instant();
        Instant last = session.getMapper(WatchingMapper.class).lastKnown().orElse(now);
        Gap gap = Gap.lost(last.toEpochMilli(), now.toEpochMilli(), words.get());
        fresh.append(Entries.write(new Kept.NotWatched(gap, Optional.empty())));
      }
      return fresh;
    }
  }

  private static Journal journal(JournalFiles files, long mostBytes) throws IOException {
    return new FileJournal(files, SEGMENT_BYTES, mostBytes);
  }

  /**
   * Brings all that was kept before this start, then goes on in the background. Waits for the
   * database as long as that takes.
   */
  public void start() throws InterruptedException {
    while (!carryAll()) {
      Thread.sleep(1_000);
    }
    carrying.start();
    syncing.start();
  }

  private boolean carryAll() {
    try {
      while (carrier.carry()) {
        LOG.debug("event=brought position={}", carrier.position());
      }
      return true;
    } catch (IOException | RuntimeException e) {
      told(e);
      return false;
    }
  }

  /** Series get their numbers here, and the database learns of them by the journal. */
  private final class Numbered implements Registrar {
    @Override
    public void series(List<SeriesRow> rows, Instant at) {
      keep(new Kept.Series(rows, at));
    }

    @Override
    public void layout(LayoutRow row) {
      keep(new Kept.Layout(row));
    }
  }

  private void keep(Kept kept) {
    try {
      journal.append(Entries.write(kept));
    } catch (IOException e) {
      throw new NotKept("the journal could not be written: " + e.getMessage(), e);
    }
    LockSupport.unpark(carrying);
  }

  private void keepAndSync(Kept kept, Judged judged) {
    keep(kept);
    if (IntoStore.passed(judged)) {
      // nobody is told of what a power cut could still take back
      sync();
      hearing.passed(judged);
    }
  }

  /**
   * One that fails does not undo what is kept: who took it for not kept would count it again. It is
   * tried again by itself.
   *
   * @return whether all that was kept survives a power cut
   */
  private boolean sync() {
    try {
      journal.sync();
      return true;
    } catch (IOException e) {
      LOG.warn("event=journal-not-synced why=\"{}\"", e.getMessage());
      return false;
    }
  }

  /**
   * Keeps a reading with what it changed. Not to be called for the same source from two threads at
   * once.
   */
  public void reading(KeptReading reading) {
    keepAndSync(new Kept.Reading(readings.lay(reading)), reading.judged());
  }

  /** Keeps changes that no reading brought, judged at a moment. */
  public void judged(Judged judged, Instant at) {
    if (!judged.changes().isEmpty()) {
      keepAndSync(new Kept.JudgedAt(judged, at), judged);
    }
  }

  /** A source does not answer from now on. */
  public void silent(Silence silence) {
    keep(new Kept.Silent(silence));
  }

  /** A source answers again. */
  public void answers(int instance, int source, Instant at) {
    keep(new Kept.Answers(instance, source, at));
  }

  /** What an instance says of itself is other than before. */
  public void facts(
      int instance,
      Instant at,
      List<String> ended,
      Map<String, String> begun,
      Optional<MarkerRow> marker) {
    keep(new Kept.Facts(instance, at, ended, begun, marker));
  }

  /**
   * A sample of the sessions of an instance.
   *
   * @param texts of statements that are new in it, by fingerprint
   */
  public void sampled(int instance, Sample sample, Map<Long, String> texts) {
    keep(
        new Kept.Sampled(
            instance, sample.at(), SampleChunk.write(List.of(sample)), Map.copyOf(texts)));
  }

  /**
   * What an engine counted of its statements until a moment.
   *
   * @param texts of statements that are new in it, by fingerprint
   */
  public void counted(int instance, Counted counted, Map<Long, String> texts) {
    keep(
        new Kept.Counted(
            instance, counted.at(), CountedChunk.write(List.of(counted)), Map.copyOf(texts)));
  }

  /**
   * What was read of an engine's log.
   *
   * @param texts of statements that its lines are about, by fingerprint
   */
  public void logged(int instance, Logged logged, Map<Long, String> texts) {
    keep(
        new Kept.Logged(
            instance, logged.at(), LoggedChunk.write(List.of(logged)), Map.copyOf(texts)));
  }

  /** What the threads of a JVM did at a moment. */
  public void dumped(int instance, ThreadDump dump) {
    keep(new Kept.Dumped(instance, dump));
  }

  /** It is watched at this moment. */
  public void beat(Instant at) {
    keep(new Kept.Beat(at));
    hearing.now(at);
  }

  /**
   * Who hears of what is kept from now on: what passed, and the time. It must not wait for
   * anything.
   */
  public interface Hearing {
    void passed(Judged judged);

    void now(Instant at);
  }

  private static final Hearing NOBODY =
      new Hearing() {
        @Override
        public void passed(Judged judged) {
          // nobody is there to be told
        }

        @Override
        public void now(Instant at) {
          // as above
        }
      };

  public void heardBy(Hearing other) {
    hearing = other;
  }

  /** Somebody is to be told: from when this returns on, also where this process ends. */
  public void message(MessageRow row) {
    keep(new Kept.Message(row));
    sync();
  }

  /** What became of a message. */
  public void sent(SentRow row) {
    keep(new Kept.Sent(row));
  }

  /** Up to then all is decided that there was to be told. */
  public void decided(Instant until) {
    keep(new Kept.Decided(until));
  }

  /** It was not watched for a time. */
  public void notWatched(Gap gap, Optional<MarkerRow> marker) {
    keep(new Kept.NotWatched(gap, marker));
  }

  /**
   * Returns when all that was kept until now is in the database.
   *
   * @throws RuntimeException as if the database were away, when it is not by then
   */
  public void awaitBrought(Duration atMost) throws InterruptedException {
    long wanted = journal.end();
    long until = System.nanoTime() + atMost.toNanos();
    synchronized (brought) {
      while (carrier.position() < wanted) {
        long left = TimeUnit.NANOSECONDS.toMillis(until - System.nanoTime());
        if (left <= 0) {
          throw new NotBrought();
        }
        brought.wait(left);
      }
    }
  }

  private static final class NotBrought extends RuntimeException {
    private static final long serialVersionUID = 1L;

    NotBrought() {
      super(
          "what was kept last is not in the database yet",
          new SQLTransientConnectionException("the database is behind"));
    }
  }

  /** How much is kept that is not in the database yet, in bytes. */
  public long behindBytes() {
    return Math.max(0, journal.end() - carrier.position());
  }

  /** How long ago all was kept that is in the database by now, in s; 0 when nothing is missing. */
  public double behindSeconds() {
    return behindBytes() == 0 ? 0 : (System.nanoTime() - broughtNanos) / 1e9;
  }

  private void carryOn() {
    while (!ended) {
      long pause = IDLE_NANOS;
      try {
        boolean any = carrier.carry();
        if (stuck) {
          stuck = false;
          LOG.info("event=journal-goes-on behind_bytes={}", behindBytes());
        }
        if (any) {
          pause = 0;
          synchronized (brought) {
            brought.notifyAll();
          }
        }
        lookBehind();
        if (System.nanoTime() - settledNanos > SETTLE_NANOS) {
          settledNanos = System.nanoTime();
          carrier.settle();
          readings.stockUp();
        }
      } catch (IOException | RuntimeException e) {
        told(e);
        pause = AGAIN_NANOS;
      }
      rest(pause);
    }
  }

  /** All that was kept by the last look is brought: from then on it is reckoned anew. */
  private void lookBehind() {
    if (carrier.position() >= lookedEnd) {
      broughtNanos = lookedNanos;
      lookedNanos = System.nanoTime();
      lookedEnd = journal.end();
    }
  }

  /** Something that is kept ends a short rest, but not one as the database is away. */
  private void rest(long nanos) {
    long until = System.nanoTime() + nanos;
    do {
      if (nanos > 0) {
        LockSupport.parkNanos(until - System.nanoTime());
      }
    } while (nanos >= AGAIN_NANOS && !ended && System.nanoTime() < until);
  }

  private void told(Exception e) {
    if (!stuck) {
      stuck = true;
      LOG.warn("event=journal-waits behind_bytes={} why=\"{}\"", behindBytes(), Causes.words(e));
      if (!away.test(e)) {
        LOG.debug("event=journal-waits", e);
      }
    }
  }

  private void syncOn() {
    while (!ended) {
      try {
        Thread.sleep(sync() ? SYNC_MILLIS : NOT_SYNCED_MILLIS);
      } catch (InterruptedException e) {
        return;
      }
    }
  }

  /** Brings what is left, if the database takes it at once; the rest is brought next time. */
  @Override
  public void close() throws IOException, InterruptedException {
    ended = true;
    LockSupport.unpark(carrying);
    syncing.interrupt();
    carrying.join(END_MILLIS);
    syncing.join(END_MILLIS);
    if (!carrying.isAlive() && carryAll()) {
      carrier.settle();
    }
    journal.close();
  }
}
