package jamjar.store.readings;

import jamjar.store.chunks.ChunkMapper;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** The tables in which the rows of a day lie: made ahead, dropped when all of the day is sealed. */
final class Days {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyyMMdd");
  private static final String TABLE = "reading";
  private static final String ROWS_OF = TABLE + "_";

  private final SqlSessionFactory factory;
  private final SealedUntil until;
  private final Parts parts;
  private final Set<LocalDate> made = ConcurrentHashMap.newKeySet();

  Days(SqlSessionFactory factory, SealedUntil until) {
    this.factory = factory;
    this.until = until;
    this.parts = new Parts(factory);
  }

  /** Makes the day of a moment, unless it is there. */
  void make(Instant at) {
    LocalDate day = LocalDate.ofInstant(at, ZoneOffset.UTC);
    if (made.contains(day)) {
      return;
    }
    String name = ROWS_OF + day.format(DAY);
    try (SqlSession session = factory.openSession(false)) {
      ReadingMapper maker = session.getMapper(ReadingMapper.class);
      maker.lockPartitions();
      if (!maker.exists(name)) {
        maker.partition(name, day + " 00:00+00", day.plusDays(1) + " 00:00+00");
      }
      session.commit();
    }
    made.add(day);
  }

  /**
   * Drops the days of which all is sealed.
   *
   * @return how many
   */
  int dropSealed() {
    Instant sealed;
    try (SqlSession session = factory.openSession(true)) {
      sealed = session.getMapper(ChunkMapper.class).allSealed();
    }
    int dropped = 0;
    for (String name : parts.of(TABLE)) {
      LocalDate day = LocalDate.parse(name.substring(ROWS_OF.length()), DAY);
      Instant begin = day.atStartOfDay(ZoneOffset.UTC).toInstant();
      Instant end = begin.plus(1, ChronoUnit.DAYS);
      if (reaches(sealed, end) && until.whileNobodyWrites(() -> drop(name, day, begin, end))) {
        dropped++;
      }
    }
    return dropped;
  }

  /** Whoever has made sure that it is there writes into it before it goes. */
  private boolean drop(String name, LocalDate day, Instant begin, Instant end) {
    boolean gone = parts.drop(TABLE, name, session -> isSealed(session, begin, end));
    if (gone) {
      made.remove(day);
    }
    return gone;
  }

  /** Asked when nobody can write it any more: a source may be new, or something have come late. */
  private static boolean isSealed(SqlSession session, Instant begin, Instant end) {
    ChunkMapper chunks = session.getMapper(ChunkMapper.class);
    return reaches(chunks.allSealed(), end) && !chunks.anyUnsealed(begin, end);
  }

  private static boolean reaches(Instant sealed, Instant end) {
    return sealed != null && !sealed.isBefore(end);
  }
}
