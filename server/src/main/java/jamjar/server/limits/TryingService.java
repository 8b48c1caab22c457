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
import java.util.OptionalDouble;
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

  /** Who drags a number is not kept waiting by the many numbers of somebody else. */
  private final OneAtATime many = new OneAtATime("Others just try limits with many numbers.");

  /** While a number is dragged the others stay as they are. */
  private final Cache<CurveKey, TryingView.Numbers> curves =
      Caffeine.newBuilder().maximumSize(20).build();

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

  /**
   * What a limit is tried on.
   *
   * @param of which series each past is
   * @param leftOut how many more it would be for
   */
  private record Tried(
      List<Target> of, List<Past> pasts, List<MarkerRow> markers, long from, long to, int leftOut) {
    Trying trying() {
      return new Trying(pasts, to - from);
    }
  }

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
    List<Target> all = targets(body);
    return one.answer(() -> view(body, gathered(body, all)));
  }

  /**
   * How it would be with other numbers.
   *
   * @param wanted how many alerts a week are wanted
   */
  TryingView.Numbers numbers(TryingView.Body body, double wanted) {
    List<Target> all = targets(body);
    Tried tried = one.answer(() -> gathered(body, all));
    CurveKey key =
        new CurveKey(
            IntStream.range(0, tried.of.size())
                .mapToObj(i -> OfSeries.of(tried.of.get(i), tried.pasts.get(i)))
                .toList(),
            tried.from,
            tried.to,
            wanted);
    return many.answer(() -> curves.get(key, asked -> curve(tried.trying(), wanted)));
  }

  private List<Target> targets(TryingView.Body body) {
    Condition condition = Condition.valueOf(body.limit().condition().toUpperCase(Locale.ROOT));
    if (condition.ofInstance()) {
      throw Problem.field("condition", "What is silent has no readings that it could be tried on.");
    }
    if (condition == Condition.REACHES) {
      throw Problem.field(
          "condition",
          "What will be reached is told by a forecast each night: it cannot be tried on the past.");
    }
    int first = body.series() == null ? 0 : subjects.of(body.series()).instance().id();
    List<Target> all = targets.of(numbered(body.limit()), first);
    if (all.isEmpty()) {
      throw Problem.field("counter", "It would be in force on no series: a nearer limit wins.");
    }
    return all;
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

  private Tried gathered(TryingView.Body body, List<Target> all) {
    long now = clock.millis();
    long until = body.until() == null ? now : Math.min(now, body.until());
    long to = Math.floorDiv(until, GRID) * GRID;
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
    return new Tried(some, pasts, markers, from, to, all.size() - some.size());
  }

  private static TryingView view(TryingView.Body body, Tried tried) {
    List<List<Alert>> told =
        tried.pasts.stream()
            .map(past -> isNumbered(body.limit()) ? past.told() : List.<Alert>of())
            .toList();
    List<Risen> risen =
        IntStream.range(0, told.size())
            .boxed()
            .flatMap(i -> told.get(i).stream().map(alert -> new Risen(tried.of.get(i), alert)))
            .sorted(Comparator.comparingLong(one -> one.alert().rose()))
            .toList();
    Trying.Noise noise = tried.trying().noise(told);
    return new TryingView(
        tried.from,
        tried.to,
        tried.of.size(),
        tried.leftOut,
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
                        spans("incident", tried.markers, one.of().instance(), tried.to),
                        spans("noise", tried.markers, one.of().instance(), tried.to)))
            .toList(),
        noise.incidents().stream().map(caught -> view(caught, tried.markers)).toList());
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

  private static TryingView.Numbers curve(Trying trying, double wanted) {
    List<Trying.Point> points = trying.sweep(trying.numbers(NUMBERS));
    OptionalDouble suggestion = trying.suggestion(points, wanted);
    return new TryingView.Numbers(
        points.stream()
            .map(point -> new TryingView.Point(point.number(), point.perWeek(), point.caught()))
            .toList(),
        suggestion.isPresent() ? suggestion.getAsDouble() : null);
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
