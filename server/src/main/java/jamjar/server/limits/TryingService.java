package jamjar.server.limits;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.Condition;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Limit;
import jamjar.core.limit.PastJudgings;
import jamjar.core.limit.PastJudgings.Alert;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Trying;
import jamjar.core.limit.Trying.Span;
import jamjar.core.reading.SeriesKey;
import jamjar.server.markers.MarkerService;
import jamjar.server.problems.Problem;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** Tries limits on the past before they are set. */
@Service
class TryingService {
  private static final Duration WEEK = Duration.ofDays(7);

  /** While somebody tries numbers the end of the past stands still. */
  private static final long GRID = Duration.ofMinutes(1).toMillis();

  private static final int NUMBERS = 50;
  private static final int MOST_SERIES = 60;

  /** So many judgings are tried at once, of all series together: 25 bytes each. */
  private static final long MOST_JUDGINGS = 2_500_000;

  private static final int MOST_ALERTS = 300;
  private static final int PATIENCE_SECONDS = 20;

  private final Store store;
  private final Subjects subjects;
  private final Recipes recipes;
  private final PastReader reader;
  private final Clock clock;

  /** It reads weeks of many series: one after the other. */
  private final Semaphore one = new Semaphore(1, true);

  TryingService(Store store, Subjects subjects, Recipes recipes, PastReader reader, Clock clock) {
    this.store = store;
    this.subjects = subjects;
    this.recipes = recipes;
    this.reader = reader;
    this.clock = clock;
  }

  /** A series on which the limit would be in force, and how. */
  private record Target(InstanceRow instance, SeriesRow series, Limit limit) {}

  /** An alert, of whom. */
  private record Risen(Target of, Alert alert) {}

  TryingView tried(TryingView.Body body) throws InterruptedException {
    Subject subject = subjects.of(body.series());
    Condition condition = Condition.valueOf(body.limit().condition().toUpperCase(Locale.ROOT));
    if (condition.ofInstance()) {
      throw Problem.field("condition", "What is silent has no readings that it could be tried on.");
    }
    List<Target> all = targets(subject, numbered(body.limit()), condition);
    if (all.isEmpty()) {
      throw Problem.field("counter", "It would be in force on no series: a nearer limit wins.");
    }
    if (!one.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
      throw Problem.busy("Others just try limits; ask again in a moment.");
    }
    try {
      return tried(body, condition, all);
    } finally {
      one.release();
    }
  }

  private static boolean isNumbered(LimitView.Body limit) {
    return limit.warning() != null || limit.critical() != null;
  }

  /** Without a number it is told how it would be with any: then this one stands for it. */
  private static LimitView.Body numbered(LimitView.Body limit) {
    return isNumbered(limit)
        ? limit
        : new LimitView.Body(
            limit.counter(),
            limit.labels(),
            limit.scope(),
            limit.condition(),
            0.0,
            null,
            limit.hold(),
            null,
            limit.clear(),
            null,
            limit.on(),
            limit.offReason(),
            limit.offUntil());
  }

