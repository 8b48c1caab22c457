package jamjar.server.limits;

import jamjar.collect.Refusal;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Docket;
import jamjar.core.watching.Gap;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Span;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.facts.FactRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.StoredReading;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Judges again what was stored; nothing is written. */
public final class Replay {

  private Replay() {}

  /**
   * As it was: the readings in the order of their arrival, from calm, by the limits that were in
   * force then, and between them the gaps in which nobody was watched.
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
    Deque<RulesThrough.Since> rules = new ArrayDeque<>(RulesThrough.of(store, from, to));
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
            rules.poll().rules(),
            span);
    Deque<FactRow> starts = starts(store, instance, to);
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
      while (!rules.isEmpty() && rules.peek().at().toEpochMilli() <= arrived) {
        RulesThrough.Since next = rules.poll();
        judge.rules(next.rules(), next.at().toEpochMilli());
        judged.add(judge.inLine(span, next.at().toEpochMilli()));
      }
      while (!starts.isEmpty() && starts.peek().from().toEpochMilli() <= arrived) {
        judge.started(1000 * Long.parseLong(starts.poll().value()));
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

  /** When what is watched began, as it said it. */
  private static Deque<FactRow> starts(Store store, InstanceRow instance, Instant to) {
    return store.facts().of(instance.id(), "started").stream()
        .filter(fact -> fact.from().isBefore(to) && fact.value().matches("\\d+"))
        .collect(Collectors.toCollection(ArrayDeque::new));
  }

  /**
   * What was normal for the series of an instance by what was in force then, for {@link #asItWas}.
   */
  public static Docket.Normals inForce(Store store, InstanceRow instance, Set<LocalDate> holidays) {
    Map<Integer, Optional<BaselineHistory>> histories = new HashMap<>();
    ZoneId zone = ZoneId.of(instance.zone());
    return (series, at) -> {
      int slot = Timeline.slotOf(at, zone, holidays);
      return histories
          .computeIfAbsent(series, id -> store.normals().history(id, Instant.EPOCH))
          .filter(history -> history.since(at, slot) <= at)
          .map(history -> history.at(at, slot))
          .orElse(Normal.NONE);
    };
  }

  /** A reading by which it was tried whether readings are kept again; nobody judged it. */
  private static boolean onlyTried(Gap gap, long arrived) {
    return gap.why() == Gap.Why.NOT_KEPT
        && arrived > gap.from() + Watching.LONGEST_MILLIS
        && arrived < gap.to();
  }
}
