package jamjar.core.telling;

import java.util.List;

/**
 * Who is told of which alerts. Of several that fit the first one holds.
 *
 * @param hours in which the alert rises
 * @param steps one after the other, until somebody knows of it; none for nobody
 */
public record TellRule(String name, Fits fits, Hours hours, List<Step> steps) {
  public TellRule {
    steps = List.copyOf(steps);
  }
}