  private TryingView tried(TryingView.Body body, Condition condition, List<Target> all) {
    long to = Math.floorDiv(clock.millis(), GRID) * GRID;
    long wanted = to - body.weeks() * WEEK.toMillis();
    boolean outside = condition == Condition.OUTSIDE;
    List<PastJudgings> pasts = new ArrayList<>();
    long judgings = 0;
    for (Target one : all) {
      if (pasts.size() == MOST_SERIES || judgings > MOST_JUDGINGS) {
        break;
      }
      pasts.add(
          reader.read(one.instance(), one.series(), one.limit().stepMillis(), outside, wanted, to));
      judgings += pasts.get(pasts.size() - 1).size();
    }
    List<Target> targets = all.subList(0, pasts.size());
    long from =
        pasts.stream()
            .filter(past -> past.size() > 0)
            .mapToLong(PastJudgings::from)
            .min()
            .orElse(to);
    List<MarkerRow> markers =
        store.markers().touching(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to));
    List<MarkerRow> incidents = of("incident", markers, targets);
    List<Span> marked = incidents.stream().map(marker -> span(marker, to)).toList();
    List<List<Span>> muted =
        targets.stream().map(one -> spans("maintenance", markers, one.instance(), to)).toList();
    Trying.Pasts tried = new Trying.Pasts(pasts, muted, to - from, marked);
    List<Risen> risen = new ArrayList<>();
    for (int i = 0; i < targets.size() && isNumbered(body.limit()); i++) {
      Target target = targets.get(i);
      Trying.told(pasts.get(i).alerts(target.limit()), muted.get(i))
          .forEach(alert -> risen.add(new Risen(target, alert)));
    }
    risen.sort(Comparator.comparingLong(one -> one.alert().rose()));
    Trying trying = new Trying(tried, targets.get(0).limit());
    List<Trying.Point> curve = trying.sweep(trying.numbers(NUMBERS));
    Trying.Noise noise =
        Trying.noise(
            risen.stream().map(Risen::alert).toList(),
            to - from,
            marked,
            ZoneId.of(targets.get(0).instance().zone()));
    List<TryingView.Incident> caught = new ArrayList<>();
    for (int i = 0; i < incidents.size(); i++) {
      long after = noise.incidents().get(i).after();
      Span span = marked.get(i);
      caught.add(
          new TryingView.Incident(
              span.id(),
              incidents.get(i).title(),
              span.from(),
              span.to(),
              after < 0 ? null : after));
    }
    return new TryingView(
        from,
        to,
        targets.size(),
        all.size() - targets.size(),
        noise.perWeek(),
        noise.criticals(),
        noise.atNight(),
        noise.inAlert(),
        noise.without(),
        risen.subList(Math.max(0, risen.size() - MOST_ALERTS), risen.size()).stream()
            .map(
                one ->
                    view(
                        one,
                        spans("incident", markers, one.of().instance(), to),
                        spans("noise", markers, one.of().instance(), to)))
            .toList(),
        caught,
        curve.stream()
            .map(point -> new TryingView.Point(point.number(), point.perWeek(), point.caught()))
            .toList(),
        trying.suggestion(curve, body.wanted()).stream().boxed().findFirst().orElse(null));
  }

  private static TryingView.Alert view(Risen risen, List<Span> incidents, List<Span> noise) {
    Alert alert = risen.alert();
    return new TryingView.Alert(
        risen.of().instance().id(),
        risen.of().instance().name(),
        risen.of().series().id(),
        risen.of().series().labels(),
        alert.since(),
        alert.rose(),
        alert.until(),
        alert.severity().name().toLowerCase(Locale.ROOT),
        known(alert.worst()),
        incidents.stream().filter(span -> span.touches(alert)).map(Span::id).findFirst().orElse(0),
        noise.stream().anyMatch(span -> span.touches(alert)));
  }

  private static List<MarkerRow> of(String kind, List<MarkerRow> markers, List<Target> targets) {
    return markers.stream()
        .filter(marker -> marker.kind().equals(kind))
        .filter(
            marker ->
                targets.stream().anyMatch(one -> MarkerService.reaches(marker, one.instance())))
        .toList();
  }

  private static List<Span> spans(
      String kind, List<MarkerRow> markers, InstanceRow instance, long to) {
    return markers.stream()
        .filter(marker -> marker.kind().equals(kind) && MarkerService.reaches(marker, instance))
        .map(marker -> span(marker, to))
        .toList();
  }

  private static Span span(MarkerRow marker, long to) {
    return new Span(
        marker.id(),
        marker.from().toEpochMilli(),
        marker.to() == null ? to : marker.to().toEpochMilli());
  }

  /** All series on which it would be in force, that which is looked at first. */
  private List<Target> targets(Subject subject, LimitView.Body body, Condition condition) {
    Rule tried = Rules.rule(Rules.row(0, body, clock.instant()), clock.instant());
    List<Rule> rules =
        Stream.concat(
                Stream.of(tried),
                store.rules().all().stream()
                    .map(row -> Rules.rule(row, clock.instant()))
                    .filter(rule -> !sameLimit(rule, tried)))
            .toList();
    return store.instances().all().stream()
        .filter(row -> reaches(body.scope(), row))
        .sorted(
            Comparator.comparing((InstanceRow row) -> row.id() != subject.instance().id())
                .thenComparing(InstanceRow::name))
        .flatMap(row -> targets(row, rules, tried, condition))
        .toList();
  }

  private static boolean sameLimit(Rule a, Rule b) {
    return a.counter().equals(b.counter())
        && a.condition() == b.condition()
        && a.labels().equals(b.labels())
        && a.scope().equals(b.scope());
  }

  private static boolean reaches(LimitView.Reach scope, InstanceRow row) {
    return switch (scope.level()) {
      case "kind" -> scope.of().equals(row.kind());
      case "group" -> scope.of().equals(row.groupName());
      default -> scope.of().equals(Integer.toString(row.id()));
    };
  }

  private Stream<Target> targets(
      InstanceRow row, List<Rule> rules, Rule tried, Condition condition) {
    Optional<CounterDefinition> counter = recipes.of(row).counter(tried.counter());
    if (counter.isEmpty()) {
      return Stream.empty();
    }
    List<SeriesRow> series =
        store.series().alive(row.id()).stream()
            .filter(one -> one.counter().equals(tried.counter()))
            .toList();
    boolean hasWhole = series.stream().anyMatch(one -> one.labels().isEmpty());
    long interval = new Schedule(recipes.of(row), row.intervalS()).millis(counter.get());
    InForce.Place place = new InForce.Place(row.id(), row.groupName(), row.kind());
    return series.stream()
        .flatMap(
            one ->
                InForce.of(
                        rules,
                        place,
                        new SeriesKey(one.counter(), one.labels()),
                        counter.get(),
                        hasWhole,
                        interval)
                    .stream()
                    .filter(
                        force ->
                            force.limit().condition() == condition
                                && (force.warningFrom() == tried || force.criticalFrom() == tried))
                    .map(force -> new Target(row, one, force.limit())));
  }
}
