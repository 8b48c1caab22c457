package jamjar.server.instances;

import jamjar.collect.CheckResult;
import java.util.List;
import java.util.Locale;

/**
 * One check of a target, as told to a person.
 *
 * @param outcome pass, warn or fail
 * @param advice what to do, as a sentence; empty when nothing is to be done
 * @param fix the commands that mend it there, ready to copy; empty where no command does
 * @param restartNeeded whether the target must restart for the fix
 * @param recipe key of the recipe that fits what answers; empty where the chosen one does
 */
public record CheckView(
    String check,
    String outcome,
    String found,
    String wanted,
    String advice,
    String fix,
    boolean restartNeeded,
    String recipe) {

  public static List<CheckView> of(List<CheckResult> results) {
    return results.stream()
        .map(
            result ->
                new CheckView(
                    result.check(),
                    result.outcome().name().toLowerCase(Locale.ROOT),
                    result.found(),
                    result.wanted(),
                    result.advice(),
                    result.fix(),
                    result.restartNeeded(),
                    result.recipe()))
        .toList();
  }
}
