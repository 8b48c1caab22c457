package jamjar.server.compare;

import jakarta.annotation.PreDestroy;
import jamjar.core.counter.Worse;
import jamjar.server.live.LiveStreams;
import jamjar.server.markers.MarkerService;
import jamjar.server.markers.MarkerView;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.markers.OutcomeRow;
import jamjar.store.markers.OutcomeTold;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells by itself what each release and each change made better or worse: ten minutes, an hour, a
 * day and a week after it, of the instances that it is about, to stand at the marker when somebody
 * comes to look.
 */
@Component
public class Outcomes {
  private static final Logger LOG = LoggerFactory.getLogger(Outcomes.class);
  private static final Set<String> KINDS = Set.of("release", "change");

  /** So far back there is what it can be held against. */
  private static final Duration BACK = Duration.ofDays(42);

  /** Of what is about everything these tell enough. */
  private static final int MOST_INSTANCES = 50;

  private static final int MOST = 3;

  private static final String BETTER = "better";
  private static final String WORSE = "worse";

  /** What was told, or could not be, is looked at again then. */
  private static final Duration REST = Duration.ofHours(1);

  /** What was brought in since is worth telling it anew. */
  private static final Duration MORE = Duration.ofDays(1);

  private final Store store;
  private final SeriesCompared series;
  private final LiveStreams live;
  private final JsonMapper json;
  private final Clock clock;
  private final AtomicBoolean telling = new AtomicBoolean();

  /**
   * Since when each instance was kept when it was looked at: while that moves, history comes in.
   */
  private final Map<Integer, Instant> seen = new HashMap<>();

  /** What has been looked at is left alone until then. */
  private final Map<Due, Instant> rests = new HashMap<>();

  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread made = new Thread(task, "outcomes");
            made.setDaemon(true);
            return made;
          });

  Outcomes(Store store, SeriesCompared series, LiveStreams live, JsonMapper json, Clock clock) {
    this.store = store;
    this.series = series;
    this.live = live;
    this.json = json;
    this.clock = clock;
  }

  /** A marker that was changed is another one. */
  private record Due(MarkerRow marker, String span, int instance) {}

  private record Key(int marker, String span, int instance) {}

  @Scheduled(fixedDelay = 60_000, initialDelay = 60_000)
  void eachMinute() {
    if (telling.compareAndSet(false, true)) {
      thread.execute(
          () -> {
            try {
              tell();
            } catch (RuntimeException e) {
              if (!StoreAway.is(e) && !thread.isShutdown()) {
                LOG.error("event=outcomes-failed", e);
              }
            } finally {
              telling.set(false);
            }
          });
    }
  }

  /** Tells what is due and has not been told. */
  public void tell() {
    Instant now = clock.instant();
    List<MarkerRow> markers =
        store.markers().touching(now.minus(BACK), now).stream()
            .filter(marker -> KINDS.contains(marker.kind()))
            .toList();
    if (markers.isEmpty()) {
      return;
    }
    Map<Key, Instant> before =
        store.markers().told(markers.stream().mapToInt(MarkerRow::id).toArray()).stream()
            .collect(
                Collectors.toMap(
                    one -> new Key(one.marker(), one.span(), one.instance()),
                    OutcomeTold::keptSince));
    List<InstanceRow> instances =
        store.instances().all().stream().filter(row -> !row.paused()).toList();
    Map<Integer, Optional<Instant>> kept = new HashMap<>();
    Set<Due> all = new HashSet<>();
    int told = 0;
    for (MarkerRow marker : markers) {
      List<InstanceRow> about =
          instances.stream()
              .filter(row -> MarkerService.reaches(marker, row))
              .limit(MOST_INSTANCES)
              .toList();
      for (InstanceRow row : about) {
        for (String span : MarkerService.SPANS_AFTER) {
          Due due = new Due(marker, span, row.id());
          all.add(due);
          if (Stretches.isOver(marker, span, now.toEpochMilli())
              && !rests.getOrDefault(due, Instant.MIN).isAfter(now)) {
            Optional<Instant> since =
                kept.computeIfAbsent(row.id(), id -> store.readings().first(new int[] {id}));
            Instant known = before.get(new Key(marker.id(), span, row.id()));
            told += look(due, row, since, known, now) ? 1 : 0;
          }
        }
      }
    }
    kept.forEach((id, since) -> since.ifPresent(first -> seen.put(id, first)));
    rests.keySet().retainAll(all);
    if (told > 0) {
      live.changed("markers");
      LOG.info(
          "event=outcomes-told outcomes={} took_ms={}",
          told,
          Duration.between(now, clock.instant()).toMillis());
    }
  }

  /**
   * @param since what is kept of the instance begins then
   * @param known it is told, of history that began then; null where it is not
   * @return whether it is told, or told anew
   */
  private boolean look(
      Due due, InstanceRow row, Optional<Instant> since, Instant known, Instant now) {
    if (since.isPresent() && !since.get().equals(seen.get(row.id()))) {
      // more may come in: in a minute again
      return false;
    }
    rests.put(due, now.plus(REST));
    boolean anew = since.isPresent() && (known == null || since.get().isBefore(known.minus(MORE)));
    Stretches two = Stretches.marker(due.marker(), due.span(), clock.millis());
    if (!anew || since.get().toEpochMilli() > two.before()) {
      return false;
    }
    try {
      return tell(due, row, two, since.get());
    } catch (Problem e) {
      // others compare just now
      rests.remove(due);
      return false;
    }
  }

  private boolean tell(Due due, InstanceRow row, Stretches two, Instant since) {
    SeriesCompared.Told told = series.of(row, two, SeriesCompared.Other.SELF);
    List<CompareView.Row> beyond =
        told.rows().stream().filter(one -> !one.verdict().equals("within")).toList();
    int within = told.rows().size() - beyond.size();
    if (told.rows().isEmpty() && told.same() == 0) {
      return false;
    }
    int better = (int) beyond.stream().filter(one -> way(one).equals(BETTER)).count();
    int worse = (int) beyond.stream().filter(one -> way(one).equals(WORSE)).count();
    OutcomeRow outcome =
        new OutcomeRow(
            due.marker().id(),
            due.span(),
            row.id(),
            "",
            clock.instant(),
            since,
            better,
            worse,
            beyond.size() - better - worse,
            told.same() + within,
            json.writeValueAsString(beyond.stream().limit(MOST).map(Outcomes::most).toList()));
    return store.markers().keepOutcome(due.marker(), outcome) > 0;
  }

  /** By the direction in which the counter gets worse; where it has none, more or less. */
  private static String way(CompareView.Row row) {
    Worse direction = Worse.valueOf(row.worse().toUpperCase(Locale.ROOT));
    if (direction.worsens(row.shift())) {
      return WORSE;
    }
    return direction.betters(row.shift()) ? BETTER : row.shift() > 0 ? "more" : "less";
  }

  private static MarkerView.Most most(CompareView.Row row) {
    return new MarkerView.Most(
        row.series(),
        row.title(),
        row.labels(),
        row.about(),
        row.unit(),
        row.before(),
        row.after(),
        way(row));
  }

  @PreDestroy
  void end() {
    thread.shutdownNow();
  }
}
