package jamjar.store.packed;

import jamjar.core.chunk.CorruptChunk;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.TransactionIsolationLevel;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What an instance tells moment by moment: kept one by one, packed together once its hour is over.
 *
 * @param <T> what is told of a moment
 */
public final class PackedHours<T> {
  private static final Logger LOG = LoggerFactory.getLogger(PackedHours.class);

  /** So long after its end an hour is packed: what is kept later is packed into it anew. */
  private static final Duration REST = Duration.ofMinutes(10);

  /** So many hours lie on the heap at once. */
  private static final int AT_ONCE = 4;

  private final SqlSessionFactory writer;
  private final SqlSessionFactory asking;
  private final Form<T> form;

  /**
   * How it is packed.
   *
   * @param kind name of the table; that of its hours has _hour behind it
   * @param at the moment of one
   * @param packing takes those of an hour, in order of time
   */
  public record Form<T>(
      String kind, Function<T, Instant> at, Reader<T> reader, Supplier<Packing<T>> packing) {
    byte[] pack(Iterable<T> all) {
      Packing<T> packing = packing().get();
      all.forEach(packing::add);
      return packing.bytes();
    }
  }

  /** Hands over what is packed, one after the other. */
  @FunctionalInterface
  public interface Reader<T> {
    /**
     * @throws CorruptChunk when the bytes are none of these
     */
    void read(byte[] body, Consumer<T> taking);
  }

  /** Packs what it takes. */
  public interface Packing<T> {
    void add(T one);

    int count();

    byte[] bytes();

    /** In the transaction in which the hour is written. */
    default void also(SqlSession session, int instance, Instant hour) {}
  }

  /**
   * @param writer for packing
   * @param asking for what persons ask
   */
  public PackedHours(SqlSessionFactory writer, SqlSessionFactory asking, Form<T> form) {
    this.writer = writer;
    this.asking = asking;
    this.form = form;
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(PackedMapper.class);
  }

  /** Writes what is of one moment, packed; what is there already is left as it is. */
  public static void write(SqlSession batch, String kind, int instance, Instant at, byte[] body) {
    batch.getMapper(PackedMapper.class).add(kind, instance, at, body);
  }

  /** Hands over all of a time, [from, to), in order of time. */
  public void between(int instance, Instant from, Instant to, Consumer<T> taking) {
    Consumer<T> within =
        one -> {
          Instant at = form.at().apply(one);
          if (!at.isBefore(from) && at.isBefore(to)) {
            taking.accept(one);
          }
        };
    // what is packed meanwhile is seen in one place or the other, and once
    try (SqlSession session = asking.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      PackedMapper mapper = session.getMapper(PackedMapper.class);
      Instant after = Instant.EPOCH;
      List<PackedMapper.Row> hours;
      do {
        hours = mapper.hours(form.kind(), instance, from, to, after, AT_ONCE);
        for (PackedMapper.Row hour : hours) {
          read(hour, within);
          after = hour.at().plusSeconds(1);
        }
      } while (hours.size() == AT_ONCE);
      mapper.rows(form.kind(), instance, from, to).forEach(row -> read(row, within));
    }
  }

  /** How much would be read of a time, packed, in bytes: what is not sealed yet is little. */
  public long bytes(int instance, Instant from, Instant to) {
    try (SqlSession session = asking.openSession(true)) {
      return session.getMapper(PackedMapper.class).bytes(form.kind(), instance, from, to);
    }
  }

  private void read(PackedMapper.Row row, Consumer<T> taking) {
    try {
      form.reader().read(row.body(), taking);
    } catch (CorruptChunk e) {
      LOG.warn(
          "event=unreadable kind={} instance={} at={} why=\"{}\"",
          form.kind(),
          row.instance(),
          row.at(),
          e.getMessage());
    }
  }

  /** Puts those of an hour in, packed; an hour that is there already is left as it is. */
  public void put(int instance, Instant hour, List<T> all) {
    Packing<T> packing = form.packing().get();
    all.forEach(packing::add);
    try (SqlSession session = writer.openSession(ExecutorType.SIMPLE, false)) {
      PackedMapper mapper = session.getMapper(PackedMapper.class);
      if (mapper.put(form.kind(), instance, hour, packing.count(), packing.bytes()) > 0) {
        packing.also(session, instance, hour);
      }
      session.commit();
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
      PackedMapper mapper = session.getMapper(PackedMapper.class);
      Optional<PackedMapper.Row> oldest = mapper.oldest(form.kind(), by);
      if (oldest.isEmpty()) {
        return false;
      }
      int instance = oldest.get().instance();
      Instant from = oldest.get().at().truncatedTo(ChronoUnit.HOURS);
      Instant to = from.plus(1, ChronoUnit.HOURS);
      Map<Instant, byte[]> alone = new TreeMap<>();
      // what came late is packed together with what was packed before
      mapper
          .hour(form.kind(), instance, from)
          .ifPresent(
              body ->
                  read(
                      new PackedMapper.Row(instance, from, body),
                      one -> alone.put(form.at().apply(one), form.pack(List.of(one)))));
      mapper
          .take(form.kind(), instance, from, to)
          .forEach(row -> alone.putIfAbsent(row.at(), row.body()));
      Packing<T> packing = form.packing().get();
      alone.forEach((at, body) -> read(new PackedMapper.Row(instance, at, body), packing::add));
      mapper.seal(form.kind(), instance, from, packing.count(), packing.bytes());
      packing.also(session, instance, from);
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
      return session.getMapper(PackedMapper.class).age(form.kind(), before);
    }
  }
}
