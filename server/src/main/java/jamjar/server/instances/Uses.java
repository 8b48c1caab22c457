package jamjar.server.instances;

import jamjar.server.security.Sight;
import jamjar.store.instances.InstanceRow;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** The instances that another one uses: NAME, or THROUGH=NAME for a pool that leads there. */
public final class Uses {
  private Uses() {}

  /**
   * The names of those that it uses.
   *
   * @param through what the labels of one of its series name: where one of them leads somewhere,
   *     only that counts
   */
  public static Set<String> of(InstanceRow row, Collection<String> through) {
    Set<String> led =
        Arrays.stream(row.uses())
            .filter(use -> use.contains("=") && through.contains(use.substring(0, at(use))))
            .map(Uses::name)
            .collect(Collectors.toSet());
    return led.isEmpty()
        ? Arrays.stream(row.uses()).map(Uses::name).collect(Collectors.toSet())
        : led;
  }

  /** The name of whom one use is of. */
  static String name(String use) {
    return use.substring(at(use) + 1);
  }

  /** What an instance uses, as it is written, but for those that who asks may not know of. */
  public static List<String> seen(InstanceRow row, Sight sight) {
    return Arrays.stream(row.uses()).filter(use -> !sight.hides(name(use))).toList();
  }

  private static int at(String use) {
    return use.indexOf('=');
  }
}
