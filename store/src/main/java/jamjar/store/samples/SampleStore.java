package jamjar.store.samples;

import jamjar.core.chunk.SampleChunk;
import jamjar.core.chunk.SamplePacking;
import jamjar.core.session.Sample;
import jamjar.store.packed.PackedHours;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** Samples of sessions: kept one by one, packed together once their hour is over. */
public final class SampleStore {
  private static final String KIND = "sample";

  private final PackedHours<Sample> hours;

  /**
   * @param writer for packing
   * @param asking for what persons ask
   */
  public SampleStore(SqlSessionFactory writer, SqlSessionFactory asking) {
    this.hours =
        new PackedHours<>(
            writer,
            asking,
            new PackedHours.Form<>(KIND, Sample::at, SampleChunk::read, SamplesOfAnHour::new));
  }

  /** Thousands of sessions each second: packed as they come. */
  private static final class SamplesOfAnHour implements PackedHours.Packing<Sample> {
    private final SamplePacking packing = new SamplePacking();

    @Override
    public void add(Sample one) {
      packing.add(one);
    }

    @Override
    public int count() {
      return packing.count();
    }

    @Override
    public byte[] bytes() {
      return packing.bytes();
    }
  }

  /**
   * Writes a sample.
   *
   * @param body as {@link SampleChunk} packs it
   */
  public static void write(SqlSession batch, int instance, Instant at, byte[] body) {
    PackedHours.write(batch, KIND, instance, at, body);
  }

  /** Hands over the samples of a time, [from, to), in order of time. */
  public void between(int instance, Instant from, Instant to, Consumer<Sample> taking) {
    hours.between(instance, from, to, taking);
  }

  /** How much would be read of a time, packed, in bytes: what is not sealed yet is little. */
  public long bytes(int instance, Instant from, Instant to) {
    return hours.bytes(instance, from, to);
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

  /** Puts the samples of an hour in, packed; an hour that is there already is left as it is. */
  public void put(int instance, Instant hour, List<Sample> samples) {
    hours.put(instance, hour, samples);
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
