package jamjar.core.statement;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;

class SeenRunningTest {
  private static final long NIGHT = Instant.parse("2026-11-26T02:10:00Z").toEpochMilli();

  /** The engine's clock is two seconds ahead of ours. */
  private static final long AHEAD = 2_000;

  private static Who who(int pid, Who.Kind kind) {
    return new Who(pid, NIGHT - 86_400_000, kind, "booking_app", "booking-web", "bookings", "");
  }

  private static Session runs(int pid, long sinceMs, String wait, Integer... blockers) {
    return session(who(pid, Who.Kind.CLIENT), Session.State.ACTIVE, sinceMs, wait, blockers);
  }

  private static Session session(
      Who who, Session.State state, long sinceMs, String wait, Integer... blockers) {
    long begun = NIGHT + AHEAD + sinceMs;
    return new Session(
        who,
        state,
        new Session.Wait(wait, wait),
        pidOf(who),
        "",
        new Session.Since(begun, begun, begun, 0),
        0,
        0,
        List.of(blockers));
  }

  private static long pidOf(Who who) {
    return 1000L + who.pid();
  }

  private static Sample at(long ms, Session... sessions) {
    long now = NIGHT + ms;
    return new Sample(
        Instant.ofEpochMilli(now), now + AHEAD, List.of(sessions), List.of(), List.of());
  }

  @Test
  void one_that_is_seen_often_is_one_and_ended_between_two_samples() {
    SeenRunning seen = new SeenRunning(1_000, 100);
    seen.add(at(0));
    seen.add(at(5_000, runs(1, 2_000, "")));
    seen.add(at(10_000, runs(1, 2_000, "Lock", 77), runs(2, 9_950, "")));
    seen.add(at(15_000, runs(1, 2_000, "Lock", 77), runs(2, 14_990, "")));
    seen.add(at(20_000, runs(2, 19_980, "")));
    List<Execution> all = seen.all();
    assertThat(all).hasSize(1);
    Execution one = all.get(0);
    assertThat(one.who().pid()).isEqualTo(1);
    // by the clock here
    assertThat(one.started()).isEqualTo(NIGHT + 2_000);
    assertThat(one.ended()).isEqualTo(NIGHT + 15_000);
    assertThat(one.leastMs()).isEqualTo(13_000);
    assertThat(one.mostMs()).isEqualTo(18_000);
    assertThat(one.waitedFor()).isEqualTo("Lock");
    assertThat(one.blocker()).isEqualTo(77);
    assertThat(one.ending()).isEqualTo(Execution.Ending.SEEN);
  }

  @Test
  void what_runs_still_says_so_and_who_does_nothing_or_is_no_client_is_left_out() {
    SeenRunning seen = new SeenRunning(1_000, 100);
    seen.add(
        at(
            60_000,
            runs(1, 0, ""),
            session(who(2, Who.Kind.CLIENT), Session.State.IN_TRANSACTION, 0, "Client"),
            session(who(3, Who.Kind.AUTOVACUUM), Session.State.ACTIVE, 0, "")));
    assertThat(seen.all())
        .singleElement()
        .satisfies(
            one -> {
              assertThat(one.leastMs()).isEqualTo(60_000);
              assertThat(one.mostMs()).isEqualTo(-1);
              assertThat(one.ending()).isEqualTo(Execution.Ending.RUNNING);
            });
  }

  @Test
  void two_of_one_session_are_two_and_of_too_many_the_longest_are_kept() {
    SeenRunning seen = new SeenRunning(0, 3);
    for (int n = 1; n <= 20; n++) {
      seen.add(at(n * 5_000L, runs(1, n * 5_000L - n * 10, "")));
    }
    assertThat(seen.all()).extracting(Execution::leastMs).containsExactly(200L, 190L, 180L);
    assertThat(seen.beyond()).isEqualTo(17);
  }

  @Property
  void each_length_lies_between_the_edges_of_its_row(
      @ForAll @DoubleRange(min = 0, max = 5e7) double ms) {
    int row = Strip.row(ms);
    if (row > 0) {
      assertThat(Strip.edge(row)).isLessThanOrEqualTo(ms);
    }
    if (row < Strip.ROWS - 1) {
      assertThat(Strip.edge(row + 1)).isGreaterThan(ms);
    }
  }

  @Test
  void a_strip_counts_each_once_where_it_ended() {
    assertThat(Strip.edge(7)).isEqualTo(3_162.28, within(0.01));
    assertThat(Strip.row(1_000)).isEqualTo(6);
    assertThat(Strip.row(0.2)).isZero();
    List<Execution> all = new ArrayList<>();
    for (long end : new long[] {0, 59_999, 60_000, 120_000}) {
      all.add(
          new Execution(
              who(1, Who.Kind.CLIENT),
              1,
              "",
              NIGHT,
              NIGHT + end,
              2_000,
              2_000,
              "",
              0,
              Execution.Ending.FINISHED));
    }
    int[][] counts = Strip.of(all, NIGHT, 60_000, 2).counts();
    assertThat(counts[6]).containsExactly(2, 1);
    for (int row = 0; row < Strip.ROWS; row++) {
      if (row != 6) {
        assertThat(counts[row]).containsOnly(0);
      }
    }
  }
}
