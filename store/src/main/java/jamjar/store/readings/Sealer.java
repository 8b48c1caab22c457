package jamjar.store.readings;

import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.ChunkMapper.Day;
import jamjar.store.chunks.ChunkMapper.Unsealed;
import jamjar.store.chunks.ChunkMapper.Until;
import jamjar.store.chunks.Packing;
import jamjar.store.chunks.Packing.Packed;
import jamjar.store.chunks.SpanRow;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/**
 * Packs rows that are two hours old into chunks, two hours of a source at a time, and the hours of
 * a day that is over into one. Each step is a transaction: seen whole or not at all. Rows stay
 * until all of their day is sealed; then the day's table is dropped.
 *
 * <p>One at a time: not for two processes on one database.
 */
public final class Sealer {
  /** A span of a day that is not over. */
  static final Duration SPAN = Duration.ofHours(2);

  /** How late a reading usually is at most. */
  private static final Duration GRACE = Duration.ofMinutes(5);

  private static final int AT_ONCE = 100;
  private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("yyyyMM");

  private final SqlSessionFactory factory;
  private final Layouts layouts;
  private final SealedUntil until;
  private final Days rowDays;
  private final Set<LocalDate> months = ConcurrentHashMap.newKeySet();

  /**
   * What was done.
   *
   * @param spans sealed, of two hours each
   * @param days made of spans
   * @param again sealed again, as something came late
   * @param dropped tables of rows
   */
  public record Done(int spans, int days, int again, int dropped) {
    public boolean any() {
      return spans + days + again + dropped > 0;
    }
  }

  Sealer(SqlSessionFactory factory, Layouts layouts, SealedUntil until, Days rowDays) {
    this.factory = factory;
    this.layouts = layouts;
    this.until = until;
    this.rowDays = rowDays;
  }

  /** Seals all that is old enough. */
  public Done run(Instant now) {
    int spans = 0;
    Instant latest = now.minus(GRACE);
    List<Until> all;
    try (SqlSession session = factory.openSession(true)) {
      all = session.getMapper(ChunkMapper.class).all();
    }
    // nobody who writes the first reading of a day waits for its table
    rowDays.make(now);
    rowDays.make(now.plus(1, ChronoUnit.DAYS));
    for (Until source : all) {
      spans += sealSource(source, latest);
    }
    int again = again();
    int days = merge();
    return new Done(spans, days, again, rowDays.dropSealed());
  }

