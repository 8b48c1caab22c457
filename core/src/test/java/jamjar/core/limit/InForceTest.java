package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.limit.Rule.Hold;
import jamjar.core.limit.Scope.Reach;
import jamjar.core.reading.SeriesKey;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class InForceTest {
  private static final InForce.Place PLACE = new InForce.Place(7, "booking-db", "postgresql");
  private static final CounterDefinition AGE =
      Recipes.counter("age", Shape.LEVEL, "database", false);

  @Test
  void the_nearest_wins_number_by_number_and_says_where_it_is_from() {
    Rule kind = rule(1, Reach.KIND, "postgresql", 10.0, 20.0, new Hold(3, 3));
    Rule group = rule(2, Reach.GROUP, "booking-db", 12.0, null, null);
    Rule instance = rule(3, Reach.INSTANCE, "7", null, 30.0, new Hold(2, 5));
    Rule elsewhere = rule(4, Reach.INSTANCE, "8", 1.0, 2.0, null);

    InForce inForce = one(List.of(kind, instance, elsewhere, group));

    assertThat(inForce.limit().warning()).isEqualTo(new Threshold(12, 11, 2, 5));
    assertThat(inForce.limit().critical()).isEqualTo(new Threshold(30, 29, 2, 5));
    assertThat(inForce.rule()).isEqualTo(instance);
    assertThat(inForce.warningFrom()).isEqualTo(group);
    assertThat(inForce.criticalFrom()).isEqualTo(instance);
  }

  @Test
  void a_clear_number_from_afar_does_not_lie_beyond_a_nearer_number() {
    Rule kind = cleared(1, Condition.ABOVE, Reach.KIND, "postgresql", 10.0, 8.0);
    assertThat(one(List.of(kind, rule(2, Reach.INSTANCE, "7", 9.0, null, null))).limit().warning())
        .isEqualTo(new Threshold(9, 8, 3, 3));
    // at 8 it would be an alert and calm
    assertThat(one(List.of(kind, rule(2, Reach.INSTANCE, "7", 5.0, null, null))).limit().warning())
        .isEqualTo(new Threshold(5, 4, 3, 3));
    // nor beyond the good end, 0: it would never be calm
    assertThat(one(List.of(rule(2, Reach.INSTANCE, "7", 0.5, null, null))).limit().warning())
        .isEqualTo(new Threshold(0.5, 0.25, 3, 3));
    assertThat(one(List.of(rule(2, Reach.INSTANCE, "7", 1.0, null, null))).limit().warning())
        .isEqualTo(new Threshold(1, 0, 3, 3));
    Rule below = cleared(3, Condition.BELOW, Reach.KIND, "postgresql", 80.0, 85.0);
    Rule nearer = cleared(4, Condition.BELOW, Reach.INSTANCE, "7", 90.0, null);
    assertThat(one(List.of(below, nearer)).limit().warning())
        .isEqualTo(new Threshold(90, 91, 3, 3));
  }

  private static Rule cleared(
      int id, Condition condition, Reach reach, String of, Double warning, Double clear) {
    return new Rule(
        id,
        "used",
        Map.of(),
        new Scope(reach, of),
        condition,
        warning,
        null,
        null,
        null,
        clear,
        null,
        null,
        true);
  }

  @Test
  void switched_off_nearby_is_off() {
    Rule kind = rule(1, Reach.KIND, "postgresql", 10.0, 20.0, null);
    Rule off =
        new Rule(
            2,
            "used",
            Map.of(),
            new Scope(Reach.INSTANCE, "7"),
            Condition.ABOVE,
            null,
            null,
            null,
            null,
            null,
            null,
            null,
            false);
    assertThat(of(List.of(kind, off), SeriesKey.of("used"), true)).isEmpty();
    assertThat(of(List.of(kind), SeriesKey.of("used"), true)).hasSize(1);
  }

  @Test
  void judgings_are_not_more_frequent_than_readings_and_calm_takes_at_least_one() {
    Rule kind = rule(1, Reach.KIND, "postgresql", 10.0, null, null);
    InForce slow =
        InForce.of(List.of(kind), PLACE, SeriesKey.of("used"), Recipes.USED, true, 300_000).get(0);
    assertThat(slow.limit().stepMillis()).isEqualTo(300_000);
    assertThat(slow.limit().clearMillis()).isEqualTo(300_000);
    assertThat(one(List.of(kind)).limit().clearMillis()).isEqualTo(60_000);
  }

  @Test
  void without_labels_it_is_for_the_whole_instance_where_there_is_such_a_series() {
    Rule rule = rule(1, Reach.KIND, "postgresql", 10.0, null, null);
    SeriesKey whole = SeriesKey.of("used");
    SeriesKey part = SeriesKey.of("used", "pool", "a");
    assertThat(of(List.of(rule), whole, true)).hasSize(1);
    assertThat(of(List.of(rule), part, true)).isEmpty();
    assertThat(of(List.of(rule), part, false)).hasSize(1);
  }

  @Test
  void the_rule_for_one_label_wins_over_the_rule_for_each() {
    Rule each = labelled(1, Map.of("database", "*"), 10);
    Rule bookings = labelled(2, Map.of("database", "bookings"), 50);
    assertThat(age(List.of(each, bookings), "bookings").limit().warning().number()).isEqualTo(50);
    assertThat(age(List.of(each, bookings), "postgres").limit().warning().number()).isEqualTo(10);
  }

  private static InForce age(List<Rule> rules, String database) {
    return InForce.of(rules, PLACE, SeriesKey.of("age", "database", database), AGE, false, 10_000)
        .get(0);
  }

  private static Rule labelled(int id, Map<String, String> labels, double warning) {
    return new Rule(
        id,
        "age",
        labels,
        new Scope(Reach.KIND, "postgresql"),
        Condition.ABOVE,
        warning,
        null,
        null,
        null,
        null,
        null,
        null,
        true);
  }

  private static Rule rule(
      int id, Reach reach, String of, Double warning, Double critical, Hold hold) {
    return new Rule(
        id,
        "used",
        Map.of(),
        new Scope(reach, of),
        Condition.ABOVE,
        warning,
        critical,
        hold,
        null,
        null,
        null,
        null,
        null);
  }

  private static InForce one(List<Rule> rules) {
    return of(rules, SeriesKey.of("used"), true).get(0);
  }

  private static List<InForce> of(List<Rule> rules, SeriesKey series, boolean hasWhole) {
    return InForce.of(rules, PLACE, series, Recipes.USED, hasWhole, 10_000);
  }
}
