package jamjar.server.limits;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.Condition;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Limit;
import jamjar.core.limit.Rule;
import jamjar.core.reading.SeriesKey;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** On which series a limit that is not saved would be in force, and how. */
@Component
class TriedSeries {
  private final Store store;
  private final Scopes scopes;
  private final Recipes recipes;
  private final Clock clock;

  TriedSeries(Store store, Scopes scopes, Recipes recipes, Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.recipes = recipes;
    this.clock = clock;
  }

  /** A series on which it would be in force. */
  record Target(InstanceRow instance, SeriesRow series, Limit limit) {}

  /**
   * All of them.
   *
   * @param first the instance that is looked at: its own come first
   */
  List<Target> of(LimitView.Body body, int first) {
    Instant now = clock.instant();
    Rule tried = Rules.rule(Rules.row(0, body, now), now);
    List<InstanceRow> reached =
        scopes.instances().stream().filter(row -> reaches(body.scope(), row)).toList();
    List<Rule> rules =
        Stream.concat(
                Stream.of(tried),
                store
                    .rules()
                    .reaching(
                        tried.counter(),
                        reached.stream().map(InstanceRow::groupName).toArray(String[]::new),
                        reached.stream().map(row -> "" + row.id()).toArray(String[]::new))
                    .stream()
                    .map(row -> Rules.rule(row, now))
                    .filter(rule -> !sameLimit(rule, tried)))
            .toList();
    Map<Integer, List<SeriesRow>> series =
        store.series().ofCounter(tried.counter()).stream()
            .collect(Collectors.groupingBy(SeriesRow::instance));
    return reached.stream()
        .sorted(
            Comparator.comparing((InstanceRow row) -> row.id() != first)
                .thenComparing(InstanceRow::name))
        .flatMap(row -> of(row, series.getOrDefault(row.id(), List.of()), rules, tried))
        .toList();
  }

  private static boolean sameLimit(Rule a, Rule b) {
    return a.condition() == b.condition()
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

  private Stream<Target> of(InstanceRow row, List<SeriesRow> series, List<Rule> rules, Rule tried) {
    Optional<CounterDefinition> counter = recipes.of(row).counter(tried.counter());
    if (counter.isEmpty()) {
      return Stream.empty();
    }
    Condition condition = tried.condition();
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
