package jamjar.store.readings;

import jamjar.core.failure.Causes;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.ChunkMapper.Day;
import jamjar.store.chunks.ChunkMapper.Unsealed;
import jamjar.store.chunks.ChunkMapper.Until;
import jamjar.store.chunks.Packing;
import jamjar.store.chunks.Packing.Packed;
import jamjar.store.chunks.SpanRow;
import jamjar.store.keeping.Keeping;
import jamjar.store.steps.StepMapper;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import java.util.function.IntSupplier;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Packs rows that are two hours old into chunks, two hours of a source at a time, and the hours of
 * a day that is over into one. Each step is a transaction: seen whole or not at all. Rows stay
 * until all of their day is sealed; then the day's table is dropped.
 *
 * <p>Not for two processes on one database: what one of them writes late the other does not know.
 */
public final class Sealer {
  private static final Logger LOG = LoggerFactory.getLogger(Sealer.class);

  /** A span of a day that is not over. */
  static final Duration SPAN = Duration.ofHours(2);

  private static final int LONGEST_REASON = 300;

  private static final Duration MONTHS_EVERY = Duration.ofHours(1);

  /** How late a reading usually is at most. */
  private static final Duration GRACE = Duration.ofMinutes(5);

  private static final Predicate<Instant> NOTHING_WRONG = at -> false;

  private final SqlSessionFactory factory;
  private final Layouts layouts;
  private final SealedUntil until;
  private final Days rowDays;
  private final Predicate<Throwable> away;
  private final DayStepper stepper;
  private final Months monthly;
  private final MonthTables months;
  private Instant looked = Instant.EPOCH;

  /**
   * What was done.
   *
   * @param spans sealed, of two hours each
   * @param days made of spans
   * @param again sealed again, as something came late
   * @param dropped tables of rows
   * @param failed what could not be done, and is tried again next time; the log tells why
   */
  public record Done(int spans, int days, int again, int dropped, int failed) {
    public boolean any() {
      return spans + days + again + dropped + failed > 0;
    }
  }

  /**
   * @param away tells a failure as all of the database is away from one of what was tried
   */
  Sealer(
      SqlSessionFactory factory,
      Layouts layouts,
      SealedUntil until,
      Days rowDays,
      SeriesCatalog catalog,
      Predicate<Throwable> away) {
    this.factory = factory;
    this.layouts = layouts;
    this.until = until;
    this.rowDays = rowDays;
    this.away = away;
    this.monthly = new Months(factory);
    this.months = new MonthTables(factory);
    this.stepper = new DayStepper(new Windows(factory, layouts), catalog);
  }

  /** Seals all that is old enough. */
  public synchronized Done run(Instant now) {
    // nobody who writes the first reading of a day waits for its table
    rowDays.make(now);
    rowDays.make(now.plus(1, ChronoUnit.DAYS));
    Instant latest = now.minus(GRACE);
    Tries spans = new Tries();
    Tries again = new Tries();
    Tries days = new Tries();
    try (Hands hands = new Hands()) {
      hands.each(asked(ChunkMapper::all), spans, source -> sealSource(source, latest));
      for (Unsealed wrong : asked(ChunkMapper::unsealed)) {
        again.of(wrong, () -> again(wrong));
      }
      hands.each(asked(ChunkMapper::toMerge), days, this::merge);
    }
    Tries merged = new Tries();
    // it looks at all steps of the open month; a month is over once
    if (Duration.between(looked, now).abs().compareTo(MONTHS_EVERY) >= 0) {
      for (StepMapper.Month month : monthly.toMerge()) {
        merged.of(
            month,
            () -> {
              monthly.merge(month);
              return 1;
            });
      }
      looked = merged.failed.get() == 0 ? now : Instant.EPOCH;
    }
    return new Done(
        spans.done.get(),
        days.done.get(),
        again.done.get(),
        rowDays.dropSealed(),
        Stream.of(spans, days, again, merged).mapToInt(tries -> tries.failed.get()).sum());
  }

