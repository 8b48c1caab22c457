package jamjar.server.keeping;

import jamjar.core.keeping.Growing;
import jamjar.server.keeping.StoreView.InstanceSize;
import jamjar.server.keeping.StoreView.KeepingClass;
import jamjar.server.keeping.StoreView.Sizes;
import jamjar.server.settings.Disk;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import jamjar.store.keeping.Keeping;
import jamjar.store.keeping.KeepingMapper.KeptAs;
import jamjar.store.readings.StoreSize;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Tells how large the store is, of what and of whom, and for how long there is room for it. */
@Service
class KeepingService {
  /** A month goes as a whole. */
  private static final int MONTH = 31;

  private final Store store;
  private final Intake intake;
  private final Disk disk;
  private final Measuring measuring;

  KeepingService(Store store, Intake intake, Disk disk, Measuring measuring) {
    this.store = store;
    this.intake = intake;
    this.disk = disk;
    this.measuring = measuring;
  }

  StoreView view() {
    Measuring.Found found = measuring.ask();
    Optional<Measured> last = found.last();
    List<Keeping> classes = store.keeping().all();
    Map<Integer, Integer> keep =
        store.keeping().others().stream().collect(Collectors.toMap(KeptAs::instance, KeptAs::keep));
    Optional<Long> free = disk.free();
    StoreSize size = store.readings().size();
    return new StoreView(
        size.bytes(),
        free.orElse(null),
        intake.behindBytes(),
        intake.behindSeconds(),
        size.setAside(),
        size.sealedUntil().map(Instant::toEpochMilli).orElse(null),
        last.map(measured -> sizes(measured, classes, keep, free)).orElse(null),
        found.going(),
        found.failed(),
        classes.stream().map(keeping -> told(keeping, last)).toList(),
        instances(last, keep));
  }

  private static KeepingClass told(Keeping keeping, Optional<Measured> last) {
    return new KeepingClass(
        keeping.keep(),
        keeping.name(),
        keeping.readingsDays(),
        keeping.minutesDays(),
        last.flatMap(measured -> measured.oldest(keeping.keep()))
            .map(Instant::toEpochMilli)
            .orElse(null));
  }

  /** Those under watch, and of the others those of which there is something still. */
  private List<InstanceSize> instances(Optional<Measured> last, Map<Integer, Integer> keep) {
    Map<Integer, String> names =
        store.instances().all().stream()
            .collect(Collectors.toMap(InstanceRow::id, InstanceRow::name));
    Set<Integer> all = new TreeSet<>(names.keySet());
    last.ifPresent(measured -> all.addAll(measured.instances().keySet()));
    List<InstanceSize> sizes = new ArrayList<>();
    for (int id : all) {
      sizes.add(
          new InstanceSize(
              id,
              names.getOrDefault(id, ""),
              !names.containsKey(id),
              keep.getOrDefault(id, Keeping.USUAL),
              last.map(measured -> measured.bytes(id)).orElse(null),
              last.filter(measured -> measured.days() > 0)
                  .map(measured -> measured.aDay(id).all())
                  .orElse(null)));
    }
    sizes.sort(Comparator.comparingLong(one -> one.bytes() == null ? 0 : -one.bytes()));
    return sizes;
  }

  private static Sizes sizes(
      Measured measured, List<Keeping> classes, Map<Integer, Integer> keep, Optional<Long> free) {
    boolean known = measured.days() > 0;
    OptionalDouble full =
        known && free.isPresent()
            ? Growing.days(growing(measured, classes, keep), free.get())
            : OptionalDouble.empty();
    return new Sizes(
        measured.at().toEpochMilli(),
        measured.parts().rows(),
        measured.parts().packed(),
        measured.parts().minutes(),
        measured.parts().coarse(),
        measured.parts().normals(),
        measured.days(),
        known
            ? measured.instances().keySet().stream()
                .mapToDouble(id -> measured.aDay(id).all())
                .sum()
            : null,
        full.isPresent() ? full.getAsDouble() : null);
  }

  /**
   * What comes, until as much goes: a month when all of it is old enough. What there is of an
   * instance as another class than it is of now goes as that, and is not counted on.
   */
  private static List<Growing> growing(
      Measured measured, List<Keeping> classes, Map<Integer, Integer> keep) {
    Map<Integer, Keeping> byNumber =
        classes.stream().collect(Collectors.toMap(Keeping::keep, Function.identity()));
    List<Growing> all = new ArrayList<>();
    for (int id : measured.instances().keySet()) {
      Keeping keeping = byNumber.get(keep.getOrDefault(id, Keeping.USUAL));
      Measured.ADay comes = measured.aDay(id);
      double readings = measured.readingsAge(id, keeping.keep());
      double minutes = measured.minutesAge(id, keeping.keep());
      all.add(new Growing(comes.readings(), left(keeping.readingsDays(), readings)));
      all.add(new Growing(comes.minutes(), left(keeping.minutesDays(), minutes)));
      all.add(new Growing(comes.coarse(), Double.POSITIVE_INFINITY));
    }
    return all;
  }

  private static double left(Integer days, double age) {
    return days == null ? Double.POSITIVE_INFINITY : Math.max(0, days + MONTH - age);
  }
}
