package jamjar.collect.jmx;

import jamjar.collect.recipe.BeanQuery;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import javax.management.ObjectName;

/**
 * Which groups of a recipe find managed beans, and which do not.
 *
 * @param there those that find at least one
 * @param missing those that find none
 */
record FoundGroups(Set<String> there, Set<String> missing) {

  /**
   * @param found the beans of each query
   */
  static FoundGroups of(Map<BeanQuery, List<ObjectName>> found) {
    Set<String> there = new TreeSet<>();
    Set<String> missing = new TreeSet<>();
    found.forEach((query, names) -> (names.isEmpty() ? missing : there).add(query.group()));
    // one group may be read from beans of several makes
    missing.removeAll(there);
    return new FoundGroups(there, missing);
  }

  /** Whether it finds all that the other one does, and something that the other one misses. */
  boolean isBetterThan(FoundGroups other) {
    return there.containsAll(other.there) && !Collections.disjoint(there, other.missing);
  }
}