  private <T> List<T> asked(Function<ChunkMapper, List<T>> question) {
    try (SqlSession session = factory.openSession(true)) {
      return question.apply(session.getMapper(ChunkMapper.class));
    }
  }

  /** One that fails does not keep the others from being done. */
  private final class Tries {
    private final AtomicInteger done = new AtomicInteger();
    private final AtomicInteger failed = new AtomicInteger();

    void of(Object what, IntSupplier work) {
      try {
        done.addAndGet(work.getAsInt());
      } catch (RuntimeException e) {
        if (away.test(e)) {
          throw e;
        }
        failed.incrementAndGet();
        // a batch that fails tells all that it wanted to write
        String why = Causes.words(e);
        LOG.warn(
            "event=not-packed what=\"{}\" why=\"{}\"",
            what,
            why.substring(0, Math.min(why.length(), LONGEST_REASON)));
      }
    }
  }

  /** One of them waits for the database while the other packs. */
  private static final class Hands implements AutoCloseable {
    private static final int TWO = 2;
    private static final long END_SECONDS = 10;

    private final ExecutorService threads =
        Executors.newFixedThreadPool(
            TWO,
            task -> {
              Thread made = new Thread(task, "sealer-hand");
              made.setDaemon(true);
              return made;
            });

    /** Does all of them; ends at the first that tells that the database is away. */
    <T> void each(List<T> all, Tries tries, ToIntFunction<T> work) {
      List<Future<?>> done = new ArrayList<>();
      all.forEach(one -> done.add(threads.submit(() -> tries.of(one, () -> work.applyAsInt(one)))));
      try {
        for (Future<?> one : done) {
          one.get();
        }
      } catch (ExecutionException e) {
        throw e.getCause() instanceof RuntimeException cause
            ? cause
            : new IllegalStateException("packing failed", e.getCause());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException("interrupted while packing", e);
      }
    }

