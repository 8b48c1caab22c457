package jamjar.server.watch;

import jakarta.annotation.PreDestroy;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.session.Fingerprint;
import jamjar.core.statement.Counted;
import jamjar.core.statement.FollowedReading;
import jamjar.core.statement.Following;
import jamjar.server.normals.NormalsService;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.Import;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import jamjar.store.statements.FollowedRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.LongStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Which statements of each engine are series of their own. Chosen once a day by what the last seven
 * took; what was counted of the first ones before they were followed is brought in after them.
 */
@Component
public class Followed {
  private static final Logger LOG = LoggerFactory.getLogger(Followed.class);
  private static final int SECONDS = 60;

  /** As long as what was counted is kept by the minute. */
  private static final int DAYS_BEFORE = 42;

  private final Store store;
  private final Recipes recipes;
  private final NormalsService normals;
  private final Clock clock;

  /** By instance; empty until it is known. */
  private final Map<Integer, SortedSet<Long>> all = new ConcurrentHashMap<>();

  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread made = new Thread(task, "follower");
            made.setDaemon(true);
            return made;
          });

  Followed(Store store, Recipes recipes, NormalsService normals, Clock clock) {
    this.store = store;
    this.recipes = recipes;
    this.normals = normals;
    this.clock = clock;
  }

  /** It is watched from now on. */
  void begin(int instance) {
    if (all.putIfAbsent(instance, new TreeSet<>()) == null) {
      thread.execute(() -> lookAt(instance, false));
    }
  }

  void forget(int instance) {
    all.remove(instance);
  }

  /** What was counted, as a reading of those that are followed; empty where nobody is. */
  Optional<Increases.Step> reading(int instance, Recipe recipe, Counted counted) {
    SortedSet<Long> followed = all.getOrDefault(instance, new TreeSet<>());
    boolean wanted = recipe.groups().contains(FollowedReading.GROUP);
    return followed.isEmpty() || !wanted
        ? Optional.empty()
        : Optional.of(FollowedReading.of(counted, followed, recipe));
  }

  /** Chooses anew now, as what was counted long ago was brought in. */
  public void chooseSoon(int instance) {
    thread.execute(() -> lookAt(instance, true));
  }

  @Scheduled(fixedDelay = 60_000, initialDelay = 60_000)
  void each() {
    all.keySet().forEach(instance -> thread.execute(() -> lookAt(instance, false)));
  }

  private void lookAt(int instance, boolean anew) {
    try {
      choose(instance, anew);
      fill(instance);
    } catch (RuntimeException e) {
      if (!StoreAway.is(e) && !thread.isShutdown()) {
        LOG.error("event=not-followed instance={}", instance, e);
      }
    }
  }

  private void choose(int instance, boolean anew) {
    Optional<FollowedRow> before = store.statements().followed(instance);
    SortedSet<Long> until = before.map(Followed::set).orElseGet(TreeSet::new);
    Set<Long> wanted = wanted(instance);
    Instant now = clock.instant();
    Instant today = now.truncatedTo(ChronoUnit.DAYS);
    boolean due = anew || before.isEmpty() || before.get().chosenAt().isBefore(today);
    SortedSet<Long> next = until;
    if (due || !until.containsAll(wanted)) {
      next = Following.next(until, days(instance, today), wanted);
      boolean filled = before.map(FollowedRow::filled).orElse(false);
      store
          .statements()
          .follow(
              new FollowedRow(
                  instance, next.stream().mapToLong(Long::longValue).toArray(), now, filled));
    }
    SortedSet<Long> known = all.replace(instance, next);
    if (known != null && !known.equals(next)) {
      LOG.info("event=statements-followed instance={} statements={}", instance, next.size());
    }
  }

  private static SortedSet<Long> set(FollowedRow row) {
    SortedSet<Long> set = new TreeSet<>();
    LongStream.of(row.fingerprints()).forEach(set::add);
    return set;
  }

  /** The time of each statement on each of the last whole days, µs. */
  private List<Map<Long, Long>> days(int instance, Instant today) {
    List<Map<Long, Long>> days = new ArrayList<>();
    for (int back = Following.DAYS; back > 0; back--) {
      Instant day = today.minus(back, ChronoUnit.DAYS);
      Map<Long, Long> time = new HashMap<>();
      store
          .statements()
          .sums(
              instance,
              // what ends at its begin is of the day before
              day.plusMillis(1),
              day.plus(1, ChronoUnit.DAYS).plusMillis(1),
              counted ->
                  counted
                      .statements()
                      .forEach(
                          (key, counts) ->
                              time.merge(key.fingerprint(), counts.timeUs(), Long::sum)));
      days.add(time);
    }
    return days;
  }

  /** Those that a limit is set on. */
  private Set<Long> wanted(int instance) {
    Set<Long> found = new HashSet<>();
    Optional<InstanceRow> row = store.instances().byId(instance);
    if (row.isEmpty()) {
      return found;
    }
    store
        .rules()
        .all()
        .forEach(
            rule -> {
              String print = rule.labels().get(FollowedReading.LABEL);
              boolean here =
                  switch (rule.reach()) {
                    case "INSTANCE" -> rule.reachOf().equals(Integer.toString(instance));
                    case "GROUP" -> rule.reachOf().equals(row.get().groupName());
                    default -> rule.reachOf().equals(row.get().kind());
                  };
              if (print != null && here && rule.counter().startsWith(FollowedReading.GROUP + ".")) {
                fingerprint(print).ifPresent(found::add);
              }
            });
    return found;
  }

  private static Optional<Long> fingerprint(String hex) {
    try {
      // 0 stands for none
      return Optional.of(Fingerprint.of(hex)).filter(print -> print != 0);
    } catch (NumberFormatException e) {
      // of each of them
      return Optional.empty();
    }
  }

  /**
   * Brings in what was counted before of those that are followed, the newest day first. Only once
   * the first reading of theirs is there: from then on they are laid out as it is.
   */
  private void fill(int instance) {
    Optional<FollowedRow> row = store.statements().followed(instance);
    if (row.isEmpty() || row.get().filled() || row.get().fingerprints().length == 0) {
      return;
    }
    SortedSet<Long> followed = set(row.get());
    Import old = store.readings().old();
    Optional<Instant> since = old.until(instance, Pace.MINUTE.code());
    if (since.isEmpty()) {
      return;
    }
    long began = System.nanoTime();
    Instant last = since.get().truncatedTo(ChronoUnit.DAYS);
    Recipe recipe = recipes.ofInstance(instance);
    int days = 0;
    for (int back = 0; back <= DAYS_BEFORE && !thread.isShutdown(); back++) {
      Instant day = last.minus(back, ChronoUnit.DAYS);
      List<LaidOut> readings = counted(instance, day, since.get(), followed, recipe);
      old.addDay(day, back == 0 ? since : Optional.empty(), readings);
      days += readings.isEmpty() ? 0 : 1;
    }
    store
        .statements()
        .follow(new FollowedRow(instance, row.get().fingerprints(), row.get().chosenAt(), true));
    LOG.info(
        "event=statements-filled instance={} days={} took_ms={}",
        instance,
        days,
        Duration.ofNanos(System.nanoTime() - began).toMillis());
    if (days > 0 && all.containsKey(instance)) {
      normals.learnSoon(instance);
    }
  }

  private List<LaidOut> counted(
      int instance, Instant day, Instant before, SortedSet<Long> followed, Recipe recipe) {
    List<LaidOut> readings = new ArrayList<>();
    Instant end = day.plus(1, ChronoUnit.DAYS);
    store
        .statements()
        .between(
            instance,
            day,
            end.isBefore(before) ? end : before,
            counted ->
                readings.add(
                    store
                        .readings()
                        .lay(
                            new KeptReading(
                                instance,
                                Pace.MINUTE.code(),
                                SECONDS,
                                0,
                                counted.at(),
                                FollowedReading.of(counted, followed, recipe),
                                Judged.NOTHING))));
    return readings;
  }

  @PreDestroy
  void end() {
    thread.shutdownNow();
  }
}
