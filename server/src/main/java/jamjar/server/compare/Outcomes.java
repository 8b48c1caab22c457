package jamjar.server.compare;

import jakarta.annotation.PreDestroy;
import jamjar.server.live.LiveStreams;
import jamjar.server.markers.MarkerService;
import jamjar.server.markers.MarkerView;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.markers.OutcomeRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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

  /** What was brought in since is worth telling it anew. */
  private static final Duration MORE = Duration.ofDays(1);

  private final Store store;
  private final SeriesCompared series;
  private final LiveStreams live;
  private final JsonMapper json;
  private final Clock clock;
  private final AtomicBoolean telling = new AtomicBoolean();

  /** Since when each instance is kept, as of the last round: while that moves, history comes in. */
  private Map<Integer, Instant> keptSince = Map.of();

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
        store.markers().outcomes(markers.stream().mapToInt(MarkerRow::id).toArray()).stream()
            .collect(
                Collectors.toMap(
                    row -> new Key(row.marker(), row.span(), row.instance()),
                    OutcomeRow::keptSince));
    List<InstanceRow> instances =
        store.instances().all().stream().filter(row -> !row.paused()).toList();
    Map<Integer, Instant> kept = new HashMap<>();
    instances.forEach(
        row ->
            store
                .readings()
                .first(new int[] {row.id()})
                .ifPresent(first -> kept.put(row.id(), first)));
    Map<Integer, Instant> last = keptSince;
    keptSince = kept;
    int told = 0;
    for (MarkerRow marker : markers) {
      List<InstanceRow> about =
          instances.stream()
              .filter(row -> MarkerService.reaches(marker, row))
              .filter(row -> kept.containsKey(row.id()))
              .filter(row -> kept.get(row.id()).equals(last.get(row.id())))
              .limit(MOST_INSTANCES)
              .toList();
      for (InstanceRow row : about) {
        for (String span : Stretches.SPANS) {
          Instant known = before.get(new Key(marker.id(), span, row.id()));
          Instant since = kept.get(row.id());
          boolean anew = known == null || since.isBefore(known.minus(MORE));
          if (anew && tell(marker, row, span, since)) {
            told++;
          }
        }
      }
    }
    if (told > 0) {
      live.changed("markers");
      LOG.info(
          "event=outcomes-told outcomes={} took_ms={}",
          told,
          Duration.between(now, clock.instant()).toMillis());
    }
  }

  private boolean tell(MarkerRow marker, InstanceRow row, String span, Instant since) {
    long now = clock.millis();
    if (!Stretches.isOver(marker, span, now)) {
      return false;
    }
    Stretches two = Stretches.marker(marker, span, now);
    if (since.toEpochMilli() > two.before()) {
      return false;
    }
    SeriesCompared.Told told;
    try {
      told = series.of(row, two, SeriesCompared.Other.SELF);
    } catch (Problem e) {
      // others compare just now: in a minute again
      return false;
    }
    List<CompareView.Row> beyond =
        told.rows().stream().filter(one -> !one.verdict().equals("within")).toList();
    int within = told.rows().size() - beyond.size();
    if (told.rows().isEmpty() && told.same() == 0) {
      return false;
    }
    int better = (int) beyond.stream().filter(one -> way(one).equals("better")).count();
    int worse = (int) beyond.stream().filter(one -> way(one).equals("worse")).count();
    store
        .markers()
        .keepOutcome(
            new OutcomeRow(
                marker.id(),
                span,
                row.id(),
                clock.instant(),
                since,
                better,
                worse,
                beyond.size() - better - worse,
                told.same() + within,
                json.writeValueAsString(beyond.stream().limit(MOST).map(Outcomes::most).toList())));
    return true;
  }

  /** By the direction in which the counter gets worse; where it has none, more or less. */
  private static String way(CompareView.Row row) {
    boolean more = row.shift() > 0;
    return switch (row.worse()) {
      case "up" -> more ? "worse" : "better";
      case "down" -> more ? "better" : "worse";
      default -> more ? "more" : "less";
    };
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
