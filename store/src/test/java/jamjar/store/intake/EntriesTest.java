package jamjar.store.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.baseline.Normal;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.Transition;
import jamjar.core.reading.SeriesKey;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.readings.LaidOut;
import jamjar.store.readings.LayoutRow;
import jamjar.store.readings.ReadingRow;
import jamjar.store.readings.TotalsRow;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class EntriesTest {
  private static final Instant AT = Instant.parse("2026-11-26T10:00:00.123456789Z");

  @Test
  void a_reading_comes_back_to_the_bit_with_what_was_judged_by_it() {
    SplittableRandom random = new SplittableRandom(1);
    for (int round = 0; round < 200; round++) {
      LaidOut reading = reading(random, round % 2 == 0 ? Judged.NOTHING : judged());
      LaidOut back =
          ((Kept.Reading) Entries.read(Entries.write(new Kept.Reading(reading)))).reading();
      assertThat(back.row())
          .usingRecursiveComparison()
          .ignoringFields("vals")
          .isEqualTo(reading.row());
      assertThat(back.row().vals()).isEqualTo(reading.row().vals());
      assertThat(back.totals()).usingRecursiveComparison().isEqualTo(reading.totals());
      assertThat(back.why()).isEqualTo(reading.why());
      assertThat(back.judged()).isEqualTo(reading.judged());
    }
  }

  @Test
  void a_state_that_is_calm_is_calm_afterwards() {
    Judged back =
        ((Kept.JudgedAt) Entries.read(Entries.write(new Kept.JudgedAt(judged(), AT)))).judged();
    assertThat(back).isEqualTo(judged());
    assertThat(back.changes().get(0).after().idle()).isTrue();
  }

  @Test
  void series_and_layouts_come_back() {
    SeriesRow row = new SeriesRow(7, 3, "pool.in_use", new TreeMap<>(Map.of("pool", "a \"b\" ü")));
    assertThat(Entries.read(Entries.write(new Kept.Series(List.of(row), AT))))
        .isEqualTo(new Kept.Series(List.of(row), AT));
    LayoutRow layout =
        new LayoutRow(
            5, 3, 1, 10, new int[] {7, 8}, new int[] {8}, new String[] {"x"}, new byte[] {1, -2});
    assertThat(((Kept.Layout) Entries.read(Entries.write(new Kept.Layout(layout)))).row())
        .usingRecursiveComparison()
        .isEqualTo(layout);
  }

  @Test
  void a_sample_comes_back_with_its_texts() {
    for (Map<Long, String> texts : List.of(Map.<Long, String>of(), Map.of(-4L, "select ?"))) {
      Kept.Sampled sampled = new Kept.Sampled(7, AT, new byte[] {1, 2, -3}, texts);
      Kept.Sampled back = (Kept.Sampled) Entries.read(Entries.write(sampled));
      assertThat(back).usingRecursiveComparison().isEqualTo(sampled);
    }
  }

  @Test
  void whatever_else_is_read_is_refused_in_words() {
    SplittableRandom random = new SplittableRandom(2);
    byte[] whole = Entries.write(new Kept.Reading(reading(random, judged())));
    for (int i = 0; i < 5_000; i++) {
      byte[] other =
          i % 2 == 0 ? Arrays.copyOf(whole, random.nextInt(whole.length)) : whole.clone();
      if (other.length > 0) {
        other[random.nextInt(other.length)] ^= (byte) (1 << random.nextInt(8));
      }
      try {
        Entries.read(other);
      } catch (IllegalArgumentException refused) {
        assertThat(refused.getMessage()).contains("entry");
      }
    }
    assertThatThrownBy(() -> Entries.read(new byte[0]))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private static LaidOut reading(SplittableRandom random, Judged judged) {
    int n = random.nextInt(40);
    double[] values = random.doubles(n).map(v -> v < 0.2 ? Double.NaN : v * 1e6).toArray();
    byte[] why = new byte[n];
    random.nextBytes(why);
    int t = random.nextInt(20);
    int instance = random.nextInt();
    int layout = random.nextInt();
    long seq = random.nextLong();
    return new LaidOut(
        new ReadingRow(instance, AT, 2, layout, 10_003, seq, AT.plusMillis(7), values),
        why,
        new TotalsRow(
            instance,
            2,
            AT.minusSeconds(1),
            seq,
            random.nextLong(),
            random.nextLong(),
            layout,
            random.longs(t).toArray(),
            random.longs(t).toArray(),
            random.ints(3).toArray()),
        judged);
  }

  private static Judged judged() {
    Docket.Key key = new Docket.Key(7, Condition.ABOVE);
    Transition risen =
        new Transition(
            1, 2, AlertState.BUILDING, AlertState.WARNING, 3.5, Normal.NONE, Double.NaN, -0.25);
    Docket.Change change =
        new Docket.Change(key, 4, LimitState.calm(99), LimitState.calm(1_000), List.of(risen));
    return new Judged(3, List.of(change), List.of(SeriesKey.of("pool", "pool", "ü")));
  }
}
