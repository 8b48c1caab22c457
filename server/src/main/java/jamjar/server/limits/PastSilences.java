package jamjar.server.limits;

import jamjar.collect.Refusal;
import jamjar.core.counter.Pace;
import jamjar.core.group.HeadCount;
import jamjar.core.group.Member;
import jamjar.core.group.Member.Standing;
import jamjar.core.group.SiteCount;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Severity;
import jamjar.core.reading.SeriesKey;
import jamjar.server.heads.Heads;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.facts.FactRow;
import jamjar.store.groups.GroupRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.silences.Silence;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Judges afterwards who could not be read before it came under watch: each alone, its site, and the
 * heads of its group.
 */
@Component
class PastSilences {
  private final Store store;
  private final LiveJudge judge;

  PastSilences(Store store, LiveJudge judge) {
    this.store = store;
    this.judge = judge;
  }

  /** A span in which one could not be read, before it came under watch. */
  private record Away(InstanceRow row, Silence silence, boolean answered) {
    long from() {
      return silence.from().toEpochMilli();
    }

    long to() {
      return silence.to().toEpochMilli();
    }

    boolean holds(long at) {
      return from() <= at && at < to();
    }
  }

  /** A time in which something of a group or a site was so. */
  private record Stood(long from, long to, String words, double value) {}

  /**
   * @return how many alerts there would have been
   */
  int judge(List<InstanceRow> rows) {
    List<Away> away = new ArrayList<>();
    for (InstanceRow row : rows) {
      if (!row.kind().equals(InstanceRow.OWN)) {
        store.silences().touching(row.id(), Instant.EPOCH, row.createdAt()).stream()
            .filter(s -> s.source() == Pace.FAST.code() && s.to() != null)
            .filter(s -> !s.to().isAfter(row.createdAt()))
            .map(s -> new Away(row, s, answered(s)))
            .forEach(away::add);
      }
    }
    int found = away.stream().mapToInt(this::alone).sum();
    Optional<InstanceRow> own =
        rows.stream().filter(row -> row.kind().equals(InstanceRow.OWN)).findFirst();
    return own.isEmpty() || away.isEmpty() ? found : found + together(own.get(), rows, away);
  }

  private static boolean answered(Silence silence) {
    return Refusal.Reason.of(silence.reason()).map(Refusal.Reason::answered).orElse(false);
  }

  /** One that is silent or unreachable for as many intervals as its limit says. */
  private int alone(Away away) {
    Condition condition = away.answered() ? Condition.UNREACHABLE : Condition.SILENT;
    Optional<InForce> inForce =
        judge.inForce(away.row().id()).getOrDefault(0, List.of()).stream()
            .filter(one -> one.limit().condition() == condition)
            .findFirst();
    if (inForce.isEmpty()) {
      return 0;
    }
    double number = inForce.get().limit().lowest().number();
    long rises = away.from() + (long) (number * inForce.get().limit().stepMillis());
    if (rises >= away.to()) {
      return 0;
    }
    keep(inForce.get(), away.row(), 0, SeriesKey.of(""), new Stood(rises, away.to(), "", number));
    return 1;
  }

  private int together(InstanceRow own, List<InstanceRow> rows, List<Away> away) {
    Map<Integer, List<Away>> byInstance =
        away.stream().collect(Collectors.groupingBy(a -> a.row().id()));
    Map<String, List<InstanceRow>> sites = new TreeMap<>();
    Map<String, List<InstanceRow>> groups = new TreeMap<>();
    for (InstanceRow row : rows) {
      if (row.id() != own.id()) {
        if (!row.site().isEmpty()) {
          sites.computeIfAbsent(row.site(), s -> new ArrayList<>()).add(row);
        }
        groups.computeIfAbsent(row.groupName(), g -> new ArrayList<>()).add(row);
      }
    }
    int found = 0;
    for (Map.Entry<String, List<InstanceRow>> site : sites.entrySet()) {
      Map<String, String> labels = Map.of(Heads.SITE, site.getKey());
      found +=
          keep(
              own,
              new SeriesKey(Heads.SILENT_SHARE, labels),
              stood(
                  site.getValue(),
                  byInstance,
                  0,
                  at -> {
                    SiteCount count =
                        SiteCount.of(site.getKey(), members(site.getValue(), byInstance, at));
                    return count.unreachable()
                        ? Optional.of(new Stood(at, 0, count.words(), 100 * count.share()))
                        : Optional.empty();
                  }));
    }
    Map<String, Integer> expected = new HashMap<>();
    for (GroupRow group : store.groups().all()) {
      expected.merge(group.name(), group.expected(), Integer::sum);
    }
    for (Map.Entry<String, Integer> group : expected.entrySet()) {
      List<InstanceRow> members = groups.getOrDefault(group.getKey(), List.of());
      Map<String, String> labels = Map.of(Heads.GROUP, group.getKey());
      found +=
          keep(
              own,
              new SeriesKey(Heads.MISSING, labels),
              stood(
                  members,
                  byInstance,
                  HeadCount.AWAY_AFTER,
                  at -> {
                    HeadCount count =
                        HeadCount.of(
                            group.getKey(),
                            group.getValue(),
                            behindTheirSites(members, sites, byInstance, at),
                            List.of(),
                            at);
                    return count.missing() > 0
                        ? Optional.of(new Stood(at, 0, count.words(), count.missing()))
                        : Optional.empty();
                  }));
    }
    return found;
  }

