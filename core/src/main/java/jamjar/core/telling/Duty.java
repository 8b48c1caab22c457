package jamjar.core.telling;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;

/**
 * A role that people have in turn.
 *
 * @param people in their order; none for nobody
 * @param from the day on which the first of them begins
 * @param days how long each has it
 * @param minute of the day at which it changes hands
 * @param swaps which come before the turn, the last one first
 */
public record Duty(
    String name, List<String> people, LocalDate from, int days, int minute, List<Swap> swaps) {

  /**
   * Somebody else has it for a while.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  public record Swap(long from, long to, String person) {}

  public Duty {
    people = List.copyOf(people);
    swaps = List.copyOf(swaps);
    if (days < 1) {
      throw new IllegalArgumentException("a turn lasts a day at least");
    }
  }

  /** Who has it at a moment (epoch ms). */
  public Optional<String> on(long at, ZoneId zone) {
    for (int i = swaps.size() - 1; i >= 0; i--) {
      Swap swap = swaps.get(i);
      if (at >= swap.from() && at < swap.to()) {
        return Optional.of(swap.person());
      }
    }
    if (people.isEmpty()) {
      return Optional.empty();
    }
    ZonedDateTime shifted = Instant.ofEpochMilli(at).atZone(zone).minusMinutes(minute);
    long turn = Math.floorDiv(ChronoUnit.DAYS.between(from, shifted.toLocalDate()), days);
    return Optional.of(people.get((int) Math.floorMod(turn, (long) people.size())));
  }
}
