package jamjar.core.limit;

import jamjar.core.counter.Worse;
import jamjar.core.limit.PastJudgings.Alert;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.stream.IntStream;

/** A limit tried on the past: what it would have told, and what other numbers would have. */
public final class Trying {
  /** By the clock of who is watched: hours of the night. */
  private static final int NIGHT_FROM = 22;

  private static final int NIGHT_TO = 6;
  private static final double WEEK = 7 * 86_400_000.0;

  /** In spreads; nearer is noise, and farther is nothing that is tried for. */
  private static final double LEAST_SPREADS = 2;

  private static final double MOST_SPREADS = 40;

  /** A number is as fine as this share of the range in which it lies. */
  private static final int HALVINGS = 12;

  private static final int DIGITS = 3;

  private final List<Past> pasts;
  private final long millis;

  /**
   * What is held against the number, sorted, on a scale on which more is always worse; once asked.
   */
  private double[] sorted;

  /**
   * @param pasts of all series that a limit is for, under the same condition; at least one
   * @param millis how long is tried
   */
  public Trying(List<Past> pasts, long millis) {
    this.pasts = List.copyOf(pasts);
    this.millis = millis;
  }

  /** It takes longer than to try a number: only other numbers need it. */
  private synchronized double[] sorted() {
    if (sorted == null) {
      Limit limit = limit();
      sorted =
          pasts.stream()
              .flatMapToDouble(past -> Arrays.stream(past.judgings().held(limit.condition())))
              .filter(value -> !Double.isNaN(value))
              .map(value -> badness(limit, value))
              .toArray();
      Arrays.parallelSort(sorted);
    }
    return sorted;
  }

  private Limit limit() {
    return pasts.get(0).limit();
  }

  /**
   * The past of one series.
   *
   * @param limit as it would be in force on it
   * @param muted when nothing was told of it
   * @param incidents that are marked of it
   * @param zone of who is watched
   */
  public record Past(
      PastJudgings judgings, Limit limit, List<Span> muted, List<Span> incidents, ZoneId zone) {

    /** What would have been told of it. */
    public List<Alert> told() {
      return told(limit);
    }

    /** What rose while it was muted and still held at its end was told then. */
    private List<Alert> told(Limit limit) {
      List<Alert> told = new ArrayList<>();
      for (Alert alert : judgings.alerts(limit)) {
        long rose = alert.rose();
        for (Span span : muted) {
          rose = rose >= span.from() && rose <= span.to() ? span.to() : rose;
        }
        if (rose == alert.rose()) {
          told.add(alert);
        } else if (rose < alert.until()) {
          told.add(new Alert(alert.since(), rose, alert.until(), alert.severity(), alert.worst()));
        }
      }
      return told;
    }
  }

  /**
   * What somebody has marked.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  public record Span(int id, long from, long to) {
    public boolean touches(Alert alert) {
      return alert.rose() <= to && alert.until() >= from;
    }
  }

  /**
   * An incident, and when the first alert rose that touches it.
   *
   * @param after ms after it began, 0 where it rose before that; −1 where none did
   */
  public record Caught(Span incident, long after) {}

  /**
   * What would have been told.
   *
   * @param perWeek how many alerts a week
   * @param criticals how many of them became critical
   * @param atNight how many rose from 22 to 6 o'clock
   * @param inAlert how long one was open, ms; those of several series add up
   * @param without how many touch no incident
   */
  public record Noise(
      double perWeek,
      int criticals,
      int atNight,
      long inAlert,
      int without,
      List<Caught> incidents) {}

  /**
   * Counts what would have been told.
   *
   * @param told of each past
   */
  public Noise noise(List<List<Alert>> told) {
    int alerts = 0;
    int criticals = 0;
    int atNight = 0;
    int without = 0;
    long inAlert = 0;
    for (int i = 0; i < told.size(); i++) {
      Past past = pasts.get(i);
      for (Alert alert : told.get(i)) {
        alerts++;
        criticals += alert.severity() == Severity.CRITICAL ? 1 : 0;
        int hour = Instant.ofEpochMilli(alert.rose()).atZone(past.zone()).getHour();
        atNight += hour >= NIGHT_FROM || hour < NIGHT_TO ? 1 : 0;
        inAlert += alert.until() - alert.rose();
        without += past.incidents().stream().noneMatch(span -> span.touches(alert)) ? 1 : 0;
      }
    }
    return new Noise(
        perWeek(alerts),
        criticals,
        atNight,
        inAlert,
        without,
        incidents().stream().map(span -> new Caught(span, after(span, told))).toList());
  }

  /** Those of all series, each once. */
  private List<Span> incidents() {
    return pasts.stream().flatMap(past -> past.incidents().stream()).distinct().toList();
  }

  private double perWeek(int alerts) {
    return millis <= 0 ? 0 : alerts * WEEK / millis;
  }

