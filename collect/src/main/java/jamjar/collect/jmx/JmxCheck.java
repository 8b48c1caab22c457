package jamjar.collect.jmx;

import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.CollectFailed;
import jamjar.collect.Target;
import jamjar.collect.recipe.LoadedRecipe;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import javax.management.JMException;
import javax.management.MBeanServerConnection;
import javax.management.remote.JMXConnector;

/** Tries a JVM or application server as it would be watched. */
public final class JmxCheck {

  private JmxCheck() {}

  /** The checks in their order; after one that fails for good the rest are not tried. */
  public static List<CheckResult> check(Target target, LoadedRecipe recipe) {
    List<CheckResult> results = new ArrayList<>();
    long began = System.nanoTime();
    try (JMXConnector connector = JmxConnector.open(target)) {
      MBeanServerConnection server = connector.getMBeanServerConnection();
      Map<String, String> facts = RuntimeFacts.of(server);
      long millis = (System.nanoTime() - began) / 1_000_000;
      results.add(
          CheckResult.pass(
              "Reach and sign in",
              (target.port() == 0 ? "process " + facts.get("process") : target.address())
                  + " answers after "
                  + millis
                  + " ms"));
      results.add(
          CheckResult.encryption(
              target,
              "Start it with -Dcom.sun.management.jmxremote.ssl=true"
                  + " -Dcom.sun.management.jmxremote.registry.ssl=true",
              true));
      results.add(
          CheckResult.pass("Version", facts.getOrDefault("version", "it does not tell its own")));
      results.add(beans(server, recipe));
    } catch (CollectFailed e) {
      results.add(CheckResult.fail("Reach and sign in", e.refusal()));
    } catch (IOException | JMException | RuntimeException e) {
      results.add(CheckResult.fail("Read its managed beans", JmxRefusals.of(target, e)));
    }
    return results;
  }

  /** What of the recipe there is. */
  private static CheckResult beans(MBeanServerConnection server, LoadedRecipe recipe)
      throws IOException {
    Map<String, Integer> found = new LinkedHashMap<>();
    new BeanNames(recipe.beans())
        .in(server)
        .forEach((query, names) -> found.merge(query.group(), names.size(), Integer::sum));
    String there = groups(found, count -> count > 0);
    String missing = groups(found, count -> count == 0);
    if (there.isEmpty()) {
      return new CheckResult(
          "Managed beans",
          Outcome.FAIL,
          "none of those that the recipe '" + recipe.recipe().name() + "' reads",
          "at least one",
          "Choose the recipe of its make.",
          false);
    }
    String told = "there: " + there + (missing.isEmpty() ? "" : "; not there: " + missing);
    return CheckResult.pass("Managed beans", told);
  }

  private static String groups(Map<String, Integer> found, IntPredicate which) {
    return found.entrySet().stream()
        .filter(e -> which.test(e.getValue()))
        .map(e -> e.getKey().replace('_', ' '))
        .collect(Collectors.joining(", "));
  }
}
