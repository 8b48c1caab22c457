package jamjar.store.statements;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.CountedChunk;
import jamjar.core.statement.Counted;
import jamjar.store.packed.PackedHours;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What engines counted of their statements: by the minute, by the hour for longer, and the texts of
 * all that samples and counts tell of.
 */
public final class StatementStore {
  private static final Logger LOG = LoggerFactory.getLogger(StatementStore.class);
  private static final String KIND = "statements";

  private final SqlSessionFactory writer;
  private final SqlSessionFactory asking;
  private final PackedHours<Counted> minutes;

  /** A text, and when it was seen first. */
  public record Text(String text, Instant firstSeen) {}

  /**
   * @param writer for packing
   * @param asking for what persons ask
   */
  public StatementStore(SqlSessionFactory writer, SqlSessionFactory asking) {
    this.writer = writer;
    this.asking = asking;
    this.minutes =
        new PackedHours<>(
            writer,
            asking,
            new PackedHours.Form<>(KIND, Counted::at, CountedChunk::read, MinutesOfAnHour::new));
  }

  /** The minutes of an hour, with their sum. */
  private static final class MinutesOfAnHour implements PackedHours.Packing<Counted> {
    private final List<Counted> all = new ArrayList<>();
    private final Counted.Sum sum = new Counted.Sum();

    @Override
    public void add(Counted one) {
      all.add(one);
      sum.add(one);
    }

    @Override
    public int count() {
      return all.size();
    }

    @Override
    public byte[] bytes() {
      return CountedChunk.write(all);
    }

    @Override
    public void also(SqlSession session, int instance, Instant hour) {
      Instant last = all.isEmpty() ? hour : all.get(all.size() - 1).at();
      session
          .getMapper(StatementMapper.class)
          .sum(instance, hour, CountedChunk.write(List.of(sum.until(last))));
    }
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(StatementMapper.class);
  }

  /**
   * Writes what was counted until a moment, with the texts that are new in it.
   *
   * @param body as {@link CountedChunk} packs it
   */
  public static void write(
      SqlSession batch, int instance, Instant at, byte[] body, Map<Long, String> texts) {
    PackedHours.write(batch, KIND, instance, at, body);
    tell(batch, instance, texts, at);
  }

  /** Writes texts, by fingerprint. */
  public static void tell(SqlSession batch, int instance, Map<Long, String> texts, Instant at) {
    StatementMapper mapper = batch.getMapper(StatementMapper.class);
    // always in one order, so that two writers never wait for each other
    new TreeMap<>(texts).forEach((key, text) -> mapper.tell(instance, key, text, at));
  }

  /** As above. */
  public void tell(int instance, Map<Long, String> texts, Instant at) {
    try (SqlSession session = writer.openSession(true)) {
      tell(session, instance, texts, at);
    }
  }

  /** Hands over what was counted in minutes that end in [from, to), in order of time. */
  public void between(int instance, Instant from, Instant to, Consumer<Counted> taking) {
    minutes.between(instance, from, to, taking);
  }

  /**
   * Hands over what was counted in minutes that end in [from, to), in order of time; what is of a
   * whole hour as its sum.
   */
  public void sums(int instance, Instant from, Instant to, Consumer<Counted> taking) {
    Instant first = from.minusNanos(1).truncatedTo(ChronoUnit.HOURS).plus(Duration.ofHours(1));
    Instant last = to.truncatedTo(ChronoUnit.HOURS);
    if (!first.isBefore(last)) {
      between(instance, from, to, taking);
      return;
    }
    between(instance, from, first, taking);
    Instant next = first;
    List<StatementMapper.SumRow> hours;
    try (SqlSession session = asking.openSession(true)) {
      hours = session.getMapper(StatementMapper.class).sums(instance, first, last);
    }
    for (StatementMapper.SumRow hour : hours) {
      // what is not packed yet lies between, or behind them
      if (next.isBefore(hour.fromAt())) {
        between(instance, next, hour.fromAt(), taking);
      }
      read(instance, hour, taking);
      next = hour.fromAt().plus(Duration.ofHours(1));
    }
    between(instance, next, to, taking);
  }

  private static void read(int instance, StatementMapper.SumRow hour, Consumer<Counted> taking) {
    try {
      CountedChunk.read(hour.body(), taking);
    } catch (CorruptChunk e) {
      LOG.warn(
          "event=unreadable kind={} instance={} at={} why=\"{}\"",
          KIND,
          instance,
          hour.fromAt(),
          e.getMessage());
    }
  }

  /** Puts the minutes of an hour in, packed; an hour that is there already is left as it is. */
  public void put(int instance, Instant hour, List<Counted> all) {
    minutes.put(instance, hour, all);
  }

  /** The texts of statements, as far as they are known. */
  public Map<Long, String> texts(int instance, Collection<Long> fingerprints) {
    Map<Long, String> texts = new HashMap<>();
    seen(instance, fingerprints).forEach((key, text) -> texts.put(key, text.text()));
    return texts;
  }

  /** As above, with when they were seen first. */
  public Map<Long, Text> seen(int instance, Collection<Long> fingerprints) {
    Map<Long, Text> texts = new HashMap<>();
    if (!fingerprints.isEmpty()) {
      try (SqlSession session = asking.openSession(true)) {
        session
            .getMapper(StatementMapper.class)
            .texts(instance, fingerprints.stream().mapToLong(Long::longValue).toArray())
            .forEach(row -> texts.put(row.fingerprint(), new Text(row.body(), row.firstAt())));
      }
    }
    return texts;
  }

  /** Which statements of an instance are followed; empty where nobody has chosen yet. */
  public Optional<FollowedRow> followed(int instance) {
    try (SqlSession session = writer.openSession(true)) {
      return session.getMapper(StatementMapper.class).followed(instance);
    }
  }

  /** Keeps which statements of an instance are followed. */
  public void follow(FollowedRow row) {
    try (SqlSession session = writer.openSession(true)) {
      session.getMapper(StatementMapper.class).follow(row);
    }
  }

  /**
   * Packs the hours that are over.
   *
   * @return how many
   */
  public int seal(Instant now) {
    return minutes.seal(now);
  }

  /**
   * Drops minutes that are older.
   *
   * @param sumsBefore drops sums of hours, and texts that nothing told of since
   * @return how many hours
   */
  public int age(Instant before, Instant sumsBefore) {
    try (SqlSession session = writer.openSession(true)) {
      StatementMapper mapper = session.getMapper(StatementMapper.class);
      mapper.ageSums(sumsBefore);
      mapper.ageTexts(sumsBefore);
    }
    return minutes.age(before);
  }
}