  /** When the first alert rose of those that it is about; −1 where none did. */
  private long after(Span incident, List<List<Alert>> told) {
    return IntStream.range(0, told.size())
        .filter(i -> pasts.get(i).incidents().contains(incident))
        .boxed()
        .flatMap(i -> told.get(i).stream())
        .filter(incident::touches)
        .mapToLong(alert -> Math.max(0, alert.rose() - incident.from()))
        .min()
        .orElse(-1);
  }

  /**
   * How it would be with another number.
   *
   * @param perWeek alerts a week
   * @param caught how many incidents an alert touches
   */
  public record Point(double number, double perWeek, int caught) {}

  private Point at(double number) {
    List<List<Alert>> told =
        pasts.stream().map(past -> past.told(with(past.limit(), number))).toList();
    return new Point(
        number,
        perWeek(told.stream().mapToInt(List::size).sum()),
        (int) incidents().stream().filter(span -> after(span, told) >= 0).count());
  }

  /**
   * The same with another number for its lowest threshold, and nothing beyond. Clear goes along,
   * but not beyond what is usual: it would never be calm.
   */
  private Limit with(Limit limit, double number) {
    Threshold lowest = limit.lowest();
    // what is late is calm once it has come, whatever the number
    boolean comes = limit.condition() == Condition.OVERDUE;
    double clear = comes ? lowest.clear() : number + (lowest.clear() - lowest.number());
    if (!comes && limit.condition() != Condition.OUTSIDE && limit.badness(clear) < usual()) {
      clear = limit.condition().downwards() ? -usual() : usual();
    }
    return new Limit(
        limit.condition(),
        limit.worse(),
        new Threshold(number, clear, lowest.m(), lowest.n()),
        Threshold.NONE,
        limit.clearMillis(),
        limit.stepMillis(),
        limit.against(),
        limit.zone());
  }

  private double usual() {
    return sorted()[sorted().length / 2];
  }

  /**
   * Numbers between what is usual and what never was, the noisiest first.
   *
   * @param n how many, at least 2
   * @return empty where nothing was judged
   */
  public double[] numbers(int n) {
    if (sorted().length == 0) {
      return new double[0];
    }
    double most = sorted()[sorted().length - 1];
    double from = usual();
    double to = most + (most - from) / 20;
    if (limit().condition() == Condition.OUTSIDE) {
      from = LEAST_SPREADS;
      to = Math.max(2 * LEAST_SPREADS, Math.min(MOST_SPREADS, to));
    } else if (to <= from) {
      // it never changed: what is beyond it
      to = from + Math.max(1, Math.abs(from));
    }
    double[] numbers = new double[n];
    for (int i = 0; i < n; i++) {
      // what is usual is no number: it were an alert for ever
      double badness = from + (to - from) * (i + 1) / n;
      numbers[i] = limit().condition().downwards() ? -badness : badness;
    }
    return numbers;
  }

  private static double badness(Limit limit, double held) {
    if (limit.condition() != Condition.OUTSIDE) {
      return limit.badness(held);
    }
    return limit.worse() == Worse.BOTH
        ? Math.abs(held)
        : limit.worse() == Worse.DOWN ? -held : held;
  }

  /** How it would be with each of some numbers. */
  public List<Point> sweep(double[] numbers) {
    return Arrays.stream(numbers).parallel().mapToObj(this::at).toList();
  }

  /**
   * The number nearest to what is usual with no more alerts a week than wanted, in few digits.
   *
   * @param sweep as of {@link #sweep}
   */
  public OptionalDouble suggestion(List<Point> sweep, double wanted) {
    int quiet = 0;
    for (int i = 0; i < sweep.size(); i++) {
      // a number between two that are too loud is no calm one
      if (sweep.get(i).perWeek() > wanted) {
        quiet = i + 1;
      }
    }
    if (quiet >= sweep.size()) {
      return OptionalDouble.empty();
    }
    double calm = sweep.get(quiet).number();
    if (quiet > 0) {
      double loud = sweep.get(quiet - 1).number();
      for (int i = 0; i < HALVINGS; i++) {
        double middle = (loud + calm) / 2;
        if (at(middle).perWeek() > wanted) {
          loud = middle;
        } else {
          calm = middle;
        }
      }
    }
    return OptionalDouble.of(rounded(calm));
  }

  /** To the calm side. */
  private double rounded(double number) {
    if (number == 0) {
      return 0;
    }
    double unit = Math.pow(10, Math.floor(Math.log10(Math.abs(number))) - DIGITS + 1);
    double times = number / unit;
    double whole =
        limit().condition().downwards() ? Math.floor(times + 1e-9) : Math.ceil(times - 1e-9);
    // a product of decimals is none
    return Double.parseDouble(String.format(Locale.ROOT, "%.6g", whole * unit));
  }
}
