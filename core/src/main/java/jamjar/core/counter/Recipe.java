package jamjar.core.counter;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A named list of counters for one kind of instance.
 *
 * @param kind the kind of instance, such as {@code postgresql}
 * @param name what a person reads
 * @param paces seconds between two readings, per pace; see {@link Schedule}
 * @param paceOf the pace of each group of counters
 * @param counters the counters by key, in the order of the recipe
 * @param fact key of the counter that stands on the shelf
 * @param firstView keys of the counters shown first
 */
public record Recipe(
    String kind,
    String name,
    Map<Pace, Integer> paces,
    Map<String, Pace> paceOf,
    Map<String, CounterDefinition> counters,
    String fact,
    List<String> firstView) {

  public Recipe {
    paces = Map.copyOf(paces);
    paceOf = Map.copyOf(paceOf);
    firstView = List.copyOf(firstView);
    for (CounterDefinition counter : counters.values()) {
      if (counter.shape() == Shape.QUOTIENT) {
        requireRead(counters, counter, counter.numerator());
        for (String key : counter.denominators()) {
          requireRead(counters, counter, key);
        }
      } else if (!paceOf.containsKey(counter.group())) {
        throw new IllegalArgumentException(
            "counter " + counter.key() + ": group '" + counter.group() + "' has no pace");
      }
    }
    counters = Collections.unmodifiableMap(new LinkedHashMap<>(counters));
    for (String key : firstView) {
      if (!counters.containsKey(key)) {
        throw new IllegalArgumentException("first view: no counter '" + key + "'");
      }
    }
  }

  /** One that holds nothing. */
  public static Recipe without(String kind) {
    return new Recipe(kind, "", Map.of(), Map.of(), Map.of(), "", List.of());
  }

  private static void requireRead(
      Map<String, CounterDefinition> counters, CounterDefinition quotient, String key) {
    CounterDefinition part = counters.get(key);
    if (part == null || part.shape() == Shape.QUOTIENT) {
      throw new IllegalArgumentException(
          "counter " + quotient.key() + ": '" + key + "' is not a counter that is read");
    }
    if (!part.group().equals(quotient.group())) {
      throw new IllegalArgumentException(
          "counter " + quotient.key() + ": '" + key + "' is read by another query");
    }
  }

  public Optional<CounterDefinition> counter(String key) {
    return Optional.ofNullable(counters.get(key));
  }

  /** The groups that at least one counter is of. */
  public Set<String> groups() {
    return counters.values().stream().map(CounterDefinition::group).collect(Collectors.toSet());
  }

  /** The pace at which a counter is read; a quotient has that of its parts. */
  public Pace pace(CounterDefinition counter) {
    return paceOf.get(counter.group());
  }
}
