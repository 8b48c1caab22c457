package jamjar.store.intake;

import jamjar.core.watching.Gap;
import jamjar.store.alerts.JudgedStore;
import jamjar.store.facts.FactStore;
import jamjar.store.journal.Carrier;
import jamjar.store.journal.Journal.Entry;
import jamjar.store.journal.Journal.Loss;
import jamjar.store.logs.LogStore;
import jamjar.store.markers.MarkerMapper;
import jamjar.store.readings.LaidOut;
import jamjar.store.readings.ReadingStore;
import jamjar.store.samples.SampleStore;
import jamjar.store.silences.SilenceMapper;
import jamjar.store.statements.StatementStore;
import jamjar.store.telling.TellingMapper;
import jamjar.store.threads.DumpStore;
import jamjar.store.watching.WatchingMapper;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** Brings what was kept into the database, together with how far it came. */
final class IntoStore implements Carrier.Destination {
  private final SqlSessionFactory factory;
  private final ReadingStore readings;
  private final Clock clock;
  private final Consumer<String> changed;
  private final Runnable onDisk;

  /**
   * @param changed is told what kinds of lists are other ones now
   * @param onDisk has what is kept survive a power cut
   */
  IntoStore(
      SqlSessionFactory factory,
      ReadingStore readings,
      Clock clock,
      Consumer<String> changed,
      Runnable onDisk) {
    this.onDisk = onDisk;
    this.factory = factory;
    this.readings = readings;
    this.clock = clock;
    this.changed = changed;
  }

