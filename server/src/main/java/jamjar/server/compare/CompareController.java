package jamjar.server.compare;

import jamjar.core.session.Fingerprint;
import jamjar.core.statement.Counted;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What is better and what is worse than at another time. */
@RestController
@RequestMapping(path = "/api/instances/{id}/compare", produces = "application/json")
class CompareController {
  private static final String SETTING = "settings/";
  private static final int MOST_STATEMENTS = 20;

  /** The middle of more is no other. */
  private static final int MOST_OTHERS = 20;

  /** Of statements that run less often than this it is chance in which of the two they ran. */
  private static final int SELDOM = 10;

  private final Store store;
  private final Scopes scopes;
  private final InstanceService instances;
  private final SeriesCompared series;
  private final Clock clock;

  CompareController(
      Store store, Scopes scopes, InstanceService instances, SeriesCompared series, Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.instances = instances;
    this.series = series;
    this.clock = clock;
  }

  /**
   * @param vs before, day or week; marker:, instance: or frozen: and a number; group for the middle
   *     of the others of its kind in its group
   * @param span of a marker how long after it: minutes (ten of them), hour, day or week
   */
  @GetMapping
  CompareView compare(
      @PathVariable int id,
      @RequestParam long from,
      @RequestParam long to,
      @RequestParam(defaultValue = "week") String vs,
      @RequestParam(defaultValue = "day") String span) {
    Times.requireWindow(from, to);
    InstanceRow row = instances.row(id);
    int colon = vs.indexOf(':');
    String kind = colon < 0 ? vs : vs.substring(0, colon);
    int number = colon < 0 ? 0 : number(vs.substring(colon + 1));
    long end = Math.min(to, clock.millis());
    return switch (kind) {
      case "marker" -> {
        MarkerRow marker =
            store
                .markers()
                .byId(number)
                .orElseThrow(() -> Problem.unknown("There is no marker " + number + "."));
        yield view(row, Stretches.marker(marker, span, clock.millis()), SeriesCompared.Other.SELF);
      }
      case "instance" -> {
        InstanceRow other = instances.row(number);
        yield view(
            row,
            Stretches.same(from, end, other.name()),
            new SeriesCompared.Other(List.of(number), 0));
      }
      case "frozen" ->
          view(
              row,
              Stretches.same(from, end, "“" + name(id, number) + "”"),
              new SeriesCompared.Other(List.of(), number));
      case "group" ->
          view(
              row,
              Stretches.same(from, end, "the middle of the others in " + row.groupName()),
              new SeriesCompared.Other(others(row), 0));
      default -> view(row, Stretches.window(from, end, vs), SeriesCompared.Other.SELF);
    };
  }

  private List<Integer> others(InstanceRow row) {
    List<Integer> others =
        scopes.instances().stream()
            .filter(one -> one.id() != row.id() && one.kind().equals(row.kind()))
            .filter(one -> !row.groupName().isEmpty() && one.groupName().equals(row.groupName()))
            .map(InstanceRow::id)
            .limit(MOST_OTHERS)
            .toList();
    if (others.isEmpty()) {
      throw Problem.field("vs", row.name() + " is the only one of its kind in its group.");
    }
    return others;
  }

  private static int number(String text) {
    try {
      return Integer.parseInt(text);
    } catch (NumberFormatException e) {
      throw Problem.field("vs", "'" + text + "' is no number.");
    }
  }

  private String name(int instance, int frozen) {
    return store.normals().frozen(instance).stream()
        .filter(one -> one.id() == frozen)
        .findFirst()
        .orElseThrow(() -> Problem.unknown("Nothing is kept under the number " + frozen + "."))
        .name();
  }

  private CompareView view(InstanceRow row, Stretches two, SeriesCompared.Other other) {
    SeriesCompared.Told told = series.of(row, two, other);
    boolean self = other.equals(SeriesCompared.Other.SELF);
    return new CompareView(
        two.against(),
        new CompareView.Stretch(two.before(), two.beforeEnd()),
        new CompareView.Stretch(two.after(), two.afterEnd()),
        told.rows(),
        told.same(),
        told.notComparable(),
        self
            ? settings(facts(row.id(), two.beforeEnd() - 1), facts(row.id(), two.afterEnd()))
            : other.instances().size() != 1
                ? List.of()
                : settings(
                    facts(other.instances().get(0), two.afterEnd()),
                    facts(row.id(), two.afterEnd())),
        self ? statements(row.id(), two) : List.of());
  }

  /** What an instance said of its settings at a moment. */
  private Map<String, String> facts(int instance, long at) {
    Map<String, String> found = new TreeMap<>();
    Instant moment = Instant.ofEpochMilli(at);
    for (FactRow fact : store.facts().all(instance)) {
      boolean held =
          !fact.from().isAfter(moment) && (fact.to() == null || fact.to().isAfter(moment));
      boolean told = fact.name().startsWith(SETTING) || fact.name().equals("version");
      if (held && told) {
        found.putIfAbsent(fact.name(), fact.value());
      }
    }
    return found;
  }

  private static List<CompareView.Setting> settings(
      Map<String, String> before, Map<String, String> after) {
    List<CompareView.Setting> found = new ArrayList<>();
    // what was not known then says nothing of a change
    after.forEach(
        (name, value) -> {
          String was = before.get(name);
          if (was != null && !was.equals(value)) {
            found.add(new CompareView.Setting(name.replaceFirst("^" + SETTING, ""), was, value));
          }
        });
    return found;
  }

  private List<CompareView.Statement> statements(int instance, Stretches two) {
    Counted before = counted(instance, two.before(), two.beforeEnd());
    Counted after = counted(instance, two.after(), two.afterEnd());
    if (before.elapsedMs() == 0 || after.elapsedMs() == 0) {
      return List.of();
    }
    Map<Long, Long> was = calls(before);
    Map<Long, Long> is = calls(after);
    List<Changed> changed = new ArrayList<>();
    is.forEach(
        (print, calls) -> {
          if (calls >= SELDOM && !was.containsKey(print)) {
            changed.add(new Changed(print, "new", 1000.0 * calls / after.elapsedMs()));
          }
        });
    was.forEach(
        (print, calls) -> {
          if (calls >= SELDOM && !is.containsKey(print)) {
            changed.add(new Changed(print, "gone", 1000.0 * calls / before.elapsedMs()));
          }
        });
    List<Changed> first =
        changed.stream()
            .sorted(Comparator.comparingDouble(one -> -one.callsPerSecond()))
            .limit(MOST_STATEMENTS)
            .toList();
    Map<Long, String> texts =
        store.statements().texts(instance, first.stream().map(Changed::print).toList());
    return first.stream()
        .map(
            one ->
                new CompareView.Statement(
                    Fingerprint.hex(one.print()),
                    texts.getOrDefault(one.print(), ""),
                    one.kind(),
                    one.callsPerSecond()))
        .toList();
  }

  private record Changed(long print, String kind, double callsPerSecond) {}

  private Counted counted(int instance, long from, long to) {
    Counted.Sum sum = new Counted.Sum();
    // what ends at its begin is of before
    store
        .statements()
        .sums(instance, Instant.ofEpochMilli(from + 1), Instant.ofEpochMilli(to + 1), sum::add);
    return sum.until(Instant.ofEpochMilli(to));
  }

  private static Map<Long, Long> calls(Counted counted) {
    Map<Long, Long> calls = new HashMap<>();
    counted
        .statements()
        .forEach(
            (key, counts) -> {
              if (key.fingerprint() != 0) {
                calls.merge(key.fingerprint(), counts.calls(), Long::sum);
              }
            });
    return calls;
  }
}
