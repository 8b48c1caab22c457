package jamjar.core.limit;

import jamjar.core.baseline.Normal;
import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Judging.Outcome;
import jamjar.core.value.Value;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.LongFunction;

/**
 * The past of one series as a limit would judge it, in the order of time: gathered once, and then
 * tried with as many numbers as wanted. Where it was read less often than it would be judged, a
 * reading stands for the judgings that it covers.
 */
public final class PastJudgings {
  private final long step;
  private final int size;
  private final long[] edges;
  private final double[] values;
  private final byte[] covers;

  /** In spreads; empty unless it is held against its normal. */
  private final double[] distances;

  private PastJudgings(
      long step, int size, long[] edges, double[] values, byte[] covers, double[] distances) {
    this.step = step;
    this.size = size;
    this.edges = edges;
    this.values = values;
    this.covers = covers;
    this.distances = distances;
  }

  /**
   * Gathers what lies between the edges of the grid.
   *
   * @param samples as kept, in the order of time
   * @param partShape the shape of what was read: of a quotient that of its parts
   * @param step from one judging to the next, ms
   */
  public static PastJudgings of(
      CounterDefinition counter, Shape partShape, Samples samples, long step) {
    int most = samples.size();
    long[] edges = new long[most];
    double[] values = new double[most];
    byte[] covers = new byte[most];
    int n = 0;
    double above = 0;
    double below = 0;
    long edge = Long.MIN_VALUE;
    int stands = 0;
    for (int i = 0; i <= most; i++) {
      long mine = i == most ? Long.MAX_VALUE : edgeOf(samples.at()[i], step);
      if (mine != edge && stands > 0) {
        edges[n] = edge;
        values[n] = Value.shown(counter, above, below);
        covers[n++] = (byte) stands;
        above = 0;
        below = 0;
        stands = 0;
      }
      edge = mine;
      if (i == most) {
        break;
      }
      double a = samples.value()[i];
      double b = below(counter, samples, i);
      boolean whole =
          partShape != Shape.TOTAL
              || samples.elapsed()[i] > 0
                  && Value.covers(samples.elapsed()[i], samples.interval()[i]);
      if (whole && Double.isFinite(a) && Double.isFinite(b)) {
        above += a;
        below += b;
        stands = (int) Math.max(stands, covers(samples.interval()[i], step));
      }
    }
    return new PastJudgings(
        step,
        n,
        Arrays.copyOf(edges, n),
        Arrays.copyOf(values, n),
        Arrays.copyOf(covers, n),
        new double[0]);
  }

  /**
   * How late something was that is due each day.
   *
   * @param samples as kept, in the order of time: more than nothing is that it happened
   * @param limit tells when it is due, and how often it is judged
   */
  public static PastJudgings overdue(Samples samples, Limit limit) {
    int n = samples.size();
    if (n == 0) {
      return new PastJudgings(
          limit.stepMillis(), 0, new long[0], new double[0], new byte[0], new double[0]);
    }
    long step = limit.stepMillis();
    long first = edgeOf(samples.at()[0], step);
    int size = (int) ((edgeOf(samples.at()[n - 1], step) - first) / step) + 1;
    long[] edges = new long[size];
    double[] values = new double[size];
    byte[] covers = new byte[size];
    Arrays.fill(covers, (byte) 1);
    long happened = samples.at()[0];
    int next = 0;
    for (int i = 0; i < size; i++) {
      edges[i] = first + i * step;
      while (next < n && samples.at()[next] <= edges[i]) {
        if (samples.value()[next] > 0) {
          happened = samples.at()[next];
        }
        next++;
      }
      values[i] = limit.due().late(happened, edges[i]);
    }
    return new PastJudgings(step, size, edges, values, covers, new double[0]);
  }

  private static long edgeOf(long at, long step) {
    return -Math.floorDiv(-at, step) * step;
  }

  private static long covers(long interval, long step) {
    return Math.max(1, Math.min(Threshold.MOST, (interval + step / 2) / step));
  }