  @Override
  public long position() {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(JournalMapper.class).brought().orElseThrow().position();
    }
  }

  @Override
  public boolean bring(List<Entry> entries, List<Loss> losses, long from, long to) {
    List<Kept> all = new ArrayList<>();
    if (!losses.isEmpty()) {
      all.add(lost(losses, entries));
    }
    long begin = from;
    for (Entry entry : entries) {
      Kept kept = Entries.read(entry.bytes());
      if (kept instanceof Kept.NotWatched gap && gap.gap().overlaps()) {
        // what is written before it counts otherwise than what is written after it
        if (!bring(all, begin, entry.at()) || !setBack(gap, entry)) {
          return false;
        }
        all = new ArrayList<>();
        begin = entry.next();
      } else {
        all.add(kept);
      }
    }
    return bring(all, begin, to);
  }

  private boolean setBack(Kept.NotWatched gap, Entry entry) {
    boolean moved =
        within(
            entry.at(),
            entry.next(),
            batch -> {
              write(batch, gap);
              WatchingMapper watching = batch.getMapper(WatchingMapper.class);
              Instant now = Instant.ofEpochMilli(gap.gap().to());
              Instant before = Instant.ofEpochMilli(gap.gap().from());
              watching.overlapped(now, before);
              watching.sealedOverlapped(now, before);
            });
    if (moved) {
      readings.setBackTo(Instant.ofEpochMilli(gap.gap().to()));
      tell(List.of(gap));
    }
    return moved;
  }

  private boolean bring(List<Kept> all, long from, long to) {
    if (from == to) {
      return true;
    }
    List<LaidOut> laid =
        all.stream()
            .filter(Kept.Reading.class::isInstance)
            .map(kept -> ((Kept.Reading) kept).reading())
            .toList();
    boolean moved =
        readings.bring(laid, work -> within(from, to, batch -> write(batch, all, work)));
    if (moved) {
      tell(all);
    }
    return moved;
  }

  /** In one transaction that moves the position, or in none where it is not where it should be. */
  private boolean within(long from, long to, Consumer<SqlSession> work) {
    try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
      // a transaction that is lost is lost with the position, and brought again
      JournalMapper journal = batch.getMapper(JournalMapper.class);
      journal.needNotWait();
      if (journal.lock() != from) {
        return false;
      }
      work.accept(batch);
      journal.move(to);
      batch.commit();
      return true;
    }
  }

  private void write(SqlSession batch, List<Kept> all, Consumer<SqlSession> workOfReadings) {
    for (Kept kept : all) {
      if (kept instanceof Kept.Series series) {
        readings.addSeries(batch, series.rows(), series.at());
      } else if (kept instanceof Kept.Layout layout) {
        readings.addLayout(batch, layout.row());
      }
    }
    workOfReadings.accept(batch);
    for (Kept kept : all) {
      write(batch, kept);
    }
    lastBeat(all).ifPresent(at -> batch.getMapper(WatchingMapper.class).beat(at));
  }

  private static void write(SqlSession batch, Kept kept) {
    if (kept instanceof Kept.Reading reading) {
      JudgedStore.write(batch, reading.reading().judged());
    } else if (kept instanceof Kept.JudgedAt judged) {
      JudgedStore.write(batch, judged.judged());
      batch.getMapper(WatchingMapper.class).until(judged.at());
    } else if (kept instanceof Kept.Silent silent) {
      batch.getMapper(SilenceMapper.class).begin(silent.silence());
    } else if (kept instanceof Kept.Answers answers) {
      batch.getMapper(SilenceMapper.class).end(answers.instance(), answers.source(), answers.at());
    } else if (kept instanceof Kept.Facts facts) {
      FactStore.write(
          batch, facts.instance(), facts.at(), facts.ended(), facts.begun(), facts.marker());
    } else if (kept instanceof Kept.Sampled sampled) {
      SampleStore.write(batch, sampled.instance(), sampled.at(), sampled.body());
      StatementStore.tell(batch, sampled.instance(), sampled.texts(), sampled.at());
    } else if (kept instanceof Kept.Counted counted) {
      StatementStore.write(
          batch, counted.instance(), counted.at(), counted.body(), counted.texts());
    } else if (kept instanceof Kept.Logged logged) {
      LogStore.write(batch, logged.instance(), logged.at(), logged.body());
      StatementStore.tell(batch, logged.instance(), logged.texts(), logged.at());
    } else if (kept instanceof Kept.Dumped dumped) {
      DumpStore.write(batch, dumped.instance(), dumped.dump());
    } else if (kept instanceof Kept.NotWatched gap) {
      batch.getMapper(WatchingMapper.class).add(gap.gap());
      gap.marker().ifPresent(batch.getMapper(MarkerMapper.class)::add);
    } else if (kept instanceof Kept.Message message) {
      batch.getMapper(TellingMapper.class).add(message.row());
    } else if (kept instanceof Kept.Sent sent) {
      batch.getMapper(TellingMapper.class).became(sent.row());
    } else if (kept instanceof Kept.Decided decided) {
      batch.getMapper(TellingMapper.class).decided(decided.until());
    }
  }

  /** Of many moments the last one says all. */
  private static Optional<Instant> lastBeat(List<Kept> all) {
    return all.stream()
        .filter(Kept.Beat.class::isInstance)
        .map(kept -> ((Kept.Beat) kept).at())
        .reduce((before, after) -> after);
  }

  /** What is lost is a gap, from what is known before it to what comes after it. */
  private Kept lost(List<Loss> losses, List<Entry> entries) {
    long from;
    try (SqlSession session = factory.openSession(true)) {
      from =
          session
              .getMapper(WatchingMapper.class)
              .lastKnown()
              .orElseGet(clock::instant)
              .toEpochMilli();
    }
    long to =
        entries.stream()
            .map(entry -> Entries.read(entry.bytes()))
            .flatMap(kept -> at(kept).stream())
            .findFirst()
            .orElseGet(clock::instant)
            .toEpochMilli();
    return new Kept.NotWatched(Gap.lost(from, to, losses.get(0).why()), Optional.empty());
  }

  private static Optional<Instant> at(Kept kept) {
    if (kept instanceof Kept.Beat beat) {
      return Optional.of(beat.at());
    }
    return kept instanceof Kept.Reading reading
        ? Optional.of(reading.reading().row().arrived())
        : Optional.empty();
  }

  private void tell(List<Kept> all) {
    Set<String> kinds = new HashSet<>();
    for (Kept kept : all) {
      if (kept instanceof Kept.Reading reading && passed(reading.reading().judged())
          || kept instanceof Kept.JudgedAt judged && passed(judged.judged())) {
        kinds.add("alerts");
      } else if (kept instanceof Kept.Facts facts && facts.marker().isPresent()
          || kept instanceof Kept.NotWatched) {
        kinds.add("markers");
      } else if (kept instanceof Kept.Message || kept instanceof Kept.Sent) {
        kinds.add("messages");
      }
    }
    if (kinds.contains("alerts")) {
      // nobody is told of what a power cut could still take back
      onDisk.run();
    }
    kinds.forEach(changed);
  }

  static boolean passed(JudgedStore.Judged judged) {
    return judged.changes().stream().anyMatch(change -> !change.transitions().isEmpty());
  }

  @Override
  public boolean setAside(Entry entry, RuntimeException why, long from, long to) {
    return within(
        from,
        to,
        batch ->
            batch
                .getMapper(JournalMapper.class)
                .setAside(
                    entry.at(), clock.instant(), String.valueOf(why.getMessage()), entry.bytes()));
  }

  @Override
  public void settle() {
    try (SqlSession session = factory.openSession(false)) {
      JournalMapper journal = session.getMapper(JournalMapper.class);
      journal.waitForDisk();
      journal.move(journal.lock());
      session.commit();
    }
  }
}
