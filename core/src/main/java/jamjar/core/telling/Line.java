package jamjar.core.telling;

import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** An alert while it matters to telling. */
final class Line {
  final AlertKey key;
  final Subject subject;

  /** Since when it is as bad as it is, epoch ms. */
  long severitySince;

  /** When nobody was to be told of it last, though it was open, epoch ms; 0 for never. */
  long quiet;

  /** When it ended, epoch ms; 0 while it is open. */
  long ended;

  Severity severity;
  Figures figures;

  /** It comes and goes, and was told a while ago: till then it is not told again, epoch ms. */
  long againUntil;

  private long knownUntil;
  private Severity knownUpTo = Severity.NONE;

  Line(Happened.Passed passed) {
    key = new AlertKey(passed.instance(), passed.series(), passed.condition(), passed.at());
    subject = passed.subject();
    severity = passed.severity();
    severitySince = passed.at();
    figures = passed.figures();
  }

  boolean isOpen() {
    return ended == 0;
  }

  boolean isSilence() {
    return key.condition() == Condition.SILENT;
  }

  void follow(Happened.Passed passed) {
    if (!passed.open()) {
      ended = passed.at();
    } else if (passed.severity() != Severity.NONE) {
      if (passed.severity().compareTo(severity) > 0) {
        severitySince = passed.at();
        againUntil = 0;
      }
      severity = passed.severity();
      figures = passed.figures();
    }
  }

  void known(Happened.Known known) {
    knownUntil = known.until();
    knownUpTo = known.upTo();
  }

  boolean isAgain(long at) {
    return at < againUntil;
  }

  boolean isKnown(long at) {
    return covers(severity, at);
  }

  /** Whether who knows of it knows of what is so bad. */
  boolean covers(Severity other, long at) {
    return at < knownUntil && other.compareTo(knownUpTo) <= 0;
  }

  /** From when on it counts how long it has been open: what was quiet counts from then. */
  long counts() {
    return Math.max(severitySince, quiet);
  }

  private Told.Item item() {
    return new Told.Item(key, subject, severity, figures, ended);
  }

  /**
   * As they are told: the worst first; of these what is about many, and then what others of them
   * use, for it may be why.
   */
  static List<Told.Item> items(Collection<Line> lines) {
    Set<Integer> used =
        lines.stream().flatMap(line -> line.subject.uses().stream()).collect(Collectors.toSet());
    return lines.stream()
        .distinct()
        .sorted(
            Comparator.comparing((Line line) -> line.severity)
                .reversed()
                .thenComparing((Line line) -> !line.subject.ofMany())
                .thenComparing((Line line) -> !used.contains(line.subject.instance()))
                .thenComparing(line -> line.key, AlertKey.ORDER))
        .map(Line::item)
        .toList();
  }
}
