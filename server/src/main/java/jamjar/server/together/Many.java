package jamjar.server.together;

import jamjar.core.counter.CounterDefinition;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.server.security.Those;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Instances that are looked at together, and what of them can be. */
@Component
class Many {
  /** Of a counter so many labels of an instance are looked at. */
  private static final int MOST_LABELS = 100;

  private final Store store;
  private final Scopes scopes;
  private final Recipes recipes;

  Many(Store store, Scopes scopes, Recipes recipes) {
    this.store = store;
    this.scopes = scopes;
    this.recipes = recipes;
  }

  /**
   * By site and name.
   *
   * @param of as of {@link Those}
   */
  List<InstanceRow> instances(String of) {
    Those those = new Those(of);
    return scopes.instances().stream()
        .filter(those::holds)
        .sorted(Comparator.comparing(InstanceRow::site).thenComparing(InstanceRow::name))
        .toList();
  }

  /** The counters that one of them has, in the order of their recipes. */
  Map<String, CounterDefinition> counters(List<InstanceRow> instances) {
    Map<String, CounterDefinition> counters = new LinkedHashMap<>();
    instances.forEach(row -> recipes.of(row).counters().forEach(counters::putIfAbsent));
    return counters;
  }

  /** What is looked at first of most of them. */
  List<String> firstView(List<InstanceRow> instances) {
    return instances.stream()
        .map(row -> recipes.of(row).firstView())
        .collect(Collectors.groupingBy(first -> first, LinkedHashMap::new, Collectors.counting()))
        .entrySet()
        .stream()
        .max(Map.Entry.comparingByValue())
        .map(Map.Entry::getKey)
        .orElse(List.of());
  }

  /** How a counter is defined for an instance; empty where its recipe has it not. */
  Optional<CounterDefinition> counter(InstanceRow instance, String key) {
    return recipes.of(instance).counter(key);
  }

  /**
   * The series that stand for counters of an instance: of each the one of the whole, else those of
   * its labels.
   */
  Map<String, List<SeriesRow>> standing(InstanceRow instance, Collection<String> counters) {
    return store.series().alive(instance.id()).stream()
        .filter(row -> counters.contains(row.counter()))
        .collect(
            Collectors.groupingBy(
                SeriesRow::counter,
                Collectors.collectingAndThen(
                    Collectors.toList(), all -> standing(all, SeriesRow::labels))));
  }

  /** Of the series of one counter those that stand for it. */
  static <T> List<T> standing(List<T> all, Function<T, Map<String, String>> labels) {
    Optional<T> whole = all.stream().filter(one -> labels.apply(one).isEmpty()).findFirst();
    return (whole.isPresent() ? whole.stream() : all.stream().limit(MOST_LABELS)).toList();
  }
}
