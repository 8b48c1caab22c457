package jamjar.store.readings;

import jamjar.core.chart.Steps;
import jamjar.core.chunk.StepChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import jamjar.store.steps.StepMapper;
import jamjar.store.steps.StepMapper.Month;
import jamjar.store.steps.StepRow;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/**
 * Puts the days of a month that is over into one row a series, so that a year is few rows. A day
 * that is made again afterwards lies beside, counts instead, and is put in next time.
 */
final class Months {
  static final long DAY = Duration.ofDays(1).toMillis();

  private static final int[] WIDTHS = {15, 360};
  private static final int AT_ONCE = 64;

  private final SqlSessionFactory factory;
  private final ValueReader reader = new ValueReader();
  private final ValueWriter writer = new ValueWriter();

  Months(SqlSessionFactory factory) {
    this.factory = factory;
  }

  /** When the month of a moment began, UTC. */
  static Instant begin(Instant at) {
    return at.atZone(ZoneOffset.UTC).truncatedTo(ChronoUnit.DAYS).withDayOfMonth(1).toInstant();
  }

  List<Month> toMerge() {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(StepMapper.class).toMerge();
    }
  }

  /** All of one month, in one transaction. */
  void merge(Month month) {
    Instant from = month.fromAt();
    Instant to = from.atZone(ZoneOffset.UTC).plusMonths(1).toInstant();
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      StepMapper steps = session.getMapper(StepMapper.class);
      int[] series = steps.ofMonth(month, to);
      for (int i = 0; i < series.length; i += AT_ONCE) {
        int[] some = Arrays.copyOfRange(series, i, Math.min(series.length, i + AT_ONCE));
        for (int minutes : WIDTHS) {
          merge(steps, month, some, minutes, from, to);
        }
        steps.removeDays(some, month.source(), from, to);
      }
      session.commit();
    }
  }

  private void merge(
      StepMapper steps, Month month, int[] series, int minutes, Instant from, Instant to) {
    Map<Integer, List<Steps>> parts = new HashMap<>();
    List<StepRow> rows = new ArrayList<>(steps.months(series, minutes, from, from));
    rows.addAll(steps.days(series, minutes, from, to.minusMillis(1)));
    for (StepRow row : rows) {
      if (row.source() == month.source()) {
        parts.computeIfAbsent(row.series(), id -> new ArrayList<>()).add(row.steps(reader));
      }
    }
    parts.forEach(
        (id, theirs) -> {
          Steps whole = Steps.together(theirs, from.toEpochMilli(), to.toEpochMilli());
          steps.addMonth(
              new StepRow(id, month.source(), minutes, from, StepChunk.write(whole, writer)));
        });
  }
}
