package jamjar.store.normals;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.chunk.BaselineChunk;
import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.ObjIntConsumer;
import java.util.stream.IntStream;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What is normal, as it was learned: kept, so that a restart learns nothing anew. */
public final class NormalStore {
  private static final Logger LOG = LoggerFactory.getLogger(NormalStore.class);

  /** So many lie on the heap at once. */
  private static final int AT_ONCE = 64;

  private static final int DAYS = Timeline.SLOTS / Timeline.QUARTERS;

  private final SqlSessionFactory factory;
  private final SqlSessionFactory asking;

  /**
   * @param asking for what persons ask
   */
  public NormalStore(SqlSessionFactory factory, SqlSessionFactory asking) {
    this.factory = factory;
    this.asking = asking;
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(NormalMapper.class);
  }

  /** When an instance was learned last; empty for never. */
  public Optional<Learned> learned(int instance) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(NormalMapper.class).learned(instance);
    }
  }

  /** Takes the baseline of one series after the other. */
  @FunctionalInterface
  public interface Taking extends ObjIntConsumer<Baseline> {}

  /** Takes, beside whole baselines, single days of them. */
  public interface Keeping extends Taking {
    /**
     * @param slots the 96 of the day
     * @param weekday 0 for Monday
     */
    void day(Normal[] slots, int weekday, int series);
  }

  /**
   * Keeps what was learned of an instance in the place of what was learned before: all of it, or
   * nothing. A series that was not learned this time keeps what it has.
   *
   * @param learning hands over the baselines
   */
  public void keep(Learned learned, Consumer<Keeping> learning) {
    ValueWriter writer = new ValueWriter();
    // learning takes seconds: only once it is done a connection is held
    List<NormalMapper.Day> days = new ArrayList<>();
    learning.accept(
        new Keeping() {
          @Override
          public void accept(Baseline baseline, int series) {
            for (int weekday = 0; weekday < DAYS; weekday++) {
              Normal[] slots = new Normal[Timeline.QUARTERS];
              int first = weekday * Timeline.QUARTERS;
              Arrays.setAll(slots, i -> baseline.at(first + i));
              day(slots, weekday, series);
            }
          }

          @Override
          public void day(Normal[] slots, int weekday, int series) {
            days.add(new NormalMapper.Day(series, weekday, BaselineChunk.write(slots, writer)));
          }
        });
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      NormalMapper to = session.getMapper(NormalMapper.class);
      days.forEach(to::keep);
      to.learn(learned.instance(), learned.at(), learned.zone(), learned.minutes());
      session.commit();
    }
  }

  /**
   * Keeps baselines by a name: all of them, or nothing.
   *
   * @param row its number is given here
   * @param learning hands over the baselines
   */
  public void freeze(FrozenRow row, Consumer<Taking> learning) {
    ValueWriter writer = new ValueWriter();
    List<NormalMapper.Row> rows = new ArrayList<>();
    learning.accept(
        (baseline, series) ->
            rows.add(new NormalMapper.Row(series, BaselineChunk.write(baseline, writer))));
    try (SqlSession session = factory.openSession(false)) {
      NormalMapper to = session.getMapper(NormalMapper.class);
      int id = to.freeze(row);
      rows.forEach(one -> to.keepFrozen(id, one.series(), one.body()));
      session.commit();
    }
  }

  /** What is kept by a name of an instance, in the order in which it was made. */
  public List<FrozenRow> frozen(int instance) {
    try (SqlSession session = asking.openSession(true)) {
      return session.getMapper(NormalMapper.class).frozen(instance);
    }
  }

  /** The baseline of one series that is kept by a name; empty where there is none. */
  public Optional<Baseline> frozen(int frozen, int series) {
    try (SqlSession session = asking.openSession(true)) {
      return session.getMapper(NormalMapper.class).frozenOf(frozen, series).stream()
          .map(row -> BaselineChunk.read(row.body(), new ValueReader()))
          .findFirst();
    }
  }

  /**
   * Takes away what is kept by a name.
   *
   * @return whether there was something
   */
  public boolean thaw(int instance, int id) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(NormalMapper.class).thaw(instance, id) > 0;
    }
  }

  /**
   * Drops what was learned of series that were gone for good, or with their instance, by then.
   *
   * @return of how many
   */
  public int forget(Instant by) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(NormalMapper.class).forget(by);
    }
  }

  /** The baseline of one series; empty where it was never learned. */
  public Optional<Baseline> of(int series) {
    Baseline[] found = new Baseline[1];
    ask(new int[] {series}, (baseline, id) -> found[0] = baseline);
    return Optional.ofNullable(found[0]);
  }

  /** Those of some series of which nothing was learned yet. */
  public int[] without(int[] series) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(NormalMapper.class).without(series).stream()
          .mapToInt(Integer::intValue)
          .toArray();
    }
  }

  /** As {@link #read}, for a person who waits for it; every day of the week. */
  public void ask(int[] series, Taking taking) {
    read(asking, series, IntStream.range(0, DAYS).toArray(), taking);
  }

  /** As {@link #read}, for a person who waits for it. */
  public void ask(int[] series, int[] weekdays, Taking taking) {
    read(asking, series, weekdays, taking);
  }

  /**
   * Hands over the baselines of series, those that there are, some at a time.
   *
   * @param weekdays which days of them, 0 for Monday: on the others nothing is known
   */
  public void read(int[] series, int[] weekdays, Taking taking) {
    read(factory, series, weekdays, taking);
  }

  private static void read(SqlSessionFactory through, int[] series, int[] weekdays, Taking taking) {
    ValueReader reader = new ValueReader();
    try (SqlSession session = through.openSession(true)) {
      NormalMapper from = session.getMapper(NormalMapper.class);
      for (int i = 0; i < series.length; i += AT_ONCE) {
        int[] some = Arrays.copyOfRange(series, i, Math.min(series.length, i + AT_ONCE));
        List<NormalMapper.Day> days = from.baselines(some, weekdays);
        int end;
        for (int first = 0; first < days.size(); first = end) {
          int of = days.get(first).series();
          end = first;
          while (end < days.size() && days.get(end).series() == of) {
            end++;
          }
          together(days.subList(first, end), reader)
              .ifPresent(baseline -> taking.accept(baseline, of));
        }
      }
    }
  }

  private static Optional<Baseline> together(List<NormalMapper.Day> days, ValueReader reader) {
    Normal[] slots = new Normal[Timeline.SLOTS];
    Arrays.fill(slots, Normal.NONE);
    for (NormalMapper.Day day : days) {
      try {
        Normal[] theirs = BaselineChunk.read(day.body(), Timeline.QUARTERS, reader);
        System.arraycopy(theirs, 0, slots, day.weekday() * Timeline.QUARTERS, theirs.length);
      } catch (CorruptChunk e) {
        // it is as if it were not learned yet, until it is
        LOG.warn("event=baseline-unreadable series={} why=\"{}\"", day.series(), e.getMessage());
        return Optional.empty();
      }
    }
    return Optional.of(Baseline.of(slots));
  }
}
