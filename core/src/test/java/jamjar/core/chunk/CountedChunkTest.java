package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.SortedMap;
import java.util.TreeMap;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class CountedChunkTest {
  private static final Instant BEGIN = Instant.parse("2026-11-23T02:00:00.123Z");

  private static List<Counted> minutes(long seed, int statements, int count) {
    Random random = new Random(seed);
    List<Counted> all = new ArrayList<>();
    for (int n = 0; n < count; n++) {
      SortedMap<StatementKey, StatementCounts> some = new TreeMap<>();
      for (int i = 0; i < statements; i++) {
        if (random.nextInt(4) > 0) {
          StatementKey key =
              new StatementKey(
                  "user_" + i % 3, "db_" + i % 2, (i - 3) * 1_234_567_890_123_456L, i % 5 > 0);
          some.put(
              key,
              new StatementCounts(
                  random.nextInt(1000),
                  random.nextLong() >>> 20,
                  random.nextInt(),
                  random.nextInt(50),
                  0,
                  random.nextInt(3)));
        }
      }
      all.add(
          new Counted(
              BEGIN.plusMillis(60_000L * n + random.nextInt(500)),
              60_000 + random.nextInt(500),
              random.nextInt(2),
              some));
    }
    return all;
  }

  private static List<Counted> read(byte[] bytes) {
    List<Counted> all = new ArrayList<>();
    CountedChunk.read(bytes, all::add);
    return all;
  }

  @Property(tries = 50)
  void what_is_packed_is_read_again(@ForAll long seed) {
    Random random = new Random(seed);
    List<Counted> all = minutes(seed, random.nextInt(40), random.nextInt(20));
    assertThat(read(CountedChunk.write(all))).isEqualTo(all);
  }

  @Property(tries = 50)
  void bytes_that_are_not_whole_are_refused_and_nothing_else_happens(@ForAll long seed) {
    Random random = new Random(seed);
    byte[] whole = CountedChunk.write(minutes(seed, 10, 10));
    byte[] cut = Arrays.copyOf(whole, random.nextInt(whole.length / 2));
    assertThatThrownBy(() -> read(cut)).isInstanceOf(CorruptChunk.class);
    byte[] changed = whole.clone();
    changed[random.nextInt(changed.length)] ^= (byte) (1 << random.nextInt(8));
    try {
      read(changed);
    } catch (CorruptChunk expected) {
      assertThat(expected).hasMessageNotContaining("null");
    }
  }

  @Test
  void samples_of_sessions_are_none_of_these() {
    byte[] samples = SampleChunk.write(SampleChunkTest.samples(1, 10, 3));
    assertThatThrownBy(() -> read(samples)).isInstanceOf(CorruptChunk.class);
    assertThatThrownBy(() -> SampleChunk.read(CountedChunk.write(minutes(1, 10, 3))))
        .isInstanceOf(CorruptChunk.class);
  }

  @Test
  void an_hour_costs_less_than_its_minutes_and_sums_add_up() {
    List<Counted> minutes = minutes(7, 30, 60);
    int alone = minutes.stream().mapToInt(m -> CountedChunk.write(List.of(m)).length).sum();
    assertThat(CountedChunk.write(minutes).length).isLessThan(alone * 2 / 3);
    Counted.Sum sum = new Counted.Sum();
    minutes.forEach(sum::add);
    Counted hour = sum.until(BEGIN);
    long calls =
        minutes.stream()
            .flatMap(m -> m.statements().values().stream())
            .mapToLong(StatementCounts::calls)
            .sum();
    assertThat(hour.statements().values().stream().mapToLong(StatementCounts::calls).sum())
        .isEqualTo(calls);
    assertThat(hour.elapsedMs()).isEqualTo(minutes.stream().mapToLong(Counted::elapsedMs).sum());
  }
}
