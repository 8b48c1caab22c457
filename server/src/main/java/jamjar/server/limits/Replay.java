package jamjar.server.limits;

import jamjar.collect.Refusal;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Rule;
import jamjar.core.watching.Gap;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Span;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.StoredReading;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Judges again what was stored; nothing is written. */
public final class Replay {

  private Replay() {}

  /**
   * As it was, by the rules in the store: the readings in the order of their arrival, from calm,
   * and between them the gaps in which nobody was watched.
   *
   * @param normals what was normal
   * @return what each of them changed
   */
  public static List<Judged> asItWas(
      Store store,
      Recipe recipe,
      InstanceRow instance,
      Docket.Normals normals,
      Instant from,
      Instant to) {
    List<Rule> rules = store.rules().all().stream().map(row -> Rules.rule(row, to)).toList();
    List<StoredReading> readings =
        store.readings().readings(instance.id(), from, to).stream()
            .sorted(Comparator.comparing(StoredReading::arrived))
            .toList();
    // before its first reading there was nothing to judge
    long first =
        readings.stream().mapToLong(r -> r.at().toEpochMilli()).min().orElse(to.toEpochMilli());
    StoredPast stored = new StoredPast(store, instance.id(), Clock.systemUTC(), () -> {});
    Span span = new Span(1, first, 0);
    InstanceJudge judge =
        new InstanceJudge(
            Setting.of(instance, recipe, Optional.empty(), first),
            Past.none(stored),
            normals,
            rules,
            span);
    Deque<Gap> gaps = new ArrayDeque<>(store.watching().touching(from, to));
    Deque<Silence> silences =
        store.silences().touching(instance.id(), from, to).stream()
            .filter(s -> s.source() == Pace.FAST.code() && s.from().toEpochMilli() > first)
            .collect(Collectors.toCollection(ArrayDeque::new));
    List<Judged> judged = new ArrayList<>();
    for (StoredReading reading : readings) {
      long arrived = reading.arrived().toEpochMilli();
      if (!gaps.isEmpty() && onlyTried(gaps.peek(), arrived)) {
        continue;
      }
      while (!gaps.isEmpty() && gaps.peek().to() <= arrived) {
        Gap gap = gaps.poll();
        if (gap.to() <= first) {
          continue;
        }
        if (!gap.overlaps()) {
          judged.add(judge.time(span, gap.from()));
        }
        span = new Span(span.number() + 1, gap.to(), gap.lasted());
        judged.add(judge.inLine(span, gap.to()));
      }
      while (!silences.isEmpty() && !silences.peek().from().isAfter(reading.arrived())) {
        Silence silence = silences.poll();
        boolean refused =
            Refusal.Reason.of(silence.reason()).map(Refusal.Reason::answered).orElse(false);
        judged.add(judge.unread(span, silence.from().toEpochMilli(), refused));
      }
      StoredPast.AsShown shown = stored.shown(reading, recipe);
      judged.add(
          judge.read(
              span,
              Pace.of(reading.source()),
              reading.at().toEpochMilli(),
              arrived,
              shown.ids(),
              shown.values()));
    }
    return judged;
  }

  /** A reading by which it was tried whether readings are kept again; nobody judged it. */
  private static boolean onlyTried(Gap gap, long arrived) {
    return gap.why() == Gap.Why.NOT_KEPT
        && arrived > gap.from() + Watching.LONGEST_MILLIS
        && arrived < gap.to();
  }
}
