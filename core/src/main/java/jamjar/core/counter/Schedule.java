package jamjar.core.counter;

import java.util.EnumSet;
import java.util.Set;

/**
 * How often each counter of one instance is read: the fast pace at the interval of the instance,
 * the others as its recipe says. The one place that knows it, for reading, judging, charting and
 * learning.
 *
 * @param fastSeconds the interval of the instance
 */
public record Schedule(Recipe recipe, int fastSeconds) {
  /** The interval of a pace for which neither says one. */
  private static final int UNSAID_SECONDS = 60;

  /** Seconds between two readings of a pace. */
  public int seconds(Pace pace) {
    return pace == Pace.FAST ? fastSeconds : recipe.paces().getOrDefault(pace, UNSAID_SECONDS);
  }

  /** Milliseconds between two readings of a pace. */
  public long millis(Pace pace) {
    return 1000L * seconds(pace);
  }

  /** Milliseconds between two readings of a counter. */
  public long millis(CounterDefinition counter) {
    return millis(recipe.pace(counter));
  }

  /** The paces that at least one counter is read at. */
  public Set<Pace> paces() {
    Set<Pace> used = EnumSet.noneOf(Pace.class);
    recipe.counters().values().forEach(counter -> used.add(recipe.pace(counter)));
    return used;
  }
}