    /** What is not begun is done next time; what is under way ends or is broken off. */
    @Override
    public void close() {
      threads.shutdownNow();
      try {
        threads.awaitTermination(END_SECONDS, TimeUnit.SECONDS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  private int sealSource(Until source, Instant latest) {
    int sealed = 0;
    Instant from = source.untilAt();
    while (!end(from).isAfter(latest)) {
      Instant begin = from;
      Instant next = firstRow(source, begin).map(Sealer::floor).orElse(floor(latest));
      if (next.isAfter(begin)) {
        // nothing for a time: that is no span
        from = next.isBefore(floor(latest)) ? next : floor(latest);
        seal(source, begin, from, false);
      } else {
        from = end(begin);
        seal(source, begin, from, true);
        sealed++;
      }
    }
    return sealed;
  }

  private Optional<Instant> firstRow(Until source, Instant from) {
    try (SqlSession session = factory.openSession(true)) {
      return Optional.ofNullable(
          session
              .getMapper(ReadingMapper.class)
              .firstRow(source.instance(), source.source(), from));
    }
  }

  private void seal(Until source, Instant from, Instant to, boolean any) {
    int instance = source.instance();
    // whoever writes a reading of before from now on tells that it came late
    until.willBe(new SourceKey(instance, source.source()), to);
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      // what is lost is lost as a whole and done again
      session.getMapper(ReadingMapper.class).needNotWait();
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      if (chunks.lock(instance, source.source()).filter(from::equals).isEmpty()) {
        // somebody else has
        return;
      }
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      if (!any && hasRows(rows, source, from, to)) {
        // written while it was looked whether there are any: next time
        return;
      }
      if (any) {
        pack(session, source, from, to);
      }
      chunks.seal(new Until(instance, source.source(), to));
      session.commit();
    }
  }

  /** A clock that was ahead may have packed some of that time before, stamped by it. */
  private void pack(SqlSession session, Until source, Instant from, Instant to) {
    ChunkMapper chunks = session.getMapper(ChunkMapper.class);
    ReadingMapper rows = session.getMapper(ReadingMapper.class);
    Instant begin = floor(from);
    List<SpanRow> there = spans(chunks, source.instance(), source.source(), begin, to);
    if (there.isEmpty()) {
      Packing packing = new Packing();
      add(packing, rows.rowsOf(source.instance(), source.source(), begin, to), rows);
      packing
          .pack(source.instance(), source.source(), false, begin, to, 1, Keeping.USUAL)
          .add(chunks);
    } else {
      packAgain(session, there, to, NOTHING_WRONG);
    }
  }

  static List<SpanRow> spans(
      ChunkMapper chunks, int instance, int source, Instant from, Instant to) {
    return chunks.touching(instance, from, to.minusNanos(1000)).stream()
        .filter(span -> span.source() == source)
        .toList();
  }

  private static boolean hasRows(ReadingMapper rows, Until source, Instant from, Instant to) {
    Instant first = rows.firstRow(source.instance(), source.source(), from);
    return first != null && first.isBefore(to);
  }

  private void add(Packing packing, List<RawRow> rows, ReadingMapper through) {
    add(packing, rows, layouts, through);
  }

  /** Rows in order of time, by their layouts. */
  static void add(Packing packing, List<RawRow> rows, Layouts layouts, ReadingMapper through) {
    int from = 0;
    for (int i = 1; i <= rows.size(); i++) {
      if (i == rows.size() || rows.get(i).layout() != rows.get(from).layout()) {
        List<RawRow> run = rows.subList(from, i);
        LayoutRow layout = layouts.of(through, run.get(0).layout());
        packing.add(
            RawRow.times(run),
            layout.id(),
            layout.series(),
            run.stream().map(RawRow::vals).toList());
        from = i;
      }
    }
  }

  /** Spans of two hours become a day. */
  private int merge(Day day) {
    Instant from = day.fromAt();
    Instant to = from.plus(1, ChronoUnit.DAYS);
    months.make(from, day.keep());
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      // what is lost is lost as a whole and done again
      session.getMapper(ReadingMapper.class).needNotWait();
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      chunks.lock(day.instance(), day.source());
      List<SpanRow> spans =
          chunks.touching(day.instance(), from, to.minusMillis(1)).stream()
              .filter(span -> span.source() == day.source() && !span.day())
              .toList();
      if (spans.isEmpty()) {
        return 0;
      }
      Map<Integer, LayoutRow> theirs = layouts.of(rows, Windows.layoutsOf(spans));
      int[] series = OpenSpan.series(spans, theirs);
      Packed whole =
          Packing.merged(
              spans,
              chunks.chunks(series, from, to.minusMillis(1)).stream()
                  .filter(chunk -> chunk.source() == day.source() && !chunk.day())
                  .toList(),
              from,
              to,
              day.keep());
      spans.forEach(span -> chunks.remove(span, series));
      whole.add(chunks);
      step(session, whole.span(), theirs, series);
      session.commit();
      return 1;
    }
  }

  /** Seals again what is not right any more. */
  private int again(Unsealed wrong) {
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      // what is lost is lost as a whole and done again
      session.getMapper(ReadingMapper.class).needNotWait();
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      Instant until = chunks.lock(wrong.instance(), wrong.source()).orElseThrow();
      // first: what comes late while this is done is told anew
      chunks.done(wrong.id());
      List<SpanRow> spans =
          spans(
              chunks,
              wrong.instance(),
              wrong.source(),
              wrong.fromAt(),
              wrong.toAt().plusNanos(1000));
      packAgain(
          session,
          spans,
          until,
          at -> wrong.overlapped() && at.isAfter(wrong.fromAt()) && !at.isAfter(wrong.toAt()));
      if (spans.isEmpty() && !wrong.overlapped()) {
        packAlone(session, wrong, until);
      }
      session.commit();
      return 1;
    }
  }

