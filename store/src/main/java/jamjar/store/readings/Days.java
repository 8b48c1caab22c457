package jamjar.store.readings;

import jamjar.store.chunks.ChunkMapper;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.ibatis.exceptions.PersistenceException;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** The tables in which the rows of a day lie: made ahead, dropped when all of the day is sealed. */
final class Days {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyyMMdd");
  private static final String ROWS_OF = "reading_";

  private final SqlSessionFactory factory;
  private final Set<LocalDate> made = ConcurrentHashMap.newKeySet();

  Days(SqlSessionFactory factory) {
    this.factory = factory;
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
      if (!maker.exists(name)) {
        maker.lockPartitions();
        if (!maker.exists(name)) {
          maker.partition(name, day + " 00:00+00", day.plusDays(1) + " 00:00+00");
        }
        session.commit();
      }
    }
    made.add(day);
  }

  /**
   * Drops the days of which all is sealed.
   *
   * @return how many
   */
  int dropSealed() {
    List<String> names;
    Instant sealed;
    try (SqlSession session = factory.openSession(true)) {
      names = session.getMapper(ReadingMapper.class).days();
      sealed = session.getMapper(ChunkMapper.class).allSealed();
    }
    int dropped = 0;
    for (String name : names) {
      LocalDate day = LocalDate.parse(name.substring(ROWS_OF.length()), DAY);
      Instant end = day.plusDays(1).atStartOfDay(ZoneOffset.UTC).toInstant();
      if (sealed != null && !sealed.isBefore(end) && drop(name, end)) {
        made.remove(day);
        dropped++;
      }
    }
    return dropped;
  }

  private boolean drop(String name, Instant end) {
    try (SqlSession session = factory.openSession(false)) {
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      rows.lockDay(name);
      // what came late lies in it still
      if (session.getMapper(ChunkMapper.class).anyUnsealed(end.minus(1, ChronoUnit.DAYS), end)) {
        return false;
      }
      rows.dropDay(name);
      session.commit();
      return true;
    } catch (PersistenceException e) {
      // somebody reads it still: next time
      return false;
    }
  }
}
