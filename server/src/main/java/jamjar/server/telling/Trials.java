package jamjar.server.telling;

import jamjar.core.telling.Happened;
import jamjar.core.telling.Plan;
import jamjar.core.telling.Teller;
import jamjar.core.telling.Told;
import jamjar.core.telling.Told.Kind;
import jamjar.server.problems.OneAtATime;
import jamjar.store.Store;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Component;

/** Tries a plan on the alerts of the past: what it would have sent, decided as it is live. */
@Component
class Trials {
  private static final int LATEST = 200;
  private static final int EVENING_HOUR = 22;

  private final Store store;
  private final Plans plans;
  private final Composer composer;
  private final Clock clock;
  private final OneAtATime one = new OneAtATime("Others just try their rules.");

  Trials(Store store, Plans plans, Composer composer, Clock clock) {
    this.store = store;
    this.plans = plans;
    this.composer = composer;
    this.clock = clock;
  }

  Words words(ZoneId zone) {
    return composer.words(zone);
  }

  TrialView of(PlanBody body, int weeks) {
    CheckedPlan.check(body, plans.channels());
    Plan plan = plans.plan(body);
    Instant to = clock.instant();
    Instant from = to.minus(Duration.ofDays(7L * weeks));
    return one.answer(() -> tried(plan, from, to));
  }

  private TrialView tried(Plan plan, Instant from, Instant to) {
    Catalogue catalogue = Catalogue.of(store.instances().all(), store.markers().touching(from, to));
    List<Happened> all = new PastAlerts(store, catalogue).begunIn(from, to);
    Teller teller = new Teller(plan, catalogue, from.toEpochMilli());
    all.forEach(teller::hear);
    List<Told> told = teller.until(to.toEpochMilli());
    int alerts =
        (int)
            all.stream()
                .filter(Happened.Passed.class::isInstance)
                .map(Happened.Passed.class::cast)
                .map(
                    passed ->
                        passed.instance() + " " + passed.series() + " " + passed.figures().since())
                .distinct()
                .count();
    Map<String, int[]> counts = new TreeMap<>();
    for (Told message : told) {
      int[] of = counts.computeIfAbsent(message.recipient(), name -> new int[3]);
      if (message.kind() == Kind.REPORT) {
        of[2]++;
      } else {
        of[0]++;
        of[1] += isNight(plan, message.at()) ? 1 : 0;
      }
    }
    return new TrialView(
        from.toEpochMilli(),
        to.toEpochMilli(),
        alerts,
        sum(counts, 0),
        sum(counts, 1),
        sum(counts, 2),
        counts.entrySet().stream()
            .map(
                entry ->
                    new TrialView.ByRecipient(
                        entry.getKey(),
                        entry.getValue()[0],
                        entry.getValue()[1],
                        entry.getValue()[2]))
            .toList(),
        latest(told, words(plan.zone())));
  }

  private static int sum(Map<String, int[]> counts, int of) {
    return counts.values().stream().mapToInt(one -> one[of]).sum();
  }

  private static boolean isNight(Plan plan, long at) {
    var local = Instant.ofEpochMilli(at).atZone(plan.zone());
    return local.getHour() >= EVENING_HOUR
        || local.getHour() * 60 + local.getMinute() < plan.reportMinute();
  }

  private static List<TrialView.Sent> latest(List<Told> told, Words words) {
    List<Told> newest = new ArrayList<>(told);
    Collections.reverse(newest);
    return newest.stream()
        .limit(LATEST)
        .map(
            one ->
                new TrialView.Sent(
                    one.key(),
                    one.at(),
                    one.kind().name().toLowerCase(Locale.ROOT),
                    one.recipient(),
                    one.rule(),
                    words.subject(one)))
        .toList();
  }
}
