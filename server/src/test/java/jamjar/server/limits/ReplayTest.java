package jamjar.server.limits;

import static jamjar.server.limits.Freight.FROM;
import static jamjar.server.limits.Freight.RECIPE;
import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Rule;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.watching.Gap;
import jamjar.core.watching.Watching.Span;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.store.Store;
import jamjar.store.alerts.AlertMapper;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.changes.ChangeRow;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import jamjar.store.limits.RuleRow;
import jamjar.store.normals.Learned;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.StoredReading;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;

/**
 * A day of a queue as it was judged live, with all that happens to a watcher: late readings, a
 * store that stalls, restarts, a gap, a silence, a limit that is edited and a normal that is
 * learned anew.
 */
class ReplayTest {
  private static final SeriesKey CUSTOMS =
      SeriesKey.of("queue.pending", "queue", "manifest.customs");
  private static final long MINUTE = 60_000;
  private static final long HOUR = 60 * MINUTE;
  private static final long END = FROM + 24 * HOUR;
  private static final long EDITED = FROM + 8 * HOUR + 1_234;
  private static final long LEARNED = FROM + 15 * HOUR;
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

  private Store store;
  private InstanceRow instance;
  private int series;
  private BaselineHistory history;
  private final List<KeptReading> unwritten = new ArrayList<>();
  private final List<Judged> judged = new ArrayList<>();

  @BeforeEach
  void open() {
    TemporaryCluster cluster = TemporaryCluster.shared();
    store =
        Store.open(
            cluster.cluster().url(cluster.newDatabase()), "postgres", cluster.cluster().password());
    int id = store.instances().add(Freight.instance());
    instance = store.instances().byId(id).orElseThrow();
    series = store.readings().numbers(id, List.of(CUSTOMS), Instant.ofEpochMilli(FROM))[0];
    store.rules().add(rule(Condition.ABOVE, 40.0, 90.0));
    store.rules().add(rule(Condition.OUTSIDE, 3.0, null));
    store.rules().add(rule(Condition.BELOW, 6.0, 1.0));
    store.rules().add(rule(Condition.SILENT, 2.0, null));
    store.rules().add(rule(Condition.UNREACHABLE, null, 2.0));
    // Wednesdays and Thursdays are learned anew in the evening
    learn(FROM - HOUR, 20);
    learn(LEARNED, 45);
    history = store.normals().history(series, Instant.EPOCH).orElseThrow();
  }

  @AfterEach
  void close() {
    store.close();
  }

  private void learn(long at, double middle) {
    Normal normal =
        new Normal(middle - 5, middle - 2, middle, middle + 2, middle + 5, 75, Basis.SLOT);
    Normal[] all = new Normal[Timeline.SLOTS];
    Arrays.fill(all, normal);
    Normal[] day = Arrays.copyOf(all, Timeline.QUARTERS);
    store
        .normals()
        .keep(
            new Learned(instance.id(), Instant.ofEpochMilli(at), "Europe/Oslo", 50_400),
            () -> Instant.ofEpochMilli(at + MINUTE),
            keeping -> {
              if (at < FROM) {
                keeping.accept(Baseline.of(all), series);
              } else {
                keeping.succeeds(day, 2, series);
                keeping.succeeds(day, 3, series);
              }
            });
  }

  private static RuleRow rule(Condition condition, Double warning, Double critical) {
    boolean whole = condition.ofInstance();
    return new RuleRow(
        0,
        whole ? "" : CUSTOMS.counter(),
        new TreeMap<>(whole ? Map.of() : CUSTOMS.labels()),
        "KIND",
        "appserver",
        condition.name(),
        warning,
        critical,
        whole ? 1 : 3,
        whole ? 1 : 4,
        null,
        null,
        null,
        null,
        null,
        null,
        true,
        "",
        null,
        false,
        Instant.ofEpochMilli(FROM));
  }

  private List<Rule> rules(long at) {
    return store.rules().all().stream()
        .map(row -> Rules.rule(row, Instant.ofEpochMilli(at)))
        .toList();
  }

  private InstanceJudge judge(Span span) {
    return new InstanceJudge(
        Setting.of(instance, RECIPE.recipe(), Optional.empty(), span.from()),
        new StoredPast(
            store,
            instance.id(),
            Clock.fixed(Instant.ofEpochMilli(span.from()), ZoneOffset.UTC),
            this::write),
        this::inForce,
        rules(span.from()),
        span);
  }

  private Normal inForce(int of, long at) {
    int slot = Timeline.slotOf(at, OSLO, Set.of());
    return of == series && history.since(at, slot) <= at ? history.at(at, slot) : Normal.NONE;
  }

