package jamjar.server.keeping;

import jamjar.core.keeping.Growing;
import jamjar.server.keeping.StoreView.InstanceSize;
import jamjar.server.keeping.StoreView.KeepingClass;
import jamjar.server.settings.Settings;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import jamjar.store.keeping.Keeping;
import jamjar.store.keeping.KeepingMapper.KeptAs;
import jamjar.store.keeping.SizeMapper.OfInstance;
import jamjar.store.keeping.SizeMapper.Parts;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Tells how large the store is; what takes long to find out is remembered for some minutes. */
@Service
class KeepingService {
  private static final Duration REMEMBERED = Duration.ofMinutes(10);

  /** Of so many whole days the growth is told. */
  private static final int LATELY = 7;

  /** A month goes as a whole. */
  private static final int MONTH = 31;

  private final Store store;
  private final Intake intake;
  private final Settings settings;
  private final Clock clock;
  private Optional<Measured> measured = Optional.empty();

  /** What was found out at a moment. */
  private record Measured(
      Instant at, Parts parts, int days, List<OfInstance> instances, Map<Integer, Age> ages) {}

  /** How old what is kept of a class is, in days. */
  private record Age(Optional<Instant> oldest, double readings, double minutes) {}

  KeepingService(Store store, Intake intake, Settings settings, Clock clock) {
    this.store = store;
    this.intake = intake;
    this.settings = settings;
    this.clock = clock;
  }

  /** One at a time: it looks at all that is stored. */
  synchronized StoreView view() {
    Instant now = clock.instant();
    if (measured.filter(m -> now.isBefore(m.at().plus(REMEMBERED))).isEmpty()) {
      measured = Optional.of(measure(now));
    }
    return view(measured.get());
  }

  private Measured measure(Instant now) {
    Instant to = now.truncatedTo(ChronoUnit.DAYS);
    Instant from = to.minus(LATELY, ChronoUnit.DAYS);
    Map<Integer, Age> ages = new HashMap<>();
    for (Keeping keeping : store.keeping().all()) {
      Optional<Instant> oldest = store.sizes().oldest(keeping.keep());
      Optional<Instant> minutes = store.sizes().oldestMinutes(keeping.keep());
      ages.put(keeping.keep(), new Age(oldest, days(oldest, now), days(minutes, now)));
    }
    return new Measured(
        now,
        store.sizes().parts(),
        store.sizes().days(from, to),
        store.sizes().ofInstances(from, to),
        ages);
  }

  private static double days(Optional<Instant> since, Instant now) {
    return since.map(at -> Duration.between(at, now).toHours() / 24.0).orElse(0.0);
  }

  private StoreView view(Measured found) {
    Parts parts = found.parts();
    List<Keeping> classes = store.keeping().all();
    List<InstanceSize> instances = instances(found);
    Optional<Long> free = free();
    Double growth =
        found.days() == 0 ? null : instances.stream().mapToDouble(InstanceSize::bytesADay).sum();
    OptionalDouble full =
        found.days() == 0 || free.isEmpty()
            ? OptionalDouble.empty()
            : Growing.days(growing(found, classes), free.get());
    var size = store.readings().size();
    return new StoreView(
        found.at().toEpochMilli(),
        parts.all(),
        parts.rows(),
        parts.packed(),
        parts.minutes(),
        parts.coarse(),
        parts.normals(),
        free.orElse(null),
        intake.behindBytes(),
        intake.behindSeconds(),
        size.setAside(),
        size.sealedUntil().map(Instant::toEpochMilli).orElse(null),
        found.days(),
        growth,
        full.isPresent() ? full.getAsDouble() : null,
        classes.stream().map(keeping -> told(keeping, found.ages().get(keeping.keep()))).toList(),
        instances);
  }

  private static KeepingClass told(Keeping keeping, Age age) {
    return new KeepingClass(
        keeping.keep(),
        keeping.name(),
        keeping.readingsDays(),
        keeping.minutesDays(),
        age.oldest().map(Instant::toEpochMilli).orElse(null));
  }

