package jamjar.store.readings;

import jamjar.store.chunks.ChunkMapper;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Map;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** The tables in which packed days lie, a month each of those that are kept for the same time. */
final class MonthTables {
  private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("yyyyMM");
  private static final Map<String, String> PARTS =
      Map.of("span_days", "span", "chunk_days", "chunk", "step_1", "step");

  private final SqlSessionFactory factory;

  MonthTables(SqlSessionFactory factory) {
    this.factory = factory;
  }

  /**
   * Makes those of a moment, unless they are there.
   *
   * @param keep for how long: the number of the class
   */
  void make(Instant at, int keep) {
    LocalDate month = LocalDate.ofInstant(at, ZoneOffset.UTC).withDayOfMonth(1);
    String name = month.format(MONTH);
    String from = month + " 00:00+00";
    String to = month.plusMonths(1) + " 00:00+00";
    PARTS.forEach(
        (days, like) -> {
          String in = days + "_" + keep;
          try (SqlSession session = factory.openSession(false)) {
            // two processes may make it at once
            session.getMapper(ReadingMapper.class).lockPartitions();
            ChunkMapper maker = session.getMapper(ChunkMapper.class);
            if (!maker.exists(in + "_" + name)) {
              maker.month(like, in, name, from, to);
              session.commit();
            }
          }
        });
  }
}
