package jamjar.server.limits;

import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.InForce;
import jamjar.core.limit.PastJudgings.Told;
import jamjar.core.limit.Transition;
import jamjar.server.normals.NormalsService;
import jamjar.server.problems.OneAtATime;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/**
 * Judges the time before an instance came under watch by the limits as they are now, as what was
 * imported has alerts, too: they are kept as judged afterwards, and told to nobody. What has not
 * ended by then goes on live.
 */
@Service
class Afterwards {
  /** So long after it came under watch what had not ended by then goes on. */
  private static final Duration GOES_ON = Duration.ofHours(1);

  private final Store store;
  private final LiveJudge judge;
  private final PastReader reader;
  private final PastSilences silences;
  private final NormalsService normals;
  private final Clock clock;
  private final OneAtATime one = new OneAtATime("The past is being judged already.");

  Afterwards(
      Store store,
      LiveJudge judge,
      PastReader reader,
      PastSilences silences,
      NormalsService normals,
      Clock clock) {
    this.clock = clock;
    this.store = store;
    this.judge = judge;
    this.reader = reader;
    this.silences = silences;
    this.normals = normals;
  }

  /**
   * Judges all, anew where it was done before.
   *
   * @return how many alerts there would have been
   */
  int judge() {
    return one.answer(
        () -> {
          List<InstanceRow> rows = store.instances().all();
          rows.forEach(row -> store.alerts().forgetAfterwards(row.id()));
          int all = rows.stream().mapToInt(this::counters).sum();
          return all + silences.judge(rows);
        });
  }

  private int counters(InstanceRow row) {
    long to = row.createdAt().toEpochMilli();
    Optional<Instant> first = store.readings().firstAt(row.id(), Instant.EPOCH);
    if (first.isEmpty() || row.paused() || !first.get().isBefore(row.createdAt())) {
      return 0;
    }
    long from = first.get().toEpochMilli();
    Map<Integer, SeriesRow> series =
        store.series().ofInstance(row.id()).stream()
            .collect(Collectors.toMap(SeriesRow::id, s -> s));
    Set<LocalDate> holidays = normals.holidays(row);
    int found = 0;
    for (Map.Entry<Integer, List<InForce>> entry : judge.inForce(row.id()).entrySet()) {
      SeriesRow of = series.get(entry.getKey());
      for (InForce inForce : of == null ? List.<InForce>of() : entry.getValue()) {
        if (inForce.limit().condition() != Condition.REACHES) {
          found += judge(row, of, inForce, from, to, holidays);
        }
      }
    }
    return found;
  }

  /** Of one that is watched for long it is known live what was of it since. */
  private boolean isNew(InstanceRow row) {
    return Duration.between(row.createdAt(), clock.instant()).compareTo(GOES_ON) < 0;
  }

  private int judge(
      InstanceRow row, SeriesRow of, InForce inForce, long from, long to, Set<LocalDate> holidays) {
    List<Told> told = reader.readOnce(row, of, inForce.limit(), from, to).told(inForce.limit());
    if (told.isEmpty()) {
      return 0;
    }
    Optional<BaselineHistory> history = store.normals().history(of.id(), Instant.EPOCH);
    ZoneId zone = ZoneId.of(row.zone());
    Docket.Normals normal =
        (series, at) ->
            history
                .map(known -> known.at(at, Timeline.slotOf(at - 1, zone, holidays)))
                .orElse(Normal.NONE);
    Condition condition = inForce.limit().condition();
    for (Told bare : told) {
      Told one = bare.with(at -> normal.at(of.id(), at));
      Instant since = Instant.ofEpochMilli(one.alert().since());
      if (store.alerts().began(row.id(), of.id(), condition.name(), since)) {
        // somebody wrote to it, or it went on already
        continue;
      }
      if (one.end().open() && isNew(row)) {
        judge.goOn(row.id(), new Docket.Key(of.id(), condition), one);
      } else {
        keep(row, of, inForce, one);
      }
    }
    return told.size();
  }

  private void keep(InstanceRow row, SeriesRow of, InForce inForce, Told told) {
    List<Transition> all = told.transitions();
    Transition last = all.get(all.size() - 1);
    double number =
        all.stream()
            .filter(one -> one.to().open())
            .mapToDouble(Transition::number)
            .filter(Double::isFinite)
            .reduce((before, after) -> after)
            .orElse(Double.NaN);
    long id =
        store
            .alerts()
            .addAfterwards(
                row(
                    inForce.rule().id(),
                    row.id(),
                    of,
                    inForce.limit().condition(),
                    told,
                    last,
                    number));
    for (Transition one : all) {
      store
          .alerts()
          .addTransition(
              new TransitionRow(
                  id,
                  Instant.ofEpochMilli(one.at()),
                  Instant.ofEpochMilli(one.arrived()),
                  one.from().words(),
                  one.to().words(),
                  one.value(),
                  one.normal().p05(),
                  one.normal().p50(),
                  one.normal().p95(),
                  one.number(),
                  one.distance()));
    }
  }

  private static AlertRow row(
      int rule,
      int instance,
      SeriesRow of,
      Condition condition,
      Told told,
      Transition last,
      double number) {
    return AlertRow.unseen(
        rule,
        instance,
        of.id(),
        of.counter(),
        new TreeMap<>(of.labels()),
        condition.name(),
        last.to().words(),
        told.alert().severity().name().toLowerCase(Locale.ROOT),
        Instant.ofEpochMilli(told.alert().since()),
        Instant.ofEpochMilli(told.alert().until()),
        last.value(),
        told.transitions().get(0).normal().p05(),
        told.transitions().get(0).normal().p95(),
        number,
        told.alert().worst(),
        told.end().flapping());
  }
}
