package jamjar.server.heads;

import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.toList;
import static java.util.stream.Collectors.toMap;

import jamjar.core.counter.Pace;
import jamjar.core.group.HeadCount;
import jamjar.core.group.Member;
import jamjar.core.group.Member.Standing;
import jamjar.core.group.SiteCount;
import jamjar.server.instances.InstanceState;
import jamjar.server.markers.MarkerService;
import jamjar.server.watching.StoreThere;
import jamjar.store.Store;
import jamjar.store.groups.GroupRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Counts who of each group answers, and how much of each site is silent. */
@Component
public class HeadCounts {
  private static final Logger LOG = LoggerFactory.getLogger(HeadCounts.class);

  private final Store store;
  private final MarkerService markers;
  private final Strangers strangers;
  private final StoreThere there;
  private final Clock clock;
  private final Map<Integer, Away> states = new ConcurrentHashMap<>();

  /** As last known, for when the store is away. */
  private volatile Known known = new Known(List.of(), List.of(), List.of(), Map.of(), Set.of());

  /** How an instance is, and since when it can't be read, epoch ms. */
  private record Away(InstanceState.State state, long since) {}

  /**
   * What the store knows.
   *
   * @param silences since when those that last do, by number of the instance, epoch ms: one may
   *     have been away for longer than Jam Jar runs
   * @param processes the JVMs that are watched
   */
  private record Known(
      List<InstanceRow> instances,
      List<GroupRow> groups,
      List<MarkerRow> maintenance,
      Map<Integer, Long> silences,
      Set<String> processes) {}

  /**
   * What is counted now.
   *
   * @param groups those of which it is known how many there should be, and are
   * @param notKnown those of which it is not known now how many there are
   */
  public record Now(List<HeadCount> groups, List<String> notKnown, List<SiteCount> sites) {}

  HeadCounts(
      Store store, MarkerService markers, Strangers strangers, StoreThere there, Clock clock) {
    this.there = there;
    this.store = store;
    this.markers = markers;
    this.strangers = strangers;
    this.clock = clock;
  }

  /** An instance is doing otherwise; must not block. */
  public void state(InstanceState now) {
    states.compute(
        now.instance(),
        (id, before) -> {
          boolean still = before != null && before.state().cutOff() && now.state().cutOff();
          return new Away(now.state(), still ? before.since() : now.since());
        });
  }

  /** An instance is gone; must not block. */
  public void removed(int instance) {
    states.remove(instance);
  }

  /**
   * Counts. A group of which one was not asked yet, or is silent with all of its site, is not
   * known.
   */
  public Now now() {
    Known all = known();
    long now = clock.millis();
    Map<String, List<Member>> groups = new LinkedHashMap<>();
    Map<String, List<Member>> sites = new TreeMap<>();
    for (InstanceRow row : all.instances()) {
      if (!row.kind().equals(InstanceRow.OWN)) {
        Member member = member(row, all);
        groups.computeIfAbsent(row.groupName(), g -> new ArrayList<>()).add(member);
        if (!row.site().isEmpty()) {
          sites.computeIfAbsent(row.site(), s -> new ArrayList<>()).add(member);
        }
      }
    }
    List<SiteCount> counted = new ArrayList<>();
    sites.forEach((site, members) -> counted.add(SiteCount.of(site, members)));
    List<HeadCount> heads = new ArrayList<>();
    List<String> notKnown = new ArrayList<>();
    all.groups().stream()
        .collect(groupingBy(GroupRow::name, TreeMap::new, toList()))
        .forEach(
            (group, rows) -> {
              List<Member> members =
                  groups.getOrDefault(group, List.of()).stream()
                      .map(member -> member.behind(counted))
                      .toList();
              if (members.stream().anyMatch(m -> m.standing() == Standing.NOT_KNOWN)) {
                notKnown.add(group);
              } else {
                int wanted = rows.stream().mapToInt(GroupRow::expected).sum();
                List<String> found = strangers.of(rows, all.processes());
                heads.add(HeadCount.of(group, wanted, members, found, now));
              }
            });
    return new Now(heads, notKnown, counted.stream().filter(SiteCount::tells).toList());
  }

  /** Whether half of what is at a site is silent now. */
  public boolean unreachable(String site) {
    return now().sites().stream().anyMatch(s -> s.site().equals(site) && s.unreachable());
  }

  private Member member(InstanceRow row, Known all) {
    boolean rests =
        row.paused() || all.maintenance().stream().anyMatch(m -> MarkerService.reaches(m, row));
    Away away = states.get(row.id());
    Standing standing =
        rests
            ? Standing.RESTING
            : away == null
                ? Standing.NOT_KNOWN
                : switch (away.state()) {
                  // what it says is not kept: nothing is missing there
                  case READING, FAILING -> Standing.ANSWERS;
                  case SILENT -> Standing.SILENT;
                  case UNREACHABLE -> Standing.UNREACHABLE;
                  case PAUSED -> Standing.RESTING;
                  case STARTING -> Standing.NOT_KNOWN;
                };
    long since = away == null ? 0 : away.since();
    if (standing == Standing.SILENT || standing == Standing.UNREACHABLE) {
      since = Math.min(since, all.silences().getOrDefault(row.id(), Long.MAX_VALUE));
    }
    return new Member(row.name(), row.groupName(), row.site(), standing, since);
  }

  private Known known() {
    if (there.away()) {
      return known;
    }
    try {
      known =
          new Known(
              store.instances().all(),
              store.groups().all(),
              markers.maintenanceNow(),
              store.silences().allLasting(Pace.FAST.code()).stream()
                  .collect(toMap(Silence::instance, s -> s.from().toEpochMilli())),
              strangers.watched());
    } catch (RuntimeException e) {
      LOG.debug("event=heads-as-known why=\"{}\"", e.getMessage());
    }
    return known;
  }
}
