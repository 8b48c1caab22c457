package jamjar.core.telling;

import jamjar.core.telling.Plan.Recipient;
import jamjar.core.telling.Told.Kind;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What waits for the report of the night, by recipient. */
final class NightReport {
  private final Map<String, Waiting> waiting = new LinkedHashMap<>();

  /** When it goes out, epoch ms. */
  private long due;

  private static final class Waiting {
    private final Recipient recipient;
    private final String rule;
    private final Map<AlertKey, Line> lines = new LinkedHashMap<>();

    Waiting(Recipient recipient, String rule) {
      this.recipient = recipient;
      this.rule = rule;
    }
  }

  long due() {
    return due;
  }

  /** That it goes out at the plan's hour next after a moment. */
  void dueAfter(Plan plan, long at) {
    due = plan.reportAfter(at);
  }

  void add(Recipient recipient, String rule, Collection<Line> lines) {
    Map<AlertKey, Line> of =
        waiting.computeIfAbsent(recipient.name(), name -> new Waiting(recipient, rule)).lines;
    lines.forEach(line -> of.putIfAbsent(line.key, line));
  }

  /** That somebody has it. */
  void sent(String recipient) {
    waiting.remove(recipient);
  }

  /** What is due at a moment, and does not wait any more then. */
  List<Told> take(Plan plan, long at) {
    if (at < due) {
      return List.of();
    }
    List<Told> told = at(at);
    waiting.clear();
    dueAfter(plan, at);
    return told;
  }

  /** Of each recipient what they are told by it, were it to go out at that moment. */
  List<Told> at(long at) {
    return waiting.values().stream()
        .map(
            one ->
                Told.ofMany(
                    Kind.REPORT, one.recipient, one.rule, at, Line.items(one.lines.values())))
        .toList();
  }
}
