package jamjar.store.normals;

import jamjar.core.baseline.Baseline;
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

  /**
   * Keeps what was learned of an instance in the place of what was learned before: all of it, or
   * nothing. A series that was not learned this time keeps what it has.
   *
   * @param learning hands over the baselines
   */
  public void keep(Learned learned, Consumer<Taking> learning) {
    ValueWriter writer = new ValueWriter();
    // learning takes seconds: only once it is done a connection is held
    List<NormalMapper.Row> rows = new ArrayList<>();
    learning.accept(
        (baseline, series) ->
            rows.add(new NormalMapper.Row(series, BaselineChunk.write(baseline, writer))));
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      NormalMapper to = session.getMapper(NormalMapper.class);
      rows.forEach(row -> to.keep(row.series(), row.body()));
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

  /** As {@link #read}, for a person who waits for it. */
  public void ask(int[] series, Taking taking) {
    read(asking, series, taking);
  }

  /** Hands over the baselines of series, those that there are, some at a time. */
  public void read(int[] series, Taking taking) {
    read(factory, series, taking);
  }

  private static void read(SqlSessionFactory through, int[] series, Taking taking) {
    ValueReader reader = new ValueReader();
    try (SqlSession session = through.openSession(true)) {
      NormalMapper from = session.getMapper(NormalMapper.class);
      for (int i = 0; i < series.length; i += AT_ONCE) {
        int[] some = Arrays.copyOfRange(series, i, Math.min(series.length, i + AT_ONCE));
        for (NormalMapper.Row row : from.baselines(some)) {
          try {
            taking.accept(BaselineChunk.read(row.body(), reader), row.series());
          } catch (CorruptChunk e) {
            // it is as if it were not learned yet, until it is
            LOG.warn(
                "event=baseline-unreadable series={} why=\"{}\"", row.series(), e.getMessage());
          }
        }
      }
    }
  }
}
