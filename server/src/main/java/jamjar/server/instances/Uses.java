package jamjar.server.instances;

import jamjar.store.instances.InstanceRow;
import java.util.Arrays;
import java.util.Collection;
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
            .map(use -> use.substring(at(use) + 1))
            .collect(Collectors.toSet());
    return led.isEmpty()
        ? Arrays.stream(row.uses())
            .map(use -> use.substring(at(use) + 1))
            .collect(Collectors.toSet())
        : led;
  }

  private static int at(String use) {
    return use.indexOf('=');
  }
}
