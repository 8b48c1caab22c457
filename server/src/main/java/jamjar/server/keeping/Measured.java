package jamjar.server.keeping;

import jamjar.store.Store;
import jamjar.store.keeping.SizeMapper.OfInstance;
import jamjar.store.keeping.SizeMapper.Oldest;
import jamjar.store.keeping.SizeMapper.Parts;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What was found out at a moment about what is stored, and of whom.
 *
 * @param days of so many whole days what came lately is
 */
record Measured(
    Instant at, Parts parts, int days, Map<Integer, OfInstance> instances, List<Oldest> oldest) {
  /** Of so many whole days the growth is told. */
  private static final int LATELY = 7;

  /** Looks at all that is stored. */
  static Measured of(Store store, Instant now) {
    Instant to = now.truncatedTo(ChronoUnit.DAYS);
    Instant from = to.minus(LATELY, ChronoUnit.DAYS);
    return new Measured(
        now,
        store.sizes().parts(),
        store.sizes().days(from, to),
        store.sizes().ofInstances(from, to).stream()
            .collect(Collectors.toMap(OfInstance::instance, Function.identity())),
        store.sizes().oldest());
  }

  /** The oldest day of a class as it was read. */
  Optional<Instant> oldest(int keep) {
    return oldest.stream()
        .filter(one -> one.keep() == keep)
        .flatMap(one -> Stream.ofNullable(one.readings()))
        .min(Instant::compareTo);
  }

  /** For how many days there is of an instance what was read as a class; 0 for none. */
  double readingsAge(int instance, int keep) {
    return age(instance, keep, Oldest::readings);
  }

  /** Likewise in steps of a minute. */
  double minutesAge(int instance, int keep) {
    return age(instance, keep, Oldest::minutes);
  }

  private double age(int instance, int keep, Function<Oldest, Instant> since) {
    return oldest.stream()
        .filter(one -> one.instance() == instance && one.keep() == keep)
        .flatMap(one -> Stream.ofNullable(since.apply(one)))
        .mapToDouble(day -> Duration.between(day, at).toHours() / 24.0)
        .max()
        .orElse(0);
  }

  /** What is looked after beside the bodies is shared out by these. */
  private static double whole(long table, long bodies) {
    return bodies == 0 ? 0 : (double) table / bodies;
  }

  private double packed() {
    return whole(parts.packed(), instances.values().stream().mapToLong(OfInstance::packed).sum());
  }

  private double minutes() {
    return whole(parts.minutes(), instances.values().stream().mapToLong(OfInstance::minutes).sum());
  }

  private double coarse() {
    return whole(parts.coarse(), instances.values().stream().mapToLong(OfInstance::coarse).sum());
  }

  /** The bodies of an instance with its share of the rest of their tables. */
  long bytes(int instance) {
    OfInstance one = instances.get(instance);
    return one == null
        ? 0
        : Math.round(packed() * one.packed() + minutes() * one.minutes() + coarse() * one.coarse());
  }

  /** How much came in a day of late, by kind. */
  record ADay(double readings, double minutes, double coarse) {
    double all() {
      return readings + minutes + coarse;
    }
  }

  ADay aDay(int instance) {
    OfInstance one = instances.get(instance);
    return one == null || days == 0
        ? new ADay(0, 0, 0)
        : new ADay(
            packed() * one.packedLately() / days,
            minutes() * one.minutesLately() / days,
            coarse() * one.coarseLately() / days);
  }
}
