package jamjar.core.limit;

import java.util.Map;

/**
 * A limit as a person sets it, for an instance, a group or a kind. What is null is inherited from
 * the next wider rule of the same counter and condition; a warning or critical that nobody sets is
 * not there.
 *
 * @param id 0 before it is stored
 * @param counter key of the counter; empty for the silence of the whole instance
 * @param labels which of its series: none for the whole instance where the counter has such a
 *     series, else for all; a label value of * stands for each
 * @param clear of the lowest of the two numbers; null for the number less what matters
 * @param criticalClear where critical falls back to warning; null for critical less what matters
 * @param against the minute of the local day at which it is due, or the value that will be reached;
 *     null where it needs none, or inherits it
 * @param on null when inherited
 */
public record Rule(
    int id,
    String counter,
    Map<String, String> labels,
    Scope scope,
    Condition condition,
    Double warning,
    Double critical,
    Hold hold,
    Hold criticalHold,
    Double clear,
    Double criticalClear,
    Integer clearSeconds,
    Double against,
    Boolean on) {

  /** One that needs nothing beside its numbers. */
  public Rule(
      int id,
      String counter,
      Map<String, String> labels,
      Scope scope,
      Condition condition,
      Double warning,
      Double critical,
      Hold hold,
      Hold criticalHold,
      Double clear,
      Double criticalClear,
      Integer clearSeconds,
      Boolean on) {
    this(
        id,
        counter,
        labels,
        scope,
        condition,
        warning,
        critical,
        hold,
        criticalHold,
        clear,
        criticalClear,
        clearSeconds,
        null,
        on);
  }

  /** m of the last n judgings. */
  public record Hold(int m, int n) {
    static final Hold USUAL = new Hold(3, 3);
    static final Hold ONCE = new Hold(1, 1);
  }

  public Rule {
    labels = Map.copyOf(labels);
  }

  /** The same for another scope. */
  public Rule of(Scope other) {
    return new Rule(
        id,
        counter,
        labels,
        other,
        condition,
        warning,
        critical,
        hold,
        criticalHold,
        clear,
        criticalClear,
        clearSeconds,
        against,
        on);
  }
}