  private void write() {
    store.readings().write(unwritten);
    unwritten.clear();
  }

  private void keep(Judged one) {
    judged.add(one);
    if (!one.changes().isEmpty()) {
      store.judged().write(one);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void it_is_exactly_what_was_judged_live(long seed) {
    live(new SplittableRandom(seed));
    write();
    List<Judged> again =
        Replay.asItWas(
            store,
            RECIPE.recipe(),
            instance,
            Replay.inForce(store, instance, Set.of()),
            Instant.ofEpochMilli(FROM - HOUR),
            Instant.ofEpochMilli(END));
    List<String> was = told(judged);
    assertThat(told(again)).isEqualTo(was);
    assertThat(was).hasSizeGreaterThan(20);
    for (Condition condition :
        List.of(Condition.ABOVE, Condition.BELOW, Condition.OUTSIDE, Condition.SILENT)) {
      assertThat(was)
          .anyMatch(t -> t.contains("condition=" + condition) && t.contains("to=WARNING"));
    }
    for (Condition condition : List.of(Condition.ABOVE, Condition.UNREACHABLE)) {
      assertThat(was)
          .anyMatch(
              t -> t.contains("condition=" + condition) && t.contains("to=" + AlertState.CRITICAL));
    }
  }

  @Test
  void a_limit_that_was_taken_away_and_shipped_again_stands_once() {
    RuleRow before =
        store.rules().all().stream()
            .filter(row -> row.condition().equals(Condition.OUTSIDE.name()) && !row.shipped())
            .findFirst()
            .orElseThrow();
    store.rules().remove(before.id());
    Instant removed = Instant.ofEpochMilli(EDITED);
    store
        .changes()
        .add(
            new ChangeRow(
                0,
                removed,
                "ragna",
                "127.0.0.1",
                "limit",
                "" + before.id(),
                JsonMapper.builder().build().writeValueAsString(Rules.view(before)),
                null));
    int again = store.rules().add(at(rule(Condition.OUTSIDE, 8.0, null), removed));
    List<RulesThrough.Since> all =
        RulesThrough.of(store, Instant.ofEpochMilli(FROM), Instant.ofEpochMilli(END));
    assertThat(all).extracting(RulesThrough.Since::at).contains(removed);
    assertThat(outside(all.get(0))).containsExactly(before.id());
    assertThat(outside(all.get(all.size() - 1))).containsExactly(again);
  }

  private static List<Integer> outside(RulesThrough.Since since) {
    return since.rules().stream()
        .filter(rule -> rule.condition() == Condition.OUTSIDE)
        .map(Rule::id)
        .toList();
  }

  /** As it is since then. */
  private static RuleRow at(RuleRow row, Instant changed) {
    return Rules.row(Rules.view(row), changed);
  }

  @Test
  void what_rang_is_told_by_limit_and_at_night_apart() {
    live(new SplittableRandom(4));
    Instant from = Instant.ofEpochMilli(FROM);
    Instant now = Instant.ofEpochMilli(END);
    List<AlertRow> alerts = store.alerts().touching(from, now, null, 1_000);
    List<AlertMapper.Noise> noise = store.alerts().noise(from, now);
    assertThat(noise).hasSize(5);
    for (AlertMapper.Noise one : noise) {
      List<AlertRow> theirs =
          alerts.stream().filter(alert -> alert.condition().equals(one.condition())).toList();
      assertThat(one.rule()).isEqualTo(theirs.get(0).rule());
      assertThat(one.alerts()).isEqualTo(theirs.size());
      assertThat(one.atNight())
          .isEqualTo(
              (int)
                  theirs.stream()
                      .map(alert -> alert.since().atZone(OSLO).getHour())
                      .filter(hour -> hour >= 22 || hour < 6)
                      .count());
      assertThat(one.seconds())
          .isEqualTo(
              theirs.stream()
                  .mapToLong(
                      alert ->
                          Duration.between(
                                  alert.since(), alert.endedAt() == null ? now : alert.endedAt())
                              .toSeconds())
                  .sum());
    }
    assertThat(noise).anyMatch(one -> one.atNight() > 0 && one.atNight() < one.alerts());
    assertThat(store.alerts().noise(now, now)).isEmpty();
  }

  private void live(SplittableRandom random) {
    Span span = new Span(1, FROM, 0);
    InstanceJudge judge = judge(span);
    double level = 20;
    long stalled = 0;
    for (long at = FROM; at < END; at += 10_000) {
      long hour = (at - FROM) / HOUR;
      long minute = (at - FROM) % HOUR / MINUTE;
      // not running for ten minutes; not answering for five; refusing for another five
      if (hour == 4 && minute < 10) {
        continue;
      }
      if (hour == 4 && minute == 10 && span.number() == 1) {
        long from = FROM + 4 * HOUR - 4_000;
        store.watching().add(Gap.notRunning(from, at - 3_000));
        keep(judge.time(span, from));
        span = new Span(2, at - 3_000, at - 3_000 - from);
        judge = judge(span);
        keep(judge.inLine(span, at - 3_000));
      }
      if ((hour == 11 || hour == 19) && minute < 5) {
        boolean refused = hour == 19;
        if (minute == 0 && at % MINUTE == 0) {
          store
              .silences()
              .add(
                  new Silence(
                      instance.id(),
                      Pace.FAST.code(),
                      Instant.ofEpochMilli(at),
                      Instant.ofEpochMilli(at + 5 * MINUTE),
                      refused ? "refused" : "no answer",
                      "nobody there"));
          keep(judge.unread(span, at, refused));
        }
        keep(judge.time(span, at + 6_000));
        continue;
      }
      if (at - 10_000 < EDITED && at >= EDITED) {
        edit();
        judge.rules(rules(EDITED), EDITED);
        keep(judge.inLine(span, EDITED + 3));
      }
      level = Math.max(0, level + random.nextDouble() * 6 - 3 + (20 - level) * 0.02);
      double burst = random.nextInt(900) == 0 || stalled > 0 ? 80 : 0;
      stalled = burst > 0 ? (stalled == 0 ? 30 : stalled - 1) : 0;
      // most come at once, some late; of some hours all wait for the store
      long arrived = at + 5 + (random.nextInt(20) == 0 ? random.nextInt(9_000) : 0);
      keep(read(judge, span, at, arrived, level + burst));
      if (random.nextInt(2_500) == 0) {
        // killed, and there again within its interval
        judge = judge(span);
      }
    }
  }

  private void edit() {
    RuleRow before =
        store.rules().all().stream()
            .filter(row -> row.condition().equals(Condition.ABOVE.name()))
            .filter(row -> row.counter().equals(CUSTOMS.counter()))
            .filter(row -> !row.shipped())
            .findFirst()
            .orElseThrow();
    RuleRow after =
        new RuleRow(
            before.id(),
            before.counter(),
            before.labels(),
            before.reach(),
            before.reachOf(),
            before.condition(),
            55.0,
            before.critical(),
            2,
            2,
            null,
            null,
            null,
            null,
            null,
            null,
            true,
            "",
            null,
            false,
            Instant.ofEpochMilli(EDITED));
    store.rules().change(after);
    JsonMapper json = JsonMapper.builder().build();
    store
        .changes()
        .add(
            new ChangeRow(
                0,
                Instant.ofEpochMilli(EDITED),
                "ragna",
                "127.0.0.1",
                "limit",
                "" + before.id(),
                json.writeValueAsString(Rules.view(before)),
                json.writeValueAsString(Rules.view(after))));
  }

  private Judged read(InstanceJudge judge, Span span, long at, long arrived, double value) {
    Reading reading =
        new Reading(
            Instant.ofEpochMilli(at),
            10_000,
            List.of(CUSTOMS),
            new double[] {value},
            new WhyNothing[1]);
    LastTotals last =
        new LastTotals(
            Instant.ofEpochMilli(at), 0, 0, 0, Set.of(CUSTOMS.counter()), Map.of(), Set.of());
    StoredPast.AsShown shown =
        new StoredPast(store, instance.id(), Clock.systemUTC(), () -> {})
            .shown(
                new StoredReading(
                    Instant.ofEpochMilli(at),
                    Instant.ofEpochMilli(arrived),
                    10_000,
                    Pace.FAST.code(),
                    10,
                    new int[] {series},
                    new double[] {value}),
                RECIPE.recipe());
    Judged told = judge.read(span, Pace.FAST, at, arrived, shown.ids(), shown.values());
    // kept with what was judged of it, so that a judge that begins anew finds both or none
    unwritten.add(
        new KeptReading(
            instance.id(),
            Pace.FAST.code(),
            10,
            at,
            Instant.ofEpochMilli(arrived),
            new Increases.Step(reading, last),
            Judged.NOTHING));
    return told;
  }

  /** Limit by limit: at the same moment each is told of by itself. */
  private static List<String> told(List<Judged> all) {
    return all.stream()
        .flatMap(one -> one.changes().stream())
        .sorted(Comparator.comparing(change -> change.key().toString()))
        .flatMap(
            (Docket.Change change) ->
                change.transitions().stream().map(t -> change.key() + " " + t))
        .toList();
  }
}
