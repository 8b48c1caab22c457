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

  private final Pasts pasts;
  private final Limit limit;

  /** What is held against the number, sorted, on a scale on which more is always worse. */
  private final double[] sorted;

  /**
   * @param limit of which other numbers are tried
   */
  public Trying(Pasts pasts, Limit limit) {
    this.pasts = pasts;
    this.limit = limit;
    this.sorted =
        pasts.series().stream()
            .flatMapToDouble(past -> Arrays.stream(past.held(limit.condition())))
            .filter(value -> !Double.isNaN(value))
            .map(value -> badness(limit, value))
            .sorted()
            .toArray();
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
   * @param alerts that nobody muted
   * @param millis how long was tried
   * @param zone of who is watched
   */
  public static Noise noise(List<Alert> alerts, long millis, List<Span> incidents, ZoneId zone) {
    int criticals = 0;
    int atNight = 0;
    int without = 0;
    long inAlert = 0;
    for (Alert alert : alerts) {
      criticals += alert.severity() == Severity.CRITICAL ? 1 : 0;
      int hour = Instant.ofEpochMilli(alert.rose()).atZone(zone).getHour();
      atNight += hour >= NIGHT_FROM || hour < NIGHT_TO ? 1 : 0;
      inAlert += alert.until() - alert.rose();
      without += incidents.stream().noneMatch(span -> span.touches(alert)) ? 1 : 0;
    }
    return new Noise(
        perWeek(alerts.size(), millis),
        criticals,
        atNight,
        inAlert,
        without,
        incidents.stream().map(span -> caught(span, alerts)).toList());
  }

  private static double perWeek(int alerts, long millis) {
    return millis <= 0 ? 0 : alerts * WEEK / millis;
  }

  private static Caught caught(Span incident, List<Alert> alerts) {
    long first =
        alerts.stream()
            .filter(incident::touches)
            .mapToLong(alert -> Math.max(0, alert.rose() - incident.from()))
            .min()
            .orElse(-1);
    return new Caught(incident, first);
  }

  /** Alerts that were told: not those that rose while it was muted. */
  public static List<Alert> told(List<Alert> alerts, List<Span> muted) {
    return alerts.stream()
        .filter(
            alert ->
                muted.stream()
                    .noneMatch(span -> alert.rose() >= span.from() && alert.rose() <= span.to()))
        .toList();
  }

  /**
   * How it would be with another number.
   *
   * @param perWeek alerts a week
   * @param caught how many incidents an alert touches
   */
  public record Point(double number, double perWeek, int caught) {}

  /**
   * What is tried: the pasts of all series that a limit is for, and when each of them was muted.
   */
  public record Pasts(
      List<PastJudgings> series, List<List<Span>> muted, long millis, List<Span> incidents) {

    private List<Alert> alerts(Limit limit) {
      List<Alert> all = new ArrayList<>();
      for (int i = 0; i < series.size(); i++) {
        all.addAll(told(series.get(i).alerts(limit), muted.get(i)));
      }
      return all;
    }
  }

  private Point at(double number) {
    List<Alert> alerts = pasts.alerts(with(number));
    int caught = 0;
    for (Span incident : pasts.incidents()) {
      caught += alerts.stream().anyMatch(incident::touches) ? 1 : 0;
    }
    return new Point(number, perWeek(alerts.size(), pasts.millis()), caught);
  }

  /**
   * The same with another number for its lowest threshold, and nothing beyond. Clear goes along,
   * but not beyond what is usual: it would never be calm.
   */
  private Limit with(double number) {
    Threshold lowest = limit.lowest();
    double clear = number + (lowest.clear() - lowest.number());
    if (limit.condition() != Condition.OUTSIDE && limit.badness(clear) < usual()) {
      clear = limit.condition() == Condition.BELOW ? -usual() : usual();
    }
    return new Limit(
        limit.condition(),
        limit.worse(),
        new Threshold(number, clear, lowest.m(), lowest.n()),
        Threshold.NONE,
        limit.clearMillis(),
        limit.stepMillis());
  }

  private double usual() {
    return sorted[sorted.length / 2];
  }

  /**
   * Numbers between what is usual and what never was, the noisiest first.
   *
   * @param n how many, at least 2
   * @return empty where nothing was judged
   */
  public double[] numbers(int n) {
    if (sorted.length == 0) {
      return new double[0];
    }
    double most = sorted[sorted.length - 1];
    double from = usual();
    double to = most + (most - from) / 20;
    if (limit.condition() == Condition.OUTSIDE) {
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
      numbers[i] = limit.condition() == Condition.BELOW ? -badness : badness;
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
        limit.condition() == Condition.BELOW ? Math.floor(times + 1e-9) : Math.ceil(times - 1e-9);
    // a product of decimals is none
    return Double.parseDouble(String.format(Locale.ROOT, "%.6g", whole * unit));
  }
}
