package jamjar.core.limit;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Rule.Hold;
import jamjar.core.reading.SeriesKey;
import jamjar.core.value.Value;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * What is in force for one series under one condition: the nearest rule wins, number by number.
 *
 * @param rule the nearest rule
 * @param warningFrom the rule that gave the warning number; null when there is none
 * @param criticalFrom the rule that gave the critical number; null when there is none
 */
public record InForce(Limit limit, Rule rule, Rule warningFrom, Rule criticalFrom) {
  private static final long MINUTE = 60_000;
  private static final long DAY = 24 * 60 * MINUTE;
  private static final int CLEAR_SECONDS = 60;
  private static final Double COME = 0.0;

  /** What a rule is compared with to see whether it reaches an instance. */
  public record Place(int instance, String group, String kind, ZoneId zone) {
    /** Where no local day matters. */
    public Place(int instance, String group, String kind) {
      this(instance, group, kind, ZoneOffset.UTC);
    }
  }

  /**
   * What is in force for a series.
   *
   * @param rules all rules
   * @param counter the series' counter
   * @param hasWhole whether the counter has a series for the whole instance
   * @param interval ms between two readings of the series
   * @return at most one per condition
   */
  public static List<InForce> of(
      List<Rule> rules,
      Place place,
      SeriesKey series,
      CounterDefinition counter,
      boolean hasWhole,
      long interval) {
    List<InForce> found = new ArrayList<>();
    for (Condition condition : Condition.values()) {
      if (!condition.ofInstance()) {
        List<Rule> mine =
            nearestFirst(
                rules,
                place,
                rule ->
                    rule.condition() == condition
                        && rule.counter().equals(counter.key())
                        && matches(rule.labels(), series.labels(), hasWhole));
        merged(
                mine,
                condition,
                counter.worse(),
                matters(condition, counter),
                end(condition, counter),
                Math.max(least(condition), interval),
                place.zone())
            .ifPresent(found::add);
      }
    }
    return found;
  }

  /** What is in force for an instance that is not read; at most one per condition. */
  public static List<InForce> ofInstance(List<Rule> rules, Place place, long interval) {
    List<InForce> found = new ArrayList<>();
    for (Condition condition : Condition.values()) {
      if (condition.ofInstance()) {
        List<Rule> mine =
            nearestFirst(rules, place, r -> r.condition() == condition && r.counter().isEmpty());
        merged(mine, condition, Worse.UP, 1, 0, interval, place.zone()).ifPresent(found::add);
      }
    }
    return found;
  }

  /** How often it is judged at most, ms. */
  private static long least(Condition condition) {
    return switch (condition) {
      case OUTSIDE, OVERDUE -> MINUTE;
      case REACHES -> DAY;
      default -> Value.LEAST_STEP;
    };
  }

  /** Whether what is held against the numbers is the value itself. */
  private static boolean ofValue(Condition condition) {
    return condition == Condition.ABOVE || condition == Condition.BELOW;
  }

  private static double matters(Condition condition, CounterDefinition counter) {
    return ofValue(condition) ? counter.matters() : 1;
  }

  /** Of spreads it is the middle of what is normal, and what has happened is not late at all. */
  private static double end(Condition condition, CounterDefinition counter) {
    return ofValue(condition) ? counter.goodEnd() : 0;
  }

  private static boolean matches(
      Map<String, String> wanted, Map<String, String> labels, boolean hasWhole) {
    if (wanted.isEmpty()) {
      return labels.isEmpty() || !hasWhole;
    }
    return !labels.isEmpty()
        && wanted.entrySet().stream()
            .allMatch(
                w ->
                    labels.containsKey(w.getKey())
                        && (w.getValue().equals("*")
                            || w.getValue().equals(labels.get(w.getKey()))));
  }

