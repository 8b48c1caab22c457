package jamjar.collect.jmx;

import jamjar.collect.recipe.LoadedRecipe;
import java.io.IOException;
import java.util.Collections;
import java.util.Set;
import java.util.TreeSet;
import javax.management.MBeanServerConnection;

/**
 * Which groups of a recipe find managed beans, and which do not.
 *
 * @param there those that find at least one
 * @param missing those that find none
 */
record FoundGroups(Set<String> there, Set<String> missing) {

  static FoundGroups of(LoadedRecipe recipe, MBeanServerConnection server) throws IOException {
    Set<String> there = new TreeSet<>();
    Set<String> missing = new TreeSet<>();
    new BeanNames(recipe.beans())
        .in(server)
        .forEach((query, names) -> (names.isEmpty() ? missing : there).add(query.group()));
    // one group may be read from beans of several makes
    missing.removeAll(there);
    return new FoundGroups(there, missing);
  }

  /** Whether it finds all that the other one does, and something that the other one misses. */
  boolean isBetterThan(FoundGroups other) {
    return there.containsAll(other.there) && !Collections.disjoint(there, other.missing);
  }
}