  /** What is looked after beside the bodies is shared out by these. */
  private static double whole(long table, long bodies) {
    return bodies == 0 ? 0 : (double) table / bodies;
  }

  private List<InstanceSize> instances(Measured found) {
    Map<Integer, String> names =
        store.instances().all().stream()
            .collect(Collectors.toMap(InstanceRow::id, InstanceRow::name));
    Map<Integer, Integer> keep = keep();
    Shares shares = new Shares(found);
    List<InstanceSize> sizes = new ArrayList<>();
    Map<Integer, OfInstance> by =
        found.instances().stream().collect(Collectors.toMap(OfInstance::instance, one -> one));
    names.forEach(
        (id, name) -> sizes.add(shares.of(id, name, false, keep.getOrDefault(id, 0), by.get(id))));
    by.forEach(
        (id, one) -> {
          if (!names.containsKey(id)) {
            sizes.add(shares.of(id, "", true, keep.getOrDefault(id, 0), one));
          }
        });
    sizes.sort(Comparator.comparingLong(InstanceSize::bytes).reversed());
    return sizes;
  }

  private Map<Integer, Integer> keep() {
    return store.keeping().others().stream()
        .collect(Collectors.toMap(KeptAs::instance, KeptAs::keep));
  }

  /** The bodies of an instance with its share of the rest of their tables. */
  private static final class Shares {
    private final int days;
    private final double packed;
    private final double minutes;
    private final double coarse;

    Shares(Measured found) {
      List<OfInstance> all = found.instances();
      Parts parts = found.parts();
      days = found.days();
      packed = whole(parts.packed(), all.stream().mapToLong(OfInstance::packed).sum());
      minutes = whole(parts.minutes(), all.stream().mapToLong(OfInstance::minutes).sum());
      coarse = whole(parts.coarse(), all.stream().mapToLong(OfInstance::coarse).sum());
    }

    InstanceSize of(int id, String name, boolean removed, int keep, OfInstance one) {
      if (one == null) {
        return new InstanceSize(id, name, removed, keep, 0, 0);
      }
      return new InstanceSize(
          id,
          name,
          removed,
          keep,
          Math.round(packed * one.packed() + minutes * one.minutes() + coarse * one.coarse()),
          readingsADay(one) + minutesADay(one) + coarseADay(one));
    }

    double readingsADay(OfInstance one) {
      return days == 0 ? 0 : packed * one.packedLately() / days;
    }

    double minutesADay(OfInstance one) {
      return days == 0 ? 0 : minutes * one.minutesLately() / days;
    }

    double coarseADay(OfInstance one) {
      return days == 0 ? 0 : coarse * one.coarseLately() / days;
    }
  }

  /** What comes, until as much goes: a month when all of it is old enough. */
  private List<Growing> growing(Measured found, List<Keeping> classes) {
    Map<Integer, Integer> keep = keep();
    Shares shares = new Shares(found);
    Map<Integer, Keeping> byNumber =
        classes.stream().collect(Collectors.toMap(Keeping::keep, one -> one));
    List<Growing> all = new ArrayList<>();
    for (OfInstance one : found.instances()) {
      Keeping keeping = byNumber.get(keep.getOrDefault(one.instance(), Keeping.USUAL));
      Age age = found.ages().get(keeping.keep());
      all.add(new Growing(shares.readingsADay(one), left(keeping.readingsDays(), age.readings())));
      all.add(new Growing(shares.minutesADay(one), left(keeping.minutesDays(), age.minutes())));
      all.add(new Growing(shares.coarseADay(one), Double.POSITIVE_INFINITY));
    }
    return all;
  }

  private static double left(Integer days, double age) {
    return days == null ? Double.POSITIVE_INFINITY : Math.max(0, days + MONTH - age);
  }

  /** The disk of a database elsewhere can't be looked at from here. */
  private Optional<Long> free() {
    try {
      return settings.database().url().isEmpty()
          ? Optional.of(Files.getFileStore(settings.data()).getUsableSpace())
          : Optional.empty();
    } catch (IOException e) {
      return Optional.empty();
    }
  }
}
