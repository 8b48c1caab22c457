package jamjar.core.baseline;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * The hour of the day at which something comes back most often.
 *
 * @param hour its begin, in quarters of an hour since midnight by the local clock
 * @param days on so many days it came within that hour
 * @param looked on so many it was read then
 */
public record Habit(int hour, int days, int looked) {
  private static final int QUARTERS = 96;
  private static final int HOUR = 4;

  /** Less often is no habit. */
  private static final int LEAST = 2;

  /**
   * Of hours with as many days that which holds most of it, of these the last, which begins when it
   * comes; one that reaches over midnight counts for the day on which it begins.
   *
   * @param at epoch ms
   * @param greatest as many; what is above zero has come, NaN was not read
   * @return empty where it came on fewer than two days at no hour
   */
  public static Optional<Habit> of(long[] at, double[] greatest, ZoneId zone) {
    List<Set<LocalDate>> came = ofQuarters();
    List<Set<LocalDate>> read = ofQuarters();
    List<Set<LocalDateTime>> held = ofQuarters();
    for (int i = 0; i < at.length; i++) {
      if (!Double.isNaN(greatest[i])) {
        LocalDateTime local = LocalDateTime.ofInstant(Instant.ofEpochMilli(at[i]), zone);
        int quarter = local.getHour() * HOUR + local.getMinute() / 15;
        LocalDate day = local.toLocalDate();
        for (int back = 0; back < HOUR; back++) {
          int hour = Math.floorMod(quarter - back, QUARTERS);
          LocalDate began = quarter < back ? day.minusDays(1) : day;
          read.get(hour).add(began);
          if (greatest[i] > 0) {
            came.get(hour).add(began);
            held.get(hour).add(day.atStartOfDay().plusMinutes(15L * quarter));
          }
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
    return days < LEAST
        ? Optional.empty()
        : Optional.of(new Habit(best, days, read.get(best).size()));
  }

  private static <T> List<Set<T>> ofQuarters() {
    return IntStream.range(0, QUARTERS).<Set<T>>mapToObj(quarter -> new HashSet<>()).toList();
  }

  /** The begin of that hour, the latest before a moment, epoch ms. */
  public long latest(long at, ZoneId zone) {
    LocalDateTime today =
        LocalDateTime.ofInstant(Instant.ofEpochMilli(at), zone)
            .toLocalDate()
            .atStartOfDay()
            .plusMinutes(15L * hour);
    long begin = today.atZone(zone).toInstant().toEpochMilli();
    return begin <= at ? begin : today.minusDays(1).atZone(zone).toInstant().toEpochMilli();
  }
}