  private static List<Member> behindTheirSites(
      List<InstanceRow> rows,
      Map<String, List<InstanceRow>> sites,
      Map<Integer, List<Away>> away,
      long at) {
    List<SiteCount> counted =
        sites.entrySet().stream()
            .map(site -> SiteCount.of(site.getKey(), members(site.getValue(), away, at)))
            .toList();
    return members(rows, away, at).stream().map(member -> member.behind(counted)).toList();
  }

  private static List<Member> members(
      Collection<InstanceRow> rows, Map<Integer, List<Away>> away, long at) {
    return rows.stream()
        .map(
            row -> {
              Optional<Away> then =
                  away.getOrDefault(row.id(), List.of()).stream()
                      .filter(a -> a.holds(at))
                      .findFirst();
              Standing standing =
                  then.map(a -> a.answered() ? Standing.UNREACHABLE : Standing.SILENT)
                      .orElse(Standing.ANSWERS);
              return new Member(
                  row.name(),
                  row.groupName(),
                  row.site(),
                  standing,
                  then.map(Away::from).orElse(0L));
            })
        .toList();
  }

  /**
   * The times in which something stood, of what changes only where a silence begins or ends.
   *
   * @param later how long after a silence began it counts, ms
   */
  private static List<Stood> stood(
      List<InstanceRow> rows,
      Map<Integer, List<Away>> away,
      long later,
      Function<Long, Optional<Stood>> at) {
    TreeSet<Long> changes = new TreeSet<>();
    for (InstanceRow row : rows) {
      for (Away one : away.getOrDefault(row.id(), List.of())) {
        changes.add(one.from() + later);
        changes.add(one.to());
      }
    }
    List<Stood> all = new ArrayList<>();
    Stood last = null;
    for (long change : changes) {
      Optional<Stood> now = at.apply(change);
      if (now.isEmpty() && last != null) {
        all.add(new Stood(last.from(), change, last.words(), last.value()));
        last = null;
      } else if (now.isPresent()) {
        // as it stood last
        long from = last == null ? change : last.from();
        last = new Stood(from, 0, now.get().words(), now.get().value());
      }
    }
    return all;
  }

  private int keep(InstanceRow own, SeriesKey key, List<Stood> all) {
    if (all.isEmpty()) {
      return 0;
    }
    int series = store.readings().numbers(own.id(), List.of(key), own.createdAt())[0];
    Optional<InForce> inForce =
        judge.inForce(own.id()).getOrDefault(series, List.of()).stream().findFirst();
    if (inForce.isEmpty()) {
      return 0;
    }
    for (Stood one : all) {
      keep(inForce.get(), own, series, key, one);
      store
          .facts()
          .add(
              new FactRow(
                  own.id(),
                  Heads.fact(key.labels()),
                  one.words(),
                  Instant.ofEpochMilli(one.from()),
                  Instant.ofEpochMilli(one.to())));
    }
    return all.size();
  }

  /** One that is there already, as somebody wrote to it, stays as it is. */
  private void keep(InForce inForce, InstanceRow row, int series, SeriesKey key, Stood stood) {
    Instant since = Instant.ofEpochMilli(stood.from());
    String condition = inForce.limit().condition().name();
    if (store.alerts().began(row.id(), series, condition, since)) {
      return;
    }
    boolean critical = !inForce.limit().warning().present();
    Severity severity = critical ? Severity.CRITICAL : Severity.WARNING;
    AlertState state = critical ? AlertState.CRITICAL : AlertState.WARNING;
    double number = inForce.limit().lowest().number();
    long id =
        store
            .alerts()
            .addAfterwards(
                AlertRow.unseen(
                    inForce.rule().id(),
                    row.id(),
                    series,
                    key.counter(),
                    new TreeMap<>(key.labels()),
                    condition,
                    AlertState.CALM.words(),
                    severity.name().toLowerCase(Locale.ROOT),
                    since,
                    Instant.ofEpochMilli(stood.to()),
                    stood.value(),
                    Double.NaN,
                    Double.NaN,
                    number,
                    stood.value(),
                    false));
    pass(id, stood.from(), AlertState.CALM, state, stood.value(), number);
    pass(id, stood.to(), state, AlertState.CALM, 0, Double.NaN);
  }

  private void pass(
      long alert, long at, AlertState from, AlertState to, double value, double number) {
    Instant when = Instant.ofEpochMilli(at);
    store
        .alerts()
        .addTransition(
            new TransitionRow(
                alert,
                when,
                when,
                from.words(),
                to.words(),
                value,
                Double.NaN,
                Double.NaN,
                Double.NaN,
                number,
                Double.NaN));
  }
}
