package jamjar.server.limits;

import static jamjar.server.numbers.Numbers.known;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.limit.Condition;
import jamjar.core.limit.PastJudgings;
import jamjar.core.limit.PastJudgings.Alert;
import jamjar.core.limit.Threshold;
import jamjar.core.limit.Trying;
import jamjar.core.limit.Trying.Past;
import jamjar.core.limit.Trying.Span;
import jamjar.server.limits.TriedSeries.Target;
import jamjar.server.markers.MarkerService;
import jamjar.server.problems.OneAtATime;
import jamjar.server.problems.Problem;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;
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

  private final Store store;
  private final Subjects subjects;
  private final TriedSeries targets;
  private final PastReader reader;
  private final Clock clock;

  /** It reads weeks of many series. */
  private final OneAtATime one = new OneAtATime("Others just try limits.");

  /** While a number is dragged the others stay as they are. */
  private final Cache<CurveKey, Curve> curves = Caffeine.newBuilder().maximumSize(20).build();

  TryingService(
      Store store, Subjects subjects, TriedSeries targets, PastReader reader, Clock clock) {
    this.store = store;
    this.subjects = subjects;
    this.targets = targets;
    this.reader = reader;
    this.clock = clock;
  }

  /** An alert, of whom. */
  private record Risen(Target of, Alert alert) {}

  /** How it would be with other numbers. */
  private record Curve(List<Trying.Point> points, Optional<Double> suggestion) {}

  /**
   * What makes a curve: of each series all but the number itself.
   *
   * @param clear how far it is from the number
   */
  private record OfSeries(
      int series,
      Condition condition,
      float clear,
      int m,
      int n,
      long clearMillis,
      double against,
      List<Span> muted,
      List<Span> incidents) {

    static OfSeries of(Target target, Past past) {
      Threshold lowest = past.limit().lowest();
      return new OfSeries(
          target.series().id(),
          past.limit().condition(),
          (float) (lowest.clear() - lowest.number()),
          lowest.m(),
          lowest.n(),
          past.limit().clearMillis(),
          past.limit().against(),
          past.muted(),
          past.incidents());
    }
  }

  private record CurveKey(List<OfSeries> series, long from, long to, double wanted) {}

  TryingView tried(TryingView.Body body) {
    Subject subject = subjects.of(body.series());
    Condition condition = Condition.valueOf(body.limit().condition().toUpperCase(Locale.ROOT));
    if (condition.ofInstance()) {
      throw Problem.field("condition", "What is silent has no readings that it could be tried on.");
    }
    if (condition == Condition.REACHES) {
      throw Problem.field(
          "condition",
          "What will be reached is told by a forecast each night: it cannot be tried on the past.");
    }
    List<Target> all = targets.of(numbered(body.limit()), subject.instance().id());
    if (all.isEmpty()) {
      throw Problem.field("counter", "It would be in force on no series: a nearer limit wins.");
    }
    return one.answer(() -> tried(body, all));
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
            limit.against(),
            limit.on(),
            limit.offReason(),
            limit.offUntil());
  }

  private TryingView tried(TryingView.Body body, List<Target> all) {
    long to = Math.floorDiv(clock.millis(), GRID) * GRID;
    List<PastJudgings> judgings = judgings(all, to - body.weeks() * WEEK.toMillis(), to);
    List<Target> some = all.subList(0, judgings.size());
    long from =
        judgings.stream()
            .filter(past -> past.size() > 0)
            .mapToLong(PastJudgings::from)
            .min()
            .orElse(to);
    List<MarkerRow> markers =
        store.markers().touching(Instant.ofEpochMilli(from), Instant.ofEpochMilli(to));
    List<Past> pasts = new ArrayList<>();
    for (int i = 0; i < some.size(); i++) {
      InstanceRow instance = some.get(i).instance();
      pasts.add(
          new Past(
              judgings.get(i),
              some.get(i).limit(),
              spans("maintenance", markers, instance, to),
              spans("incident", markers, instance, to),
              ZoneId.of(instance.zone())));
    }
    Trying trying = new Trying(pasts, to - from);
    List<List<Alert>> told =
        pasts.stream()
            .map(past -> isNumbered(body.limit()) ? past.told() : List.<Alert>of())
            .toList();
    List<Risen> risen =
        IntStream.range(0, told.size())
            .boxed()
            .flatMap(i -> told.get(i).stream().map(alert -> new Risen(some.get(i), alert)))
            .sorted(Comparator.comparingLong(one -> one.alert().rose()))
            .toList();
    Trying.Noise noise = trying.noise(told);
    Curve curve =
        curves.get(
            new CurveKey(
                IntStream.range(0, pasts.size())
                    .mapToObj(i -> OfSeries.of(some.get(i), pasts.get(i)))
                    .toList(),
                from,
                to,
                body.wanted()),
            key -> curve(trying, body.wanted()));
    return new TryingView(
        from,
        to,
        some.size(),
        all.size() - some.size(),
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
        noise.incidents().stream().map(caught -> view(caught, markers)).toList(),
        curve.points().stream()
            .map(point -> new TryingView.Point(point.number(), point.perWeek(), point.caught()))
            .toList(),
        curve.suggestion().orElse(null));
  }

  /** Those of as many as there is room for. */
  private List<PastJudgings> judgings(List<Target> all, long from, long to) {
    List<PastJudgings> judgings = new ArrayList<>();
    long many = 0;
    for (Target one : all) {
      if (judgings.size() == MOST_SERIES || many > MOST_JUDGINGS) {
        break;
      }
      PastJudgings past = reader.read(one.instance(), one.series(), one.limit(), from, to);
      judgings.add(past);
      many += past.size();
    }
    return judgings;
  }

  private static Curve curve(Trying trying, double wanted) {
    List<Trying.Point> points = trying.sweep(trying.numbers(NUMBERS));
    return new Curve(points, trying.suggestion(points, wanted).stream().boxed().findFirst());
  }

  private static TryingView.Incident view(Trying.Caught caught, List<MarkerRow> markers) {
    Span span = caught.incident();
    return new TryingView.Incident(
        span.id(),
        markers.stream()
            .filter(marker -> marker.id() == span.id())
            .map(MarkerRow::title)
            .findFirst()
            .orElse(""),
        span.from(),
        span.to(),
        caught.after() < 0 ? null : caught.after());
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
}