  private static double below(CounterDefinition counter, Samples samples, int i) {
    return switch (counter.shape()) {
      case LEVEL -> 1;
      case TOTAL -> samples.elapsed()[i] / 1000.0;
      case QUOTIENT -> samples.below().stream().mapToDouble(part -> part[i]).sum();
    };
  }

  /**
   * The same, held against what is normal.
   *
   * @param normal what was normal at a moment, epoch ms, as far as it was known by then
   */
  public PastJudgings against(CounterDefinition counter, LongFunction<Normal> normal) {
    double[] found = new double[size];
    for (int i = 0; i < size; i++) {
      found[i] =
          normal.apply(edges[i]).distance(values[i], counter.matters(), counter.resolution());
    }
    return new PastJudgings(step, size, edges, values, covers, found);
  }

  public int size() {
    return size;
  }

  /** Begin of the first judging, epoch ms; 0 for none. */
  public long from() {
    return size == 0 ? 0 : edges[0] - covers[0] * step;
  }

  /** End of the last one, epoch ms; 0 for none. */
  public long to() {
    return size == 0 ? 0 : edges[size - 1];
  }

  /** How long it was judged, ms. */
  public long judged() {
    long judgings = 0;
    for (int i = 0; i < size; i++) {
      judgings += covers[i];
    }
    return judgings * step;
  }

  /** What is held against numbers: the values, or the distances from normal; not to be changed. */
  public double[] held(Condition condition) {
    return condition == Condition.OUTSIDE ? distances : values;
  }

  /**
   * An alert that would have risen.
   *
   * @param since the first judging that passed, epoch ms
   * @param rose when it rose, epoch ms
   * @param until when it was calm again, epoch ms; the end of the past where it was not
   * @param severity the worst that it reached
   * @param worst the worst value
   */
  public record Alert(long since, long rose, long until, Severity severity, double worst) {}

  /**
   * An alert that would have risen, with all that would have happened to it.
   *
   * @param end where its limit stands afterwards: open where it was not calm again
   */
  public record Told(Alert alert, List<Transition> transitions, LimitState end) {
    public Told {
      transitions = List.copyOf(transitions);
    }

    /** The same with what was normal at the time of each transition. */
    public Told with(LongFunction<Normal> normal) {
      return new Told(
          alert, transitions.stream().map(one -> one.with(normal.apply(one.at()))).toList(), end);
    }
  }

  /** The alerts that a limit would have raised, from calm. */
  public List<Alert> alerts(Limit limit) {
    return walked(new Walk(limit, false)).end();
  }

  /** As above, with all that would have happened to each. */
  public List<Told> told(Limit limit) {
    Walk walk = walked(new Walk(limit, true));
    walk.end();
    return walk.told;
  }

  private Walk walked(Walk walk) {
    Limit limit = walk.limit;
    double[] held = held(limit.condition());
    double least = limit.lowest().number();
    int i = 0;
    while (i < size) {
      // what rose within the last hour is looked at by the next judging that passes
      if (walk.state.state() == AlertState.CALM) {
        i = next(limit, held, least, i);
        if (i == size) {
          break;
        }
      }
      i = walk.stays(i);
      walk.judge(i++);
    }
    return walk;
  }

  /** The next judging that passes a number; where there is none, the size. */
  private int next(Limit limit, double[] held, double least, int from) {
    double number = limit.condition().downwards() ? -least : least;
    boolean both = limit.condition() == Condition.OUTSIDE && limit.worse() == Worse.BOTH;
    double sign = sign(limit);
    for (int i = from; i < size; i++) {
      double badness = both ? Math.abs(held[i]) : sign * held[i];
      if (badness >= number) {
        return i;
      }
    }
    return size;
  }

  /** What makes more of what is held always worse; of what is bad either way its amount is. */
  private static double sign(Limit limit) {
    boolean down = limit.condition() == Condition.OUTSIDE && limit.worse() == Worse.DOWN;
    return limit.condition().downwards() || down ? -1 : 1;
  }

