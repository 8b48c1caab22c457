package jamjar.core.telling;

import jamjar.core.limit.Bundles;
import jamjar.core.limit.Bundles.Risen;
import jamjar.core.limit.Severity;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Alerts that belong together, and who has been told of them. */
final class Matter {
  private static final long SETTLED = 300_000;
  private static final long MINUTE = 60_000;
  String id;

  /** When something of it changed last, epoch ms. */
  long changed;

  final List<Line> lines = new ArrayList<>();
  final Map<String, ToldOf> told = new HashMap<>();

  /** What somebody has been told. */
  static final class ToldOf {
    Severity severity;
    String rule;
    List<Way> ways;
    boolean person;
    boolean over;
    final Set<AlertKey> alerts = new LinkedHashSet<>();

    ToldOf(Severity severity, String rule, List<Way> ways, boolean person) {
      this.severity = severity;
      this.rule = rule;
      this.ways = ways;
      this.person = person;
    }

    /** What joined after all was over is told as if it were the first. */
    void startAnew() {
      if (over) {
        alerts.clear();
        over = false;
      }
    }
  }

  Matter(Line first) {
    id = first.key.words();
    lines.add(first);
    changed = first.key.rose();
  }

  long since() {
    return lines.get(0).key.rose();
  }

  /**
   * Whether it is to be looked at: what has not changed for a while only once a minute, or alerts
   * that are open for weeks would cost more than all others.
   */
  boolean isLookedAt(long at) {
    long since = at - changed;
    return since <= SETTLED || since % MINUTE < Teller.STEP;
  }

  boolean isOpen() {
    return lines.stream().anyMatch(Line::isOpen);
  }

  boolean takes(Line line) {
    return line.key.rose() - since() <= Bundles.WITHIN
        && lines.stream().anyMatch(other -> Bundles.join(risen(line), risen(other)));
  }

  private static Risen risen(Line line) {
    Subject subject = line.subject;
    boolean tellsOfSilence = subject.ofMany() || line.isSilence();
    return new Risen(
        0,
        line.key.rose(),
        subject.ofMany() ? 0 : subject.instance(),
        subject.group(),
        tellsOfSilence ? subject.site() : "",
        subject.uses());
  }

  /** Whether somebody is at it already: knows of one of them that is no less bad. */
  boolean isLookedAfter(Line line, long at) {
    return lines.stream().anyMatch(other -> other.covers(line.severity, at));
  }

  /** Whether all that somebody was told of has ended. */
  boolean isOver(ToldOf of) {
    return lines.stream().noneMatch(line -> line.isOpen() && of.alerts.contains(line.key));
  }
}
