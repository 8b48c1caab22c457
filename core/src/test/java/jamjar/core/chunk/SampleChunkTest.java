package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class SampleChunkTest {
  private static final Instant BEGIN = Instant.parse("2026-11-23T02:00:00.123456Z");
  private static final String[] WAITS = {"", "Lock", "IO", "Client", "LWLock"};

  /** What an engine might tell, over so many samples five seconds apart. */
  static List<Sample> samples(long seed, int sessions, int count) {
    Random random = new Random(seed);
    long engine = BEGIN.toEpochMilli() + random.nextInt(2000) - 1000;
    List<Who> whos = new ArrayList<>();
    for (int i = 0; i < sessions; i++) {
      whos.add(
          new Who(
              i % 50 == 49 ? -i : 1000 + i * 7,
              engine - random.nextInt(10_000_000),
              Who.Kind.values()[i % 9 == 0 ? i / 9 % 6 : 0],
              "user_" + i % 5,
              "program-" + i % 11,
              "bookings",
              "10.0.0." + i % 30));
    }
    Session.Since[] last = new Session.Since[sessions];
    List<Sample> samples = new ArrayList<>();
    for (int n = 0; n < count; n++) {
      Instant at = BEGIN.plusMillis(5000L * n).plusNanos(1000L * random.nextInt(3000));
      long engineAt = engine + 5000L * n + random.nextInt(3);
      List<Session> all = new ArrayList<>();
      for (int i = 0; i < sessions; i++) {
        if (random.nextInt(10) < 3) {
          continue;
        }
        if (last[i] == null || random.nextInt(4) > 0) {
          long statement = engineAt - random.nextInt(40);
          last[i] = new Session.Since(statement, statement, statement - random.nextInt(3), 0);
        }
        boolean waits = random.nextInt(12) == 0;
        all.add(
            new Session(
                whos.get(i),
                waits ? Session.State.ACTIVE : Session.State.values()[random.nextInt(6)],
                new Session.Wait(WAITS[waits ? 1 : random.nextInt(5)], "event " + i % 6),
                random.nextInt(20) == 0 ? 0 : i % 40 * 1_234_567_890_123L,
                i % 3 == 0 ? "checkout" : "",
                last[i],
                i % 9 == 1 ? 1000 : 0,
                random.nextInt(4),
                waits ? List.of(1000, -49) : List.of()));
      }
      List<Sample.Lock> locks =
          random.nextInt(3) == 0
              ? List.of(
                  new Sample.Lock(1000, true, "relation", "ShareLock", "relation berth"),
                  new Sample.Lock(-49, false, "tuple", "ExclusiveLock", "a row of berth"))
              : List.of();
      samples.add(
          new Sample(
              at,
              engineAt,
              all,
              List.of(new Sample.Idle("user_1", "program-2", "bookings", 300 + n)),
              locks));
    }
    return samples;
  }

  @Property(tries = 200)
  void gives_back_what_was_written(@ForAll long seed) {
    Random random = new Random(seed);
    List<Sample> samples = samples(seed, random.nextInt(60), random.nextInt(30));
    assertThat(SampleChunk.read(SampleChunk.write(samples))).isEqualTo(samples);
  }

  @Test
  void takes_no_more_than_eight_bytes_for_a_session_and_sample() {
    List<Sample> hour = samples(11, 120, 720);
    long sessions = hour.stream().mapToLong(sample -> sample.sessions().size()).sum();
    assertThat(SampleChunk.write(hour).length / (double) sessions).isLessThan(8);
  }

  @Property(tries = 500)
  void says_so_when_it_is_not_whole(@ForAll long seed) {
    Random random = new Random(seed);
    byte[] bytes = SampleChunk.write(samples(5, 10, 4));
    byte[] changed = bytes.clone();
    if (random.nextBoolean()) {
      changed = Arrays.copyOf(changed, random.nextInt(bytes.length));
    } else {
      changed[random.nextInt(bytes.length)] ^= (byte) (1 << random.nextInt(8));
    }
    byte[] read = changed;
    try {
      SampleChunk.read(read);
    } catch (CorruptChunk e) {
      assertThat(e).hasMessageContaining("samples");
    }
    assertThatThrownBy(() -> SampleChunk.read(new byte[] {9, 9})).isInstanceOf(CorruptChunk.class);
  }
}
