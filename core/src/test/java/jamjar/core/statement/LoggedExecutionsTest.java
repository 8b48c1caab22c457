package jamjar.core.statement;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.log.LogEntry;
import jamjar.core.session.Who;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class LoggedExecutionsTest {
  private static final long NIGHT = Instant.parse("2026-11-26T02:10:00Z").toEpochMilli();

  private static LogEntry line(LogEntry.Kind kind, int pid, long atMs, long durationUs) {
    return new LogEntry(
        NIGHT + atMs,
        kind,
        pid,
        NIGHT - 86_400_000,
        "booking_app",
        "booking-web",
        "bookings",
        durationUs,
        42,
        "00000",
        "",
        List.of());
  }

  private static Execution seen(int pid, long startedMs, long endedMs, String wait) {
    return new Execution(
        new Who(pid, 0, Who.Kind.CLIENT, "booking_app", "booking-web", "bookings", ""),
        42,
        "",
        NIGHT + startedMs,
        NIGHT + endedMs,
        endedMs - startedMs,
        endedMs - startedMs + 5_000,
        wait,
        77,
        Execution.Ending.SEEN);
  }

  @Test
  void one_that_is_logged_has_its_exact_length_and_says_whether_it_waited_for_a_lock() {
    List<Execution> all =
        LoggedExecutions.of(
            List.of(
                line(LogEntry.Kind.WAITED, 1, 8_000, 2_800_000),
                line(LogEntry.Kind.FINISHED, 1, 8_100, 2_903_456),
                line(LogEntry.Kind.FINISHED, 2, 9_000, 1_200_000),
                line(LogEntry.Kind.FINISHED, 2, 9_500, 400_000),
                line(LogEntry.Kind.ERROR, 2, 9_600, -1)),
            List.of(),
            1_000);
    assertThat(all).extracting(Execution::leastMs).containsExactly(2_903L, 1_200L);
    assertThat(all).extracting(Execution::waitedFor).containsExactly("Lock", "");
    assertThat(all.get(0).started()).isEqualTo(NIGHT + 8_100 - 2_903);
    assertThat(all.get(0).mostMs()).isEqualTo(2_903);
  }

  @Test
  void one_that_was_cancelled_is_as_long_as_it_was_seen_running() {
    List<Execution> all =
        LoggedExecutions.of(
            List.of(
                line(LogEntry.Kind.CANCELLED, 1, 31_000, -1),
                line(LogEntry.Kind.CANCELLED, 2, 31_000, -1)),
            List.of(seen(1, 1_000, 30_000, "Lock"), seen(2, -300_000, -200_000, "IO")),
            1_000);
    assertThat(all).hasSize(2);
    assertThat(all.get(0).ending()).isEqualTo(Execution.Ending.CANCELLED);
    assertThat(all.get(0).leastMs()).isEqualTo(30_000);
    assertThat(all.get(0).waitedFor()).isEqualTo("Lock");
    assertThat(all.get(0).blocker()).isEqualTo(77);
    // nobody saw this one: how long it ran is not known
    assertThat(all.get(1).who().pid()).isEqualTo(2);
    assertThat(all.get(1).leastMs()).isZero();
  }

  @Test
  void one_that_runs_still_is_told_by_samples() {
    Execution finished = seen(1, 0, 9_000, "");
    Execution runs =
        new Execution(
            finished.who(),
            42,
            "",
            NIGHT,
            NIGHT + 60_000,
            60_000,
            -1,
            "IO",
            0,
            Execution.Ending.RUNNING);
    assertThat(
            LoggedExecutions.of(
                List.of(line(LogEntry.Kind.FINISHED, 1, 9_000, 9_000_000)),
                List.of(finished, runs),
                0))
        .extracting(Execution::leastMs)
        .containsExactly(60_000L, 9_000L);
  }
}