  private static List<Rule> nearestFirst(
      List<Rule> rules, Place place, java.util.function.Predicate<Rule> wanted) {
    return rules.stream()
        .filter(wanted)
        .filter(rule -> reaches(rule.scope(), place))
        .sorted(
            Comparator.<Rule, Scope.Reach>comparing(r -> r.scope().reach())
                .reversed()
                .thenComparing(InForce::labelsLeftOpen))
        .toList();
  }

  private static int labelsLeftOpen(Rule rule) {
    if (rule.labels().isEmpty()) {
      return 2;
    }
    return rule.labels().containsValue("*") ? 1 : 0;
  }

  private static boolean reaches(Scope scope, Place place) {
    return switch (scope.reach()) {
      case KIND -> scope.of().equals(place.kind());
      case GROUP -> scope.of().equals(place.group());
      case INSTANCE -> scope.of().equals(Integer.toString(place.instance()));
    };
  }

  private static Optional<InForce> merged(
      List<Rule> rules,
      Condition condition,
      Worse worse,
      double matters,
      double end,
      long step,
      ZoneId zone) {
    boolean on = first(rules, Rule::on).map(Rule::on).orElse(true);
    Optional<Rule> warning = first(rules, Rule::warning);
    Optional<Rule> critical = first(rules, Rule::critical);
    if (rules.isEmpty() || !on || (warning.isEmpty() && critical.isEmpty())) {
      return Optional.empty();
    }
    Double against = first(rules, Rule::against).map(Rule::against).orElse(null);
    if (condition.needsAgainst() && against == null) {
      return Optional.empty();
    }
    Hold usual = condition == Condition.OVERDUE ? Hold.ONCE : Hold.USUAL;
    Hold hold = first(rules, Rule::hold).map(Rule::hold).orElse(usual);
    Hold criticalHold = first(rules, Rule::criticalHold).map(Rule::criticalHold).orElse(hold);
    // what is late is calm once it has come, whatever was set
    boolean comes = condition == Condition.OVERDUE;
    Double clear = comes ? COME : first(rules, Rule::clear).map(Rule::clear).orElse(null);
    Double criticalClear =
        comes ? COME : first(rules, Rule::criticalClear).map(Rule::criticalClear).orElse(null);
    double good = condition.downwards() ? matters : -matters;
    Threshold w =
        warning
            .map(Rule::warning)
            .map(
                number ->
                    new Threshold(number, clear(number, clear, good, end), hold.m(), hold.n()))
            .orElse(Threshold.NONE);
    Threshold c =
        critical
            .map(Rule::critical)
            .map(
                number -> {
                  Double own = warning.isEmpty() ? clear : criticalClear;
                  return new Threshold(
                      number, clear(number, own, good, end), criticalHold.m(), criticalHold.n());
                })
            .orElse(Threshold.NONE);
    long clearMillis =
        1000L * first(rules, Rule::clearSeconds).map(Rule::clearSeconds).orElse(CLEAR_SECONDS);
    return Optional.of(
        new InForce(
            new Limit(
                condition,
                worse,
                w,
                c,
                Math.max(step, clearMillis),
                step,
                against == null ? Double.NaN : against,
                zone),
            rules.get(0),
            warning.orElse(null),
            critical.orElse(null)));
  }

  /**
   * When it is calm again. A clear number of a wider rule may be none for a number that is set
   * nearer: what is beyond that would be calm and an alert at once.
   *
   * @param good what is added to the number to be on its good side; beyond the good end it would
   *     never be calm
   * @param end the good end of the counter
   */
  private static double clear(double number, Double set, double good, double end) {
    boolean onGoodSide = set != null && (good > 0 ? set >= number : set <= number);
    if (onGoodSide) {
      return set;
    }
    boolean within = good > 0 ? number < end : number > end;
    boolean beyond = good > 0 ? number + good > end : number + good < end;
    return within && beyond ? (number + end) / 2 : number + good;
  }

  private static Optional<Rule> first(List<Rule> rules, Function<Rule, ?> field) {
    return rules.stream().filter(rule -> field.apply(rule) != null).findFirst();
  }
}
