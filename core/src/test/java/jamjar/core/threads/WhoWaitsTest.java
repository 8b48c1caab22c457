package jamjar.core.threads;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.threads.ThreadDump.Seen;
import jamjar.core.threads.WhoWaits.Alike;
import jamjar.core.threads.WhoWaits.Lock;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class WhoWaitsTest {
  private static WhoWaits of(Seen... threads) {
    return new WhoWaits(
        new ThreadDump(
            Instant.EPOCH, "", List.of(List.of("A.a"), List.of("B.b")), List.of(threads), 0));
  }

  private static Seen waits(long id, String lock, long owner) {
    return new Seen(id, "t" + id, "BLOCKED", lock, owner, 0);
  }

  private static Seen runs(long id) {
    return new Seen(id, "t" + id, "RUNNABLE", "", -1, 1);
  }

  @Test
  void behind_one_holder_are_those_that_wait_and_those_that_wait_for_them() {
    WhoWaits told =
        of(
            runs(1),
            waits(2, "Fares@a", 1),
            waits(3, "Fares@a", 1),
            waits(4, "Berths@b", 2),
            waits(5, "Berths@b", 2),
            waits(6, "Quays@c", 5));
    assertThat(told.locks())
        .containsExactly(
            new Lock("Fares@a", 1, List.of(2L, 3L), 3, false),
            new Lock("Berths@b", 2, List.of(4L, 5L), 1, false),
            new Lock("Quays@c", 5, List.of(6L), 0, false));
  }

  @Test
  void a_ring_is_told_from_what_waits_behind_it() {
    WhoWaits told =
        of(
            waits(1, "Pay@a", 2),
            waits(2, "Refund@b", 1),
            waits(3, "Pay@a", 2),
            waits(4, "Gate@c", 3));
    assertThat(told.locks())
        .containsExactly(
            new Lock("Pay@a", 2, List.of(1L, 3L), 1, true),
            new Lock("Refund@b", 1, List.of(2L), 2, true),
            new Lock("Gate@c", 3, List.of(4L), 0, false));
  }

  @Test
  void what_nobody_holds_is_no_lock_and_threads_that_do_the_same_are_one_group() {
    WhoWaits told =
        of(
            new Seen(7, "exec-1", "WAITING", "Condition@1", -1, 0),
            new Seen(8, "exec-2", "WAITING", "Condition@2", -1, 0),
            new Seen(9, "exec-3", "WAITING", "Condition@3", -1, 1),
            runs(3));
    assertThat(told.locks()).isEmpty();
    assertThat(told.alike())
        .containsExactly(
            new Alike("WAITING", "Condition", 0, List.of(7L, 8L)),
            new Alike("RUNNABLE", "", 1, List.of(3L)),
            new Alike("WAITING", "Condition", 1, List.of(9L)));
  }
}
