package jamjar.core.baseline;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The hour of the day at which something comes back most often.
 *
 * @param hour its begin, in quarters of an hour since midnight by the local clock
 * @param days on so many days it came within that hour
 */
public record Habit(int hour, int days) {
  private static final int QUARTERS = 96;
  private static final int HOUR = 4;

  /** Less often is no habit. */
  private static final int LEAST = 2;

  /**
   * Of hours with as many days that which holds most of it, of these the last, which begins when it
   * comes; one that reaches over midnight counts for the day on which it begins.
   *
   * @param at epoch ms
   * @param greatest as many; what is above zero has come
   * @return empty where it came on fewer than two days at no hour
   */
  public static Optional<Habit> of(long[] at, double[] greatest, ZoneId zone) {
    List<Set<LocalDate>> came = new ArrayList<>();
    List<Set<LocalDateTime>> held = new ArrayList<>();
    for (int i = 0; i < QUARTERS; i++) {
      came.add(new HashSet<>());
      held.add(new HashSet<>());
    }
    for (int i = 0; i < at.length; i++) {
      if (greatest[i] > 0) {
        LocalDateTime local = LocalDateTime.ofInstant(Instant.ofEpochMilli(at[i]), zone);
        int quarter = local.getHour() * HOUR + local.getMinute() / 15;
        for (int back = 0; back < HOUR; back++) {
          int hour = Math.floorMod(quarter - back, QUARTERS);
          LocalDate day = local.toLocalDate();
          came.get(hour).add(quarter < back ? day.minusDays(1) : day);
          held.get(hour).add(day.atStartOfDay().plusMinutes(15L * quarter));
        }
      }
    }
    Comparator<Integer> most =
        Comparator.comparing((Integer hour) -> came.get(hour).size())
            .thenComparing(hour -> held.get(hour).size());
    int best = 0;
    for (int hour = 1; hour < QUARTERS; hour++) {
      best = most.compare(hour, best) >= 0 ? hour : best;
    }
    int days = came.get(best).size();
    return days < LEAST ? Optional.empty() : Optional.of(new Habit(best, days));
  }
}