  private int sealSource(Until source, Instant latest) {
    int sealed = 0;
    Instant from = source.untilAt();
    while (!from.plus(SPAN).isAfter(latest)) {
      Instant begin = from;
      Instant next = firstRow(source, begin).map(Sealer::floor).orElse(floor(latest));
      if (next.isAfter(begin)) {
        // nothing for a time: that is no span
        from = next.isBefore(floor(latest)) ? next : floor(latest);
        seal(source, begin, from, false);
      } else {
        from = begin.plus(SPAN);
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
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      chunks.lock(instance, source.source());
      if (any) {
        ReadingMapper rows = session.getMapper(ReadingMapper.class);
        Packing packing = new Packing();
        add(packing, rows.rowsOf(instance, source.source(), from, to), rows);
        add(chunks, packing.pack(instance, source.source(), false, from, to, 1));
      }
      chunks.seal(new Until(instance, source.source(), to));
      session.commit();
    }
  }

  private void add(Packing packing, List<RawRow> rows, ReadingMapper through) {
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

  private static void add(ChunkMapper to, Packed packed) {
    to.addSpan(packed.span());
    packed.chunks().forEach(to::addChunk);
  }

  /** Spans of two hours become days. */
  private int merge() {
    int merged = 0;
    List<Day> days;
    do {
      try (SqlSession session = factory.openSession(true)) {
        days = session.getMapper(ChunkMapper.class).toMerge(AT_ONCE);
      }
      for (Day day : days) {
        merge(day);
        merged++;
      }
    } while (days.size() == AT_ONCE);
    return merged;
  }

  private void merge(Day day) {
    Instant from = day.fromAt();
    Instant to = from.plus(1, ChronoUnit.DAYS);
    makeMonth(from);
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      chunks.lock(day.instance(), day.source());
      List<SpanRow> spans =
          chunks.touching(day.instance(), from, to.minusMillis(1)).stream()
              .filter(span -> span.source() == day.source() && !span.day())
              .toList();
      Map<Integer, LayoutRow> theirs = layouts.of(rows, Windows.layoutsOf(spans));
      int[] series = OpenSpan.series(spans, theirs);
      Packed whole =
          Packing.merged(
              spans,
              chunks.chunks(series, from, to.minusMillis(1)).stream()
                  .filter(chunk -> chunk.source() == day.source() && !chunk.day())
                  .toList(),
              from,
              to);
      spans.forEach(span -> chunks.remove(span, series));
      add(chunks, whole);
      session.commit();
    }
  }

  /** Seals again what is not right any more. */
  private int again() {
    List<Unsealed> wrong;
    try (SqlSession session = factory.openSession(true)) {
      wrong = session.getMapper(ChunkMapper.class).unsealed(AT_ONCE);
    }
    wrong.forEach(this::again);
    return wrong.size();
  }

  private void again(Unsealed wrong) {
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      chunks.lock(wrong.instance(), wrong.source());
      List<SpanRow> spans =
          chunks.touching(wrong.instance(), wrong.fromAt(), wrong.toAt()).stream()
              .filter(span -> span.source() == wrong.source())
              .toList();
      Map<Integer, LayoutRow> theirs = layouts.of(rows, Windows.layoutsOf(spans));
      for (OpenSpan span : OpenSpan.whole(spans, theirs, chunks)) {
        chunks.remove(span.row(), OpenSpan.series(List.of(span.row()), theirs));
        add(chunks, again(span, wrong, rows));
      }
      if (spans.isEmpty() && !wrong.overlapped()) {
        Instant from = floor(wrong.fromAt());
        Packing packing = new Packing();
        add(packing, rows.rowsOf(wrong.instance(), wrong.source(), from, from.plus(SPAN)), rows);
        add(
            chunks,
            packing.pack(wrong.instance(), wrong.source(), false, from, from.plus(SPAN), 1));
      }
      chunks.done(wrong.id());
      session.commit();
    }
  }

  private Packed again(OpenSpan open, Unsealed wrong, ReadingMapper through) {
    SpanRow span = open.row();
    List<RawRow> all = new ArrayList<>();
    for (RawRow row : open.rows()) {
      boolean over =
          wrong.overlapped() && row.at().isAfter(wrong.fromAt()) && !row.at().isAfter(wrong.toAt());
      all.add(over ? row.asOverlapped() : row);
    }
    Set<Instant> there =
        all.stream().map(RawRow::at).collect(Collectors.toCollection(HashSet::new));
    through.rowsOf(span.instance(), span.source(), span.fromAt(), span.toAt()).stream()
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
        span.revision() + 1);
  }

  private void makeMonth(Instant at) {
    LocalDate month = LocalDate.ofInstant(at, ZoneOffset.UTC).withDayOfMonth(1);
    if (months.contains(month)) {
      return;
    }
    for (String of : List.of("span", "chunk")) {
      try (SqlSession session = factory.openSession(false)) {
        ChunkMapper maker = session.getMapper(ChunkMapper.class);
        String name = month.format(MONTH);
        if (!maker.exists(of + "_days_" + name)) {
          maker.month(of, name, month + " 00:00+00", month.plusMonths(1) + " 00:00+00");
          session.commit();
        }
      }
    }
    months.add(month);
  }

  /** The begin of the span that a moment lies in. */
  static Instant floor(Instant at) {
    long span = SPAN.toSeconds();
    return Instant.ofEpochSecond(Math.floorDiv(at.getEpochSecond(), span) * span);
  }
}
