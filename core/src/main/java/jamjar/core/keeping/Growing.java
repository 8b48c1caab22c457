package jamjar.core.keeping;

import java.util.List;
import java.util.OptionalDouble;
import java.util.TreeSet;

/**
 * Something that grows evenly, until as much of it goes as comes.
 *
 * @param aDay by how much a day
 * @param forDays for how many days more; infinite for ever
 */
public record Growing(double aDay, double forDays) {

  /** By how much it has grown after so many days. */
  double after(double days) {
    return aDay * Math.min(days, forDays);
  }

  /**
   * In how many days several of them have grown by so much together; empty for never.
   *
   * @param room in the unit of what grows
   */
  public static OptionalDouble days(List<Growing> all, double room) {
    if (room <= 0) {
      return OptionalDouble.of(0);
    }
    // between two of these moments it grows evenly
    TreeSet<Double> moments = new TreeSet<>();
    all.forEach(one -> moments.add(one.forDays()));
    double from = 0;
    for (double to : moments) {
      double begin = from;
      double rate =
          all.stream().filter(one -> one.forDays() > begin).mapToDouble(Growing::aDay).sum();
      double grown = all.stream().mapToDouble(one -> one.after(begin)).sum();
      double days = begin + (room - grown) / rate;
      if (rate > 0 && days <= to) {
        return OptionalDouble.of(days);
      }
      from = to;
    }
    return OptionalDouble.empty();
  }
}
