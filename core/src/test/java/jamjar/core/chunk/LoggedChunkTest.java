package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

class LoggedChunkTest {
  private static final Instant BEGIN = Instant.parse("2026-11-26T02:10:00.123Z");

  private static List<Logged> reads(long seed) {
    Random random = new Random(seed);
    List<Logged> all = new ArrayList<>();
    for (int n = 0; n < random.nextInt(12); n++) {
      List<LogEntry> entries = new ArrayList<>();
      Instant at = BEGIN.plusSeconds(15L * n);
      for (int i = 0; i < random.nextInt(9); i++) {
        entries.add(
            new LogEntry(
                at.toEpochMilli() - random.nextInt(15_000),
                LogEntry.Kind.values()[random.nextInt(5)],
                random.nextInt(60_000),
                at.toEpochMilli() - random.nextInt(),
                "user_" + random.nextInt(3),
                "program",
                "bookings",
                random.nextInt(5) == 0 ? -1 : random.nextInt(9_000_000),
                random.nextLong(),
                "57014",
                "canceling statement due to statement timeout",
                random.nextInt(4) > 0
                    ? List.of()
                    : List.of(new LogEntry.Party(3, "ShareLock on transaction ?", 4, -5))));
      }
      all.add(
          new Logged(at, "log/a.csv", random.nextInt(1 << 30), n % 3 - 1L, n % 2 == 0, n, entries));
    }
    return all;
  }

  private static List<Logged> read(byte[] bytes) {
    List<Logged> all = new ArrayList<>();
    LoggedChunk.read(bytes, all::add);
    return all;
  }

  @Property(tries = 50)
  void what_is_packed_is_read_again(@ForAll long seed) {
    assertThat(read(LoggedChunk.write(reads(seed)))).isEqualTo(reads(seed));
  }

  @Property(tries = 50)
  void what_is_cut_off_is_refused(@ForAll long seed) {
    byte[] whole = LoggedChunk.write(reads(seed));
    byte[] cut = Arrays.copyOf(whole, new Random(seed).nextInt(whole.length / 2));
    assertThatThrownBy(() -> read(cut)).isInstanceOf(CorruptChunk.class);
  }
}