  /** One limit on its way through the past. */
  private final class Walk {
    private final Limit limit;
    private final List<Alert> alerts = new ArrayList<>();
    private LimitState state = LimitState.calm(Long.MIN_VALUE);
    private long rose = Long.MIN_VALUE;
    private long since;
    private Severity severity = Severity.NONE;
    private double worst = Double.NaN;
    private final List<Told> told = new ArrayList<>();
    private final List<Transition> passed = new ArrayList<>();
    private final Consumer<Transition> sink;

    Walk(Limit limit, boolean tells) {
      this.limit = limit;
      this.sink = tells ? passed::add : transition -> {};
    }

    /**
     * Passes over judgings at which an open alert stays as it is, but for its worst value. What the
     * holds look back at is judged one by one again.
     *
     * @return the judging to go on with
     */
    int stays(int from) {
      Judge.Between between = Judge.stays(limit, state);
      if (between == null) {
        return from;
      }
      double[] held = held(limit.condition());
      boolean both = limit.condition() == Condition.OUTSIDE && limit.worse() == Worse.BOTH;
      double sign = sign(limit);
      int i = from;
      int worstAt = -1;
      double worstBadness = state.standing().worstBadness();
      for (; i < size && edges[i] - covers[i] * step <= edges[i - 1]; i++) {
        double badness = both ? Math.abs(held[i]) : sign * held[i];
        if (!(badness > between.above() && badness < between.below())) {
          break;
        }
      }
      int until = i - Threshold.MOST;
      for (int j = from; j < until; j++) {
        double badness = both ? Math.abs(held[j]) : sign * held[j];
        if (badness > worstBadness) {
          worstBadness = badness;
          worstAt = j;
        }
      }
      if (until <= from) {
        return from;
      }
      state =
          state.stayed(
              edges[until - 1], worstAt < 0 ? state.worst() : values[worstAt], worstBadness);
      worst = state.worst();
      return until;
    }

    void judge(int i) {
      long begins = edges[i] - covers[i] * step;
      if (!state.idle() && begins > edges[i - 1]) {
        long missing = (begins - edges[i - 1]) / step;
        if (missing > 0) {
          step(
              new Judging(
                  begins,
                  begins,
                  begins,
                  Outcome.MISSING,
                  Double.NaN,
                  Normal.NONE,
                  Double.NaN,
                  (int) Math.min(Threshold.MOST, missing)));
        }
      }
      boolean unknown =
          Double.isNaN(values[i])
              || limit.condition() == Condition.OUTSIDE && Double.isNaN(distances[i]);
      step(
          new Judging(
              edges[i],
              edges[i],
              edges[i],
              unknown ? Outcome.TOO_FEW : Outcome.VALUE,
              values[i],
              Normal.NONE,
              distances.length == 0 ? Double.NaN : distances[i],
              covers[i]));
    }

    private void step(Judging judging) {
      LimitState before = state;
      state = Judge.judge(limit, before, judging, sink);
      if (state.open()) {
        if (rose == Long.MIN_VALUE) {
          rose = judging.at();
          since = state.since();
          severity = Severity.NONE;
        }
        if (state.standing().severity().compareTo(severity) > 0) {
          severity = state.standing().severity();
        }
        worst = state.worst();
      } else if (rose != Long.MIN_VALUE) {
        closed(judging.at());
      } else if (state.state() == AlertState.CALM) {
        passed.clear();
      }
    }

    private void closed(long until) {
      Alert alert = new Alert(since, rose, until, severity, worst);
      alerts.add(alert);
      if (!passed.isEmpty()) {
        told.add(new Told(alert, passed, state));
        passed.clear();
      }
      rose = Long.MIN_VALUE;
    }

    List<Alert> end() {
      if (rose != Long.MIN_VALUE) {
        closed(to());
      }
      return alerts;
    }
  }
}