  /**
   * Packs spans of one source with what lies beside them in rows.
   *
   * @param until up to when all rows are packed now
   * @param overlapped tells what was stamped by a clock that was set back since
   */
  private void packAgain(
      SqlSession session, List<SpanRow> spans, Instant until, Predicate<Instant> overlapped) {
    ChunkMapper chunks = session.getMapper(ChunkMapper.class);
    ReadingMapper rows = session.getMapper(ReadingMapper.class);
    Map<Integer, LayoutRow> theirs = layouts.of(rows, Windows.layoutsOf(spans));
    for (OpenSpan span : OpenSpan.whole(spans, theirs, chunks)) {
      chunks.remove(span.row(), OpenSpan.series(List.of(span.row()), theirs));
      Packed packed = packAgain(span, until, overlapped, rows);
      packed.add(chunks);
      if (packed.span().day()) {
        Map<Integer, LayoutRow> now = layouts.of(rows, Windows.layoutsOf(List.of(packed.span())));
        step(session, packed.span(), now, OpenSpan.series(List.of(packed.span()), now));
      }
    }
  }

  /**
   * What came late where there is no span.
   *
   * @param until what is written from then on is read as rows until it is packed in its turn
   */
  private void packAlone(SqlSession session, Unsealed wrong, Instant until) {
    ReadingMapper rows = session.getMapper(ReadingMapper.class);
    Instant from = floor(wrong.fromAt());
    Instant to = from.plus(SPAN);
    Instant end = to.isBefore(until) ? to : until;
    List<RawRow> all = rows.rowsOf(wrong.instance(), wrong.source(), from, end);
    int[] series =
        all.stream()
            .flatMapToInt(row -> IntStream.of(layouts.of(rows, row.layout()).series()))
            .distinct()
            .toArray();
    Instant day = from.truncatedTo(ChronoUnit.DAYS);
    if (session.getMapper(StepMapper.class).any(series, wrong.source(), day)) {
      // what it would have to be joined with is not kept any more
      LOG.info("event=too-late instance={} at={}", wrong.instance(), wrong.fromAt());
      return;
    }
    Packing packing = new Packing();
    add(packing, all, rows);
    packing
        .pack(wrong.instance(), wrong.source(), false, from, to, 1, Keeping.USUAL)
        .add(session.getMapper(ChunkMapper.class));
  }

  private Packed packAgain(
      OpenSpan open, Instant until, Predicate<Instant> overlapped, ReadingMapper through) {
    SpanRow span = open.row();
    List<RawRow> all = new ArrayList<>();
    for (RawRow row : open.rows()) {
      all.add(overlapped.test(row.at()) ? row.asOverlapped() : row);
    }
    Set<Instant> there =
        all.stream().map(RawRow::at).collect(Collectors.toCollection(HashSet::new));
    Instant end = span.toAt().isBefore(until) ? span.toAt() : until;
    through.rowsOf(span.instance(), span.source(), span.fromAt(), end).stream()
        .filter(row -> !there.contains(row.at()))
        .forEach(all::add);
    all.sort(Comparator.comparing(RawRow::at));
    Packing packing = new Packing();
    add(packing, all, through);
    return packing.pack(
        span.instance(),
        span.source(),
        span.day(),
        span.fromAt(),
        span.toAt(),
        span.revision() + 1,
        span.keep());
  }

  private void step(SqlSession session, SpanRow day, Map<Integer, LayoutRow> theirs, int[] series) {
    stepper.make(session, day, theirs, series);
  }

  private static Instant end(Instant from) {
    return floor(from).plus(SPAN);
  }

  /** The begin of the span that a moment lies in. */
  static Instant floor(Instant at) {
    long span = SPAN.toSeconds();
    return Instant.ofEpochSecond(Math.floorDiv(at.getEpochSecond(), span) * span);
  }
}
