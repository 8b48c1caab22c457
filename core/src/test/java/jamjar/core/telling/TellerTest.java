package jamjar.core.telling;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.Happened.Known;
import jamjar.core.telling.Happened.Passed;
import jamjar.core.telling.Happened.WasTold;
import jamjar.core.telling.Told.Kind;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class TellerTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final long NIGHT = Instant.parse("2026-03-03T01:10:00Z").toEpochMilli();
  private static final long DAY = Instant.parse("2026-03-03T10:00:00Z").toEpochMilli();
  private static final long MINUTE = 60_000;
  private static final Way MAIL = new Way("mail", "anna@skerry.invalid");

  private static final Person ANNA = person("anna", List.of());
  private static final Person BO = person("bo", List.of());
  private static final Duty ON_CALL =
      new Duty("on call", List.of("anna", "bo"), LocalDate.of(2026, 3, 2), 7, 480, List.of());

  private static final TellRule CRITICAL =
      new TellRule(
          "critical wakes",
          new Fits(
              List.of(),
              List.of(),
              List.of(),
              List.of(),
              List.of(),
              List.of(),
              List.of(Severity.CRITICAL)),
          Hours.ALWAYS,
          List.of(
              new Step("duty:on call", 0, Urgency.WAKE), new Step("person:bo", 15, Urgency.WAKE)));

  private static final TellRule REST =
      new TellRule(
          "all else in the morning",
          Fits.ALL,
          Hours.ALWAYS,
          List.of(new Step("duty:on call", 0, Urgency.MORNING)));

  private static Person person(String name, List<String> scope) {
    return new Person(
        name, List.of(new Way("mail", name + "@skerry.invalid")), Hours.ALWAYS, scope);
  }

  private static Plan plan(TellRule... rules) {
    return new Plan(OSLO, 420, Set.of(), List.of(ANNA, BO), List.of(ON_CALL), List.of(rules));
  }

  private static Subject subject(int instance, String group, String site) {
    return subject(instance, group, site, Set.of());
  }

  private static Subject subject(int instance, String group, String site, Set<Integer> uses) {
    return new Subject(
        instance,
        "booking-" + instance,
        "jvm",
        group,
        site,
        List.of("production"),
        false,
        "pool.used_share",
        Map.of(),
        uses);
  }

  private static Passed passed(int instance, long at, boolean open, Severity severity) {
    return passed(
        instance,
        Condition.ABOVE,
        at,
        open,
        severity,
        subject(instance, "g" + instance, "Northquay"));
  }

  private static Passed passed(
      int instance, Condition condition, long at, boolean open, Severity severity, Subject about) {
    return new Passed(
        instance,
        instance * 10,
        condition,
        at,
        open,
        severity,
        false,
        about,
        new Figures(9, 0, 0.2, 5, 7, at - 30_000));
  }

  private static Teller teller(Plan plan, long from) {
    return new Teller(plan, (subject, at) -> false, from);
  }

  @Test
  void what_rises_by_night_wakes_who_is_on_duty_once() {
    Teller teller = teller(plan(CRITICAL, REST), NIGHT);
    teller.hear(passed(1, NIGHT + 1_000, true, Severity.CRITICAL));
    List<Told> told = teller.until(NIGHT + 10 * MINUTE);
    // on Monday the 2nd at eight anna began
    assertThat(told).hasSize(1);
    assertThat(told.get(0).recipient()).isEqualTo("anna");
    assertThat(told.get(0).kind()).isEqualTo(Kind.RISE);
    assertThat(told.get(0).ways()).containsExactly(MAIL);
    assertThat(told.get(0).at() - NIGHT).isBetween(20_000L, 30_000L);
    assertThat(told.get(0).rule()).isEqualTo("critical wakes");
  }

  @Test
  void six_nodes_of_a_group_are_one_message() {
    Teller teller = teller(plan(CRITICAL), DAY);
    for (int node = 1; node <= 6; node++) {
      teller.hear(
          passed(
              node,
              Condition.ABOVE,
              DAY + node * 2_000,
              true,
              Severity.CRITICAL,
              subject(node, "booking", "Northquay")));
    }
    List<Told> told = teller.until(DAY + 5 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).items()).hasSize(6);
  }

  @Test
  void of_what_is_as_bad_what_the_others_use_is_named_first() {
    Teller teller = teller(plan(CRITICAL), DAY);
    for (int server = 1; server <= 3; server++) {
      Subject uses = subject(server, "booking", "Northquay", Set.of(9));
      teller.hear(passed(server, Condition.ABOVE, DAY + server, true, Severity.CRITICAL, uses));
    }
    Subject engine = subject(9, "booking-db", "Northquay");
    teller.hear(passed(9, Condition.ABOVE, DAY + 9_000, true, Severity.CRITICAL, engine));
    List<Told> told = teller.until(DAY + 5 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).items().stream().map(item -> item.subject().instance()))
        .containsExactly(9, 1, 2, 3);
  }

  @Test
  void the_next_is_told_where_nobody_acknowledges_it_and_not_where_somebody_did() {
    for (boolean known : new boolean[] {false, true}) {
      Teller teller = teller(plan(CRITICAL), DAY);
      teller.hear(passed(1, DAY, true, Severity.CRITICAL));
      if (known) {
        teller.hear(
            new Known(
                1,
                10,
                Condition.ABOVE,
                DAY + 5 * MINUTE,
                DAY + 600 * MINUTE,
                Severity.CRITICAL,
                "anna"));
      }
      List<Told> told = teller.until(DAY + 60 * MINUTE);
      assertThat(told.stream().map(Told::recipient))
          .isEqualTo(known ? List.of("anna") : List.of("anna", "bo"));
    }
  }

  @Test
  void what_settles_and_passes_again_is_the_same_alert_and_is_told_once() {
    Teller teller = teller(plan(CRITICAL), DAY);
    teller.hear(passed(1, DAY, true, Severity.CRITICAL));
    teller.hear(passed(1, DAY + 4 * MINUTE, true, Severity.NONE));
    teller.hear(passed(1, DAY + 5 * MINUTE, true, Severity.CRITICAL));
    List<Told> told = teller.until(DAY + 16 * MINUTE);
    assertThat(told.stream().map(Told::recipient)).containsExactly("anna", "bo");
    // the fifteen minutes are those since it rose
    assertThat(told.get(1).at() - DAY).isBetween(15 * MINUTE, 15 * MINUTE + 10_000);
    teller.hear(passed(1, DAY + 20 * MINUTE, true, Severity.NONE));
    teller.hear(passed(1, DAY + 21 * MINUTE, false, Severity.NONE));
    List<Told> over = teller.until(DAY + 30 * MINUTE);
    assertThat(over.stream().map(Told::kind)).containsOnly(Kind.OVER).hasSize(2);
    assertThat(over.get(0).severity()).isEqualTo(Severity.CRITICAL);
    assertThat(over.get(0).items().get(0).severity()).isEqualTo(Severity.CRITICAL);
  }

  @Test
  void who_knows_of_one_is_at_all_that_belongs_to_it_but_not_at_what_is_worse() {
    TellRule all =
        new TellRule(
            "all",
            Fits.ALL,
            Hours.ALWAYS,
            List.of(
                new Step("person:anna", 0, Urgency.WAKE), new Step("person:bo", 15, Urgency.WAKE)));
    Teller teller = teller(plan(all), DAY);
    Subject together = subject(1, "booking", "Northquay");
    for (int i = 1; i <= 2; i++) {
      teller.hear(passed(i, Condition.ABOVE, DAY, true, Severity.WARNING, together));
    }
    teller.hear(
        new Known(
            1, 10, Condition.ABOVE, DAY + MINUTE, DAY + 600 * MINUTE, Severity.WARNING, "anna"));
    assertThat(teller.until(DAY + 30 * MINUTE).stream().map(Told::recipient))
        .containsExactly("anna");
    teller.hear(passed(2, Condition.ABOVE, DAY + 40 * MINUTE, true, Severity.CRITICAL, together));
    assertThat(teller.until(DAY + 70 * MINUTE).stream().map(Told::recipient))
        .containsExactly("anna", "bo");
  }

  @Test
  void what_gets_worse_is_told_and_that_it_is_over_once() {
    TellRule all =
        new TellRule(
            "all", Fits.ALL, Hours.ALWAYS, List.of(new Step("person:anna", 0, Urgency.WAKE)));
    Teller teller = teller(plan(all), DAY);
    teller.hear(passed(1, DAY, true, Severity.WARNING));
    teller.hear(passed(1, DAY + 5 * MINUTE, true, Severity.CRITICAL));
    teller.hear(passed(1, DAY + 9 * MINUTE, true, Severity.WARNING));
    teller.hear(passed(1, DAY + 12 * MINUTE, false, Severity.WARNING));
    List<Told> told = teller.until(DAY + 60 * MINUTE);
    assertThat(told.stream().map(Told::kind)).containsExactly(Kind.RISE, Kind.WORSE, Kind.OVER);
    assertThat(told.stream().map(Told::matter).distinct()).hasSize(1);
    assertThat(told.stream().map(Told::key).distinct()).hasSize(3);
  }

  @Test
  void nobody_is_woken_by_what_is_over_it_stands_in_the_report() {
    Teller teller = teller(plan(CRITICAL), NIGHT);
    teller.hear(passed(1, NIGHT, true, Severity.CRITICAL));
    teller.hear(passed(1, NIGHT + 5 * MINUTE, false, Severity.CRITICAL));
    List<Told> told = teller.until(NIGHT + 8 * 60 * MINUTE);
    assertThat(told.stream().map(Told::kind)).containsExactly(Kind.RISE, Kind.REPORT);
    assertThat(Instant.ofEpochMilli(told.get(1).at())).isEqualTo("2026-03-03T06:00:00Z");
    assertThat(told.get(1).items().get(0).ended()).isEqualTo(NIGHT + 5 * MINUTE);
  }

  @Test
  void warnings_wait_for_the_report_of_the_night() {
    Teller teller = teller(plan(CRITICAL, REST), NIGHT);
    teller.hear(passed(1, NIGHT, true, Severity.WARNING));
    teller.hear(passed(2, NIGHT + MINUTE, true, Severity.WARNING));
    assertThat(teller.until(NIGHT + 60 * MINUTE)).isEmpty();
    assertThat(teller.waiting().get(0).items()).hasSize(2);
    List<Told> told = teller.until(NIGHT + 600 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).kind()).isEqualTo(Kind.REPORT);
    assertThat(told.get(0).items()).hasSize(2);
  }

  @Test
  void what_is_muted_is_told_when_it_holds_still_at_the_end() {
    Teller teller = new Teller(plan(CRITICAL), (subject, at) -> at < DAY + 10 * MINUTE, DAY);
    teller.hear(passed(1, DAY, true, Severity.CRITICAL));
    teller.hear(passed(2, DAY, true, Severity.CRITICAL));
    teller.hear(passed(2, DAY + 5 * MINUTE, false, Severity.CRITICAL));
    List<Told> told = teller.until(DAY + 12 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).items().get(0).key().instance()).isEqualTo(1);
    assertThat(told.get(0).at()).isGreaterThanOrEqualTo(DAY + 10 * MINUTE);
  }

  @Test
  void of_a_site_that_is_unreachable_only_that_is_told() {
    Teller teller = teller(plan(CRITICAL), DAY);
    for (int node = 1; node <= 5; node++) {
      teller.hear(
          passed(
              node,
              Condition.SILENT,
              DAY + node * 500,
              true,
              Severity.CRITICAL,
              subject(node, "g" + node, "Southmole")));
    }
    Subject site =
        new Subject(
            99,
            "Southmole",
            "jamjar",
            "",
            "Southmole",
            List.of(),
            true,
            "site.silent_share",
            Map.of("site", "Southmole"),
            Set.of());
    teller.hear(passed(99, Condition.ABOVE, DAY + 60_000, true, Severity.CRITICAL, site));
    List<Told> told = teller.until(DAY + 5 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).items()).hasSize(1);
    assertThat(told.get(0).items().get(0).subject().name()).isEqualTo("Southmole");
  }

  @Test
  void five_hundred_within_a_minute_are_a_handful_and_none_is_left_out() {
    Teller teller = teller(plan(CRITICAL), DAY);
    for (int i = 1; i <= 500; i++) {
      teller.hear(passed(i, DAY + i * 100L, true, Severity.CRITICAL));
    }
    List<Told> told = teller.until(DAY + 10 * MINUTE);
    assertThat(told).hasSizeLessThanOrEqualTo(6);
    Set<Integer> named = new TreeSet<>();
    told.forEach(one -> one.items().forEach(item -> named.add(item.key().instance())));
    assertThat(named).hasSize(500);
  }

  @Test
  void nobody_is_told_of_what_is_not_in_their_scope() {
    Plan plan =
        new Plan(
            OSLO,
            420,
            Set.of(),
            List.of(person("anna", List.of("site:Southmole"))),
            List.of(),
            List.of(
                new TellRule(
                    "all",
                    Fits.ALL,
                    Hours.ALWAYS,
                    List.of(new Step("person:anna", 0, Urgency.WAKE)))));
    Teller teller = teller(plan, DAY);
    teller.hear(
        passed(
            1, Condition.ABOVE, DAY, true, Severity.CRITICAL, subject(1, "booking", "Northquay")));
    teller.hear(
        passed(
            2, Condition.ABOVE, DAY, true, Severity.CRITICAL, subject(2, "booking", "Southmole")));
    List<Told> told = teller.until(DAY + 5 * MINUTE);
    assertThat(told).hasSize(1);
    assertThat(told.get(0).items()).hasSize(1);
    assertThat(told.get(0).items().get(0).key().instance()).isEqualTo(2);
  }

  @Test
  void whatever_the_order_in_which_it_is_heard_the_same_is_told() {
    Random random = new Random(7);
    for (int round = 0; round < 20; round++) {
      List<Happened> all = storm(random);
      List<Told> straight = heard(all, plan(CRITICAL, REST));
      List<Happened> shuffled = new ArrayList<>(all);
      java.util.Collections.shuffle(shuffled, random);
      Teller teller = teller(plan(CRITICAL, REST), DAY);
      shuffled.forEach(teller::hear);
      assertThat(teller.until(DAY + 5 * 60 * MINUTE)).isEqualTo(straight);
    }
  }

  @Test
  void who_is_killed_at_any_moment_tells_the_rest_and_nothing_twice() {
    Random random = new Random(11);
    for (int round = 0; round < 40; round++) {
      List<Happened> all = storm(random);
      List<String> whole = heard(all, plan(CRITICAL, REST)).stream().map(Told::key).toList();
      long killed = DAY + (long) (random.nextDouble() * 120) * MINUTE;
      Teller before = teller(plan(CRITICAL, REST), DAY);
      List<Told> told = new ArrayList<>();
      all.stream().filter(one -> one.at() <= killed).forEach(before::hear);
      told.addAll(before.until(killed));
      Teller after = teller(plan(CRITICAL, REST), DAY);
      all.stream().filter(one -> one.at() <= killed).forEach(after::hear);
      told.forEach(
          one ->
              after.hear(
                  new WasTold(
                      one.at(),
                      one.matter(),
                      one.kind(),
                      one.recipient(),
                      one.severity(),
                      one.rule(),
                      one.ways(),
                      one.items().stream().map(Told.Item::key).toList())));
      after.recall(before.decided());
      all.stream().filter(one -> one.at() > killed).forEach(after::hear);
      told.addAll(after.until(DAY + 5 * 60 * MINUTE));
      List<String> keys = told.stream().map(Told::key).toList();
      assertThat(keys).doesNotHaveDuplicates();
      assertThat(new TreeSet<>(keys)).as("round %s", round).isEqualTo(new TreeSet<>(whole));
    }
  }

  private static List<Told> heard(List<Happened> all, Plan plan) {
    Teller teller = teller(plan, DAY);
    List<Told> told = new ArrayList<>();
    long now = DAY;
    List<Happened> rest = new ArrayList<>(all);
    rest.sort(java.util.Comparator.comparingLong(Happened::at));
    for (Happened one : rest) {
      for (; now < one.at(); now += 1_000) {
        told.addAll(teller.until(now));
      }
      teller.hear(one);
    }
    told.addAll(teller.until(DAY + 5 * 60 * MINUTE));
    return told;
  }

  @Test
  void of_what_rises_at_the_same_moment_the_first_is_always_the_same() {
    List<List<Told>> heard = new ArrayList<>();
    for (boolean turned : new boolean[] {false, true}) {
      Teller teller = teller(plan(CRITICAL), DAY);
      for (int i : turned ? new int[] {2, 1} : new int[] {1, 2}) {
        Subject same = subject(i, "booking", "Northquay");
        teller.hear(passed(i, Condition.ABOVE, DAY, true, Severity.CRITICAL, same));
        teller.hear(passed(i, Condition.ABOVE, DAY + 5 * MINUTE, false, Severity.CRITICAL, same));
      }
      heard.add(teller.until(DAY + 10 * MINUTE));
    }
    assertThat(heard.get(0)).hasSize(2).isEqualTo(heard.get(1));
  }

  /** Alerts that rise, get worse and end within two hours, few enough for no digest. */
  private static List<Happened> storm(Random random) {
    List<Happened> all = new ArrayList<>();
    for (int i = 1; i <= 12; i++) {
      long at = DAY + i * 10 * MINUTE + random.nextInt(120_000);
      Severity first = random.nextBoolean() ? Severity.WARNING : Severity.CRITICAL;
      all.add(passed(i, at, true, first));
      if (random.nextBoolean()) {
        all.add(passed(i, at + random.nextInt(600_000), true, Severity.CRITICAL));
      }
      if (random.nextInt(4) > 0) {
        all.add(passed(i, at + 700_000 + random.nextInt(3_000_000), false, first));
      }
    }
    return all;
  }

  @Test
  void who_stood_still_for_long_tells_what_is_due_now_by_who_is_on_duty_now() {
    Teller teller = teller(plan(CRITICAL), NIGHT);
    teller.until(NIGHT);
    teller.hear(passed(1, NIGHT + MINUTE, true, Severity.CRITICAL));
    teller.hear(passed(2, NIGHT + MINUTE, true, Severity.CRITICAL));
    teller.hear(passed(2, NIGHT + 2 * MINUTE, false, Severity.CRITICAL));
    long later = NIGHT + 7L * 24 * 60 * MINUTE;
    List<Told> told = teller.goOn(later);
    assertThat(told.stream().map(Told::recipient)).containsExactly("bo");
    assertThat(told.get(0).at()).isGreaterThan(later - MINUTE);
    assertThat(told.get(0).items()).hasSize(1);
  }

  @Test
  void what_comes_and_goes_is_told_once_in_an_hour() {
    Teller teller = teller(plan(CRITICAL), DAY);
    for (int i = 0; i < 10; i++) {
      Passed rises = passed(1, DAY + i * 5 * MINUTE, true, Severity.CRITICAL);
      teller.hear(i > 2 ? flapping(rises) : rises);
      teller.hear(passed(1, DAY + i * 5 * MINUTE + 2 * MINUTE, false, Severity.CRITICAL));
    }
    List<Told> told = teller.until(DAY + 59 * MINUTE);
    assertThat(told.stream().filter(one -> one.kind() == Kind.RISE)).hasSize(3);
  }

  @Test
  void what_came_again_and_then_stays_is_told_an_hour_after_it_was_told() {
    Teller teller = teller(plan(CRITICAL), DAY);
    teller.hear(passed(1, DAY, true, Severity.CRITICAL));
    teller.hear(passed(1, DAY + 2 * MINUTE, false, Severity.CRITICAL));
    teller.hear(flapping(passed(1, DAY + 5 * MINUTE, true, Severity.CRITICAL)));
    List<Told> told = teller.until(DAY + 60 * MINUTE);
    assertThat(told.stream().map(Told::kind)).containsExactly(Kind.RISE, Kind.OVER);
    List<Told> later = teller.until(DAY + 90 * MINUTE);
    assertThat(later.stream().map(Told::recipient)).containsExactly("anna", "bo");
    assertThat(later.get(0).at() - DAY).isBetween(60 * MINUTE, 62 * MINUTE);
    // the next is told a quarter of an hour after the first could have known, not at once
    assertThat(later.get(1).at() - DAY).isBetween(74 * MINUTE, 77 * MINUTE);
  }

  private static Passed flapping(Passed one) {
    return new Passed(
        one.instance(),
        one.series(),
        one.condition(),
        one.at(),
        one.open(),
        one.severity(),
        true,
        one.subject(),
        one.figures());
  }

  @Test
  void who_was_away_at_the_hour_of_the_report_sends_it_late() {
    long evening = NIGHT - 60 * MINUTE;
    for (long asleep : new long[] {NIGHT, Instant.parse("2026-03-03T05:50:00Z").toEpochMilli()}) {
      Teller teller = teller(plan(CRITICAL, REST), evening);
      teller.hear(passed(1, NIGHT - 30 * MINUTE, true, Severity.WARNING));
      teller.hear(passed(1, NIGHT - 20 * MINUTE, false, Severity.WARNING));
      assertThat(teller.until(asleep)).isEmpty();
      // while away nothing is judged; what was kept before is all there is
      long back = Instant.parse("2026-03-03T06:10:00Z").toEpochMilli();
      List<Told> told = teller.goOn(back);
      assertThat(told.stream().map(Told::kind)).containsExactly(Kind.REPORT);
      assertThat(told.get(0).items()).hasSize(1);
      assertThat(told.get(0).at()).isGreaterThan(back - MINUTE);
      assertThat(teller.until(back + 20 * 60 * MINUTE)).isEmpty();
    }
  }

  @Test
  void who_was_killed_before_the_report_and_began_again_after_it_sends_it_late() {
    List<Passed> night =
        List.of(
            passed(1, NIGHT, true, Severity.WARNING),
            passed(1, NIGHT + 20 * MINUTE, false, Severity.WARNING));
    long back = Instant.parse("2026-03-03T06:30:00Z").toEpochMilli();
    Teller after = teller(plan(CRITICAL, REST), 0);
    night.forEach(after::hear);
    after.recall(NIGHT + 60 * MINUTE);
    List<Told> told = after.goOn(back);
    assertThat(told.stream().map(Told::kind)).containsExactly(Kind.REPORT);
    // what an earlier process decided after the hour was in the report that it sent
    Teller decided = teller(plan(CRITICAL, REST), 0);
    night.forEach(decided::hear);
    decided.recall(back);
    assertThat(decided.until(back + 20 * 60 * MINUTE)).isEmpty();
  }

  @Test
  void who_has_no_way_is_told_of_what_is_open_as_soon_as_there_is_one() {
    Person wayless = new Person("anna", List.of(), Hours.ALWAYS, List.of());
    Plan without =
        new Plan(
            OSLO, 420, Set.of(), List.of(wayless, BO), List.of(ON_CALL), List.of(CRITICAL, REST));
    Teller teller = teller(without, DAY);
    teller.hear(passed(1, DAY, true, Severity.CRITICAL));
    assertThat(teller.until(DAY + 10 * MINUTE)).isEmpty();
    teller.plan(plan(CRITICAL, REST));
    List<Told> told = teller.until(DAY + 12 * MINUTE);
    assertThat(told.stream().map(Told::recipient)).containsExactly("anna");
  }
}
