package jamjar.store.normals;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.chunk.BaselineChunk;
import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.ObjIntConsumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
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

  private static final int[] WHOLE = IntStream.range(0, DAYS).toArray();

  /** Thirteen months. */
  private static final Duration LONGEST = Duration.ofDays(396);

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

  private record Packed(int series, int weekday, boolean succeeds, byte[] body) {}

  /** Takes what was normal through time of one series after the other. */
  @FunctionalInterface
  public interface TakingHistory extends ObjIntConsumer<BaselineHistory> {}

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

    /** As above, and what was in force until then stays known. */
    void succeeds(Normal[] slots, int weekday, int series);
  }

  /**
   * Keeps what was learned of an instance in the place of what was learned before: all of it, or
   * nothing. A series that was not learned this time keeps what it has.
   *
   * @param inForce from when on it is in force: asked once all is learned
   * @param learning hands over the baselines
   * @return from when on it is in force
   */
  public Instant keep(Learned learned, Supplier<Instant> inForce, Consumer<Keeping> learning) {
    ValueWriter writer = new ValueWriter();
    // learning takes seconds: only once it is done a connection is held
    List<Packed> days = new ArrayList<>();
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
            add(slots, weekday, series, false);
          }

          @Override
          public void succeeds(Normal[] slots, int weekday, int series) {
            add(slots, weekday, series, true);
          }

          private void add(Normal[] slots, int weekday, int series, boolean succeeds) {
            days.add(new Packed(series, weekday, succeeds, BaselineChunk.write(slots, writer)));
          }
        });
    Instant since = inForce.get();
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      NormalMapper to = session.getMapper(NormalMapper.class);
      days.stream()
          .filter(Packed::succeeds)
          .forEach(day -> to.remember(day.series(), day.weekday(), since));
      days.forEach(
          day -> to.keep(new NormalMapper.Day(day.series(), day.weekday(), since, day.body())));
      to.learn(learned.instance(), learned.at(), learned.zone(), learned.minutes());
      session.commit();
    }
    return since;
  }

  /** As above, in force as soon as it was learned. */
  public void keep(Learned learned, Consumer<Keeping> learning) {
    keep(learned, learned::at, learning);
  }

  /**
   * Drops what was in force so long ago that nobody asks for it any more: all of it after 13
   * months, and after a week what was in force for less than a week.
   *
   * @return how many days of baselines
   */
  public int thin(Instant now) {
    try (SqlSession session = factory.openSession(true)) {
      return session
          .getMapper(NormalMapper.class)
          .thin(now.minus(LONGEST), now.minus(Duration.ofDays(7)));
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
    return history(series, Instant.MAX).map(BaselineHistory::now);
  }

  /** What was normal for one series since then; empty where it was never learned. */
  public Optional<BaselineHistory> history(int series, Instant from) {
    BaselineHistory[] found = new BaselineHistory[1];
    ask(new int[] {series}, WHOLE, from, (history, id) -> found[0] = history);
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

  /** Hands over the baselines of series, those that there are, to a person who waits for it. */
  public void ask(int[] series, Taking taking) {
    ask(series, WHOLE, Instant.MAX, (history, id) -> taking.accept(history.now(), id));
  }

  /**
   * As {@link #read}, for a person who waits for it, with what was in force after a moment.
   *
   * @param weekdays which days of them, 0 for Monday: on the others nothing is known
   */
  public void ask(int[] series, int[] weekdays, Instant from, TakingHistory taking) {
    read(asking, series, weekdays, from, taking);
  }

  /**
   * Hands over the baselines of series, those that there are, some at a time.
   *
   * @param weekdays which days of them, 0 for Monday: on the others nothing is known
   */
  public void read(int[] series, int[] weekdays, Taking taking) {
    read(factory, series, weekdays, Instant.MAX, (history, id) -> taking.accept(history.now(), id));
  }

  private static void read(
      SqlSessionFactory through, int[] series, int[] weekdays, Instant from, TakingHistory taking) {
    ValueReader reader = new ValueReader();
    try (SqlSession session = through.openSession(true)) {
      NormalMapper mapper = session.getMapper(NormalMapper.class);
      for (int i = 0; i < series.length; i += AT_ONCE) {
        int[] some = Arrays.copyOfRange(series, i, Math.min(series.length, i + AT_ONCE));
        Map<Integer, List<NormalMapper.Before>> before =
            from.equals(Instant.MAX)
                ? Map.of()
                : mapper.before(some, weekdays, from).stream()
                    .collect(Collectors.groupingBy(NormalMapper.Before::series));
        List<NormalMapper.Day> days = mapper.baselines(some, weekdays);
        int end;
        for (int first = 0; first < days.size(); first = end) {
          int of = days.get(first).series();
          end = first;
          while (end < days.size() && days.get(end).series() == of) {
            end++;
          }
          together(days.subList(first, end), before.getOrDefault(of, List.of()), reader)
              .ifPresent(history -> taking.accept(history, of));
        }
      }
    }
  }

  private static Optional<BaselineHistory> together(
      List<NormalMapper.Day> days, List<NormalMapper.Before> before, ValueReader reader) {
    Normal[] slots = new Normal[Timeline.SLOTS];
    Arrays.fill(slots, Normal.NONE);
    long[] since = new long[DAYS];
    List<BaselineHistory.Before> earlier = new ArrayList<>(before.size());
    int series = days.get(0).series();
    try {
      for (NormalMapper.Day day : days) {
        Normal[] theirs = BaselineChunk.read(day.body(), Timeline.QUARTERS, reader);
        System.arraycopy(theirs, 0, slots, day.weekday() * Timeline.QUARTERS, theirs.length);
        since[day.weekday()] = day.since().toEpochMilli();
      }
      for (NormalMapper.Before one : before) {
        earlier.add(
            new BaselineHistory.Before(
                one.weekday(),
                one.since().toEpochMilli(),
                one.until().toEpochMilli(),
                BaselineChunk.read(one.body(), Timeline.QUARTERS, reader)));
      }
    } catch (CorruptChunk e) {
      // it is as if it were not learned yet, until it is
      LOG.warn("event=baseline-unreadable series={} why=\"{}\"", series, e.getMessage());
      return Optional.empty();
    }
    return Optional.of(new BaselineHistory(Baseline.of(slots), since, earlier));
  }
}
