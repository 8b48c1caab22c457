package jamjar.store.samples;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.SampleChunk;
import jamjar.core.chunk.SamplePacking;
import jamjar.core.session.Sample;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.TransactionIsolationLevel;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Samples of sessions: kept one by one, packed together once their hour is over. */
public final class SampleStore {
  private static final Logger LOG = LoggerFactory.getLogger(SampleStore.class);

  /** So long after its end an hour is packed: what is kept later is packed into it anew. */
  private static final Duration REST = Duration.ofMinutes(10);

  /** So many hours lie on the heap at once. */
  private static final int AT_ONCE = 4;

  private final SqlSessionFactory writer;
  private final SqlSessionFactory asking;

  /**
   * @param writer for packing
   * @param asking for what persons ask
   */
  public SampleStore(SqlSessionFactory writer, SqlSessionFactory asking) {
    this.writer = writer;
    this.asking = asking;
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(SampleMapper.class);
  }

  /**
   * Writes a sample with the texts that are new in it.
   *
   * @param body as {@link SampleChunk} packs it
   */
  public static void write(
      SqlSession batch, int instance, Instant at, byte[] body, Map<Long, String> texts) {
    SampleMapper mapper = batch.getMapper(SampleMapper.class);
    mapper.add(instance, at, body);
    // always in one order, so that two writers never wait for each other
    new TreeMap<>(texts).forEach((key, text) -> mapper.tell(instance, key, text, at));
  }

  /** Hands over the samples of a time, [from, to), in order of time. */
  public void between(int instance, Instant from, Instant to, Consumer<Sample> taking) {
    Consumer<Sample> within =
        sample -> {
          if (!sample.at().isBefore(from) && sample.at().isBefore(to)) {
            taking.accept(sample);
          }
        };
    // what is packed meanwhile is seen in one place or the other, and once
    try (SqlSession session = asking.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      SampleMapper mapper = session.getMapper(SampleMapper.class);
      Instant after = Instant.EPOCH;
      List<SampleMapper.Row> hours;
      do {
        hours = mapper.hours(instance, from, to, after, AT_ONCE);
        for (SampleMapper.Row hour : hours) {
          read(hour, within);
          after = hour.at().plusSeconds(1);
        }
      } while (hours.size() == AT_ONCE);
      mapper.rows(instance, from, to).forEach(row -> read(row, within));
    }
  }

  /** How much would be read of a time, packed, in bytes: what is not sealed yet is little. */
  public long bytes(int instance, Instant from, Instant to) {
    try (SqlSession session = asking.openSession(true)) {
      return session.getMapper(SampleMapper.class).bytes(instance, from, to);
    }
  }

  private static void read(SampleMapper.Row row, Consumer<Sample> taking) {
    try {
      SampleChunk.read(row.body(), taking);
    } catch (CorruptChunk e) {
      LOG.warn(
          "event=samples-unreadable instance={} at={} why=\"{}\"",
          row.instance(),
          row.at(),
          e.getMessage());
    }
  }

  /** The last sample until a moment, that included; empty where there is none for so long. */
  public Optional<Sample> at(int instance, Instant at, Duration within) {
    return lastTwo(instance, at, within).stream().findFirst();
  }

  /** As above with the one before it, if that is within that time too; the later one first. */
  public List<Sample> lastTwo(int instance, Instant at, Duration within) {
    Deque<Sample> last = new ArrayDeque<>();
    between(
        instance,
        at.minus(within),
        at.plusNanos(1000),
        sample -> {
          last.addFirst(sample);
          if (last.size() > 2) {
            last.removeLast();
          }
        });
    return List.copyOf(last);
  }

  /** The texts of statements, as far as they are known. */
  public Map<Long, String> texts(int instance, Collection<Long> fingerprints) {
    Map<Long, String> texts = new HashMap<>();
    if (!fingerprints.isEmpty()) {
      try (SqlSession session = asking.openSession(true)) {
        session
            .getMapper(SampleMapper.class)
            .texts(instance, fingerprints.stream().mapToLong(Long::longValue).toArray())
            .forEach(text -> texts.put(text.fingerprint(), text.body()));
      }
    }
    return texts;
  }

  /** Puts the samples of an hour in, packed; an hour that is there already is left as it is. */
  public void put(int instance, Instant hour, List<Sample> samples) {
    try (SqlSession session = writer.openSession(true)) {
      session
          .getMapper(SampleMapper.class)
          .put(instance, hour, samples.size(), SampleChunk.write(samples));
    }
  }

  /** Keeps texts of statements, by fingerprint. */
  public void tell(int instance, Map<Long, String> texts, Instant at) {
    try (SqlSession session = writer.openSession(true)) {
      SampleMapper mapper = session.getMapper(SampleMapper.class);
      new TreeMap<>(texts).forEach((key, text) -> mapper.tell(instance, key, text, at));
    }
  }

  /**
   * Packs the hours that are over.
   *
   * @return how many
   */
  public int seal(Instant now) {
    int sealed = 0;
    while (sealOne(now.minus(REST))) {
      sealed++;
    }
    return sealed;
  }

  private boolean sealOne(Instant by) {
    try (SqlSession session = writer.openSession(ExecutorType.SIMPLE, false)) {
      SampleMapper mapper = session.getMapper(SampleMapper.class);
      Optional<SampleMapper.Row> oldest = mapper.oldest(by);
      if (oldest.isEmpty()) {
        return false;
      }
      int instance = oldest.get().instance();
      Instant from = oldest.get().at().truncatedTo(ChronoUnit.HOURS);
      Instant to = from.plus(1, ChronoUnit.HOURS);
      Map<Instant, byte[]> alone = new TreeMap<>();
      // what came late is packed together with what was packed before
      mapper
          .hour(instance, from)
          .ifPresent(
              body ->
                  read(
                      new SampleMapper.Row(instance, from, body),
                      sample -> alone.put(sample.at(), SampleChunk.write(List.of(sample)))));
      mapper.take(instance, from, to).forEach(row -> alone.put(row.at(), row.body()));
      SamplePacking packing = new SamplePacking();
      alone.forEach((at, body) -> read(new SampleMapper.Row(instance, at, body), packing::add));
      mapper.seal(instance, from, packing.count(), packing.bytes());
      session.commit();
      return true;
    }
  }

  /**
   * Drops what is older.
   *
   * @return how many hours
   */
  public int age(Instant before) {
    try (SqlSession session = writer.openSession(true)) {
      SampleMapper mapper = session.getMapper(SampleMapper.class);
      mapper.ageTexts(before);
      return mapper.age(before);
    }
  }
}
