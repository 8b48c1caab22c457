package jamjar.server.limits;

import jamjar.core.limit.Rule;
import jamjar.server.changes.Changes.What;
import jamjar.store.Store;
import jamjar.store.changes.ChangeRow;
import jamjar.store.limits.RuleRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import tools.jackson.databind.json.JsonMapper;

/**
 * The limits that were in force through time: those of now, told back by what was changed since.
 */
final class RulesThrough {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int MOST = 10_000;

  /** What was changed after the end is taken back, too. */
  private static final Instant EVER = Instant.parse("9999-01-01T00:00:00Z");

  private RulesThrough() {}

  /** All rules, from then on until the next. */
  record Since(Instant at, List<Rule> rules) {}

  /**
   * @return the first in force at the begin, the others as they changed, in order
   */
  static List<Since> of(Store store, Instant from, Instant to) {
    Map<Integer, RuleRow> rules = new TreeMap<>();
    store.rules().all().forEach(row -> rules.put(row.id(), row));
    // the latest first
    List<ChangeRow> changes =
        store.changes().between(from, EVER, new String[] {What.LIMIT.word()}, MOST);
    List<Since> found = new ArrayList<>();
    Instant end = to;
    for (ChangeRow change : changes) {
      add(found, rules, change.at(), end);
      end = change.at().isBefore(end) ? change.at() : end;
      undo(rules, change);
    }
    add(found, rules, from, end);
    return List.copyOf(found);
  }

  /** What was in force for a while, with those that came on again by themselves; put in front. */
  private static void add(
      List<Since> found, Map<Integer, RuleRow> rules, Instant from, Instant to) {
    if (from.isAfter(to)) {
      return;
    }
    TreeSet<Instant> begins = new TreeSet<>();
    begins.add(from);
    // some came on again, or were shipped, without anybody's doing
    rules.values().stream()
        .flatMap(row -> Stream.of(row.changedAt(), row.offUntil()))
        .filter(at -> at != null && at.isAfter(from) && at.isBefore(to))
        .forEach(begins::add);
    found.addAll(
        0,
        begins.stream()
            .map(
                at ->
                    new Since(
                        at,
                        rules.values().stream()
                            .filter(row -> !row.changedAt().isAfter(at))
                            .map(row -> Rules.rule(row, at))
                            .toList()))
            .toList());
  }

  private static void undo(Map<Integer, RuleRow> rules, ChangeRow change) {
    int id = Integer.parseInt(change.ofWhat());
    if (change.before() == null) {
      rules.remove(id);
    } else {
      rules.put(id, Rules.row(JSON.readValue(change.before(), LimitView.class), Instant.EPOCH));
    }
  }
}
