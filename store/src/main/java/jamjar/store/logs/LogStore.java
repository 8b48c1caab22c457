package jamjar.store.logs;

import jamjar.core.chunk.LoggedChunk;
import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import jamjar.store.packed.PackedHours;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** What was read of the logs of engines. */
public final class LogStore {
  private static final String KIND = "logged";

  /**
   * A line stands in what was read so long after it at most: beyond that it is looked for nowhere.
   */
  private static final Duration READ_WITHIN = Duration.ofMinutes(10);

  private final PackedHours<Logged> hours;

  /**
   * @param writer for packing
   * @param asking for what persons ask
   */
  public LogStore(SqlSessionFactory writer, SqlSessionFactory asking) {
    this.hours =
        new PackedHours<>(
            writer,
            asking,
            new PackedHours.Form<>(KIND, Logged::at, LoggedChunk::read, LinesOfAnHour::new));
  }

  private static final class LinesOfAnHour implements PackedHours.Packing<Logged> {
    private final List<Logged> all = new ArrayList<>();

    @Override
    public void add(Logged one) {
      all.add(one);
    }

    @Override
    public int count() {
      return all.size();
    }

    @Override
    public byte[] bytes() {
      return LoggedChunk.write(all);
    }
  }

  /**
   * Writes what was read at a moment.
   *
   * @param body as {@link LoggedChunk} packs it
   */
  public static void write(SqlSession batch, int instance, Instant at, byte[] body) {
    PackedHours.write(batch, KIND, instance, at, body);
  }

  /** Hands over what was read in a time, [from, to), in order of time. */
  public void between(int instance, Instant from, Instant to, Consumer<Logged> taking) {
    hours.between(instance, from, to, taking);
  }

  /** How much would be read of a time, packed, in bytes: what is not sealed yet is little. */
  public long bytes(int instance, Instant from, Instant to) {
    return hours.bytes(instance, from, to);
  }

  /** Hands over the lines that were written in a time, [from, to). */
  public void lines(int instance, Instant from, Instant to, Consumer<LogEntry> taking) {
    long begin = from.toEpochMilli();
    long end = to.toEpochMilli();
    between(
        instance,
        from,
        to.plus(READ_WITHIN),
        logged ->
            logged.entries().stream()
                .filter(entry -> entry.at() >= begin && entry.at() < end)
                .forEach(taking));
  }

  /** What was read last, of the day before a moment. */
  public Optional<Logged> last(int instance, Instant now) {
    Logged[] last = new Logged[1];
    between(instance, now.minus(Duration.ofDays(1)), now, logged -> last[0] = logged);
    return Optional.ofNullable(last[0]);
  }

  /** Puts those of an hour in, packed; an hour that is there already is left as it is. */
  public void put(int instance, Instant hour, List<Logged> all) {
    hours.put(instance, hour, all);
  }

  /**
   * Packs the hours that are over.
   *
   * @return how many
   */
  public int seal(Instant now) {
    return hours.seal(now);
  }

  /**
   * Drops what is older.
   *
   * @return how many hours
   */
  public int age(Instant before) {
    return hours.age(before);
  }
}
