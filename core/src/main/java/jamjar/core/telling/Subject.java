package jamjar.core.telling;

import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What an alert is about, as rules and scopes look at it.
 *
 * @param instance its number
 * @param name of the instance, or of the group or site whose heads Jam Jar counts
 * @param kind of the instance
 * @param group that it is in, or that it is about; empty for none
 * @param site where it is, or that it is about; empty for none
 * @param ofMany whether it is about a group or a site, not about one instance
 * @param counter empty for the whole instance
 * @param uses the instances that it depends on
 */
public record Subject(
    int instance,
    String name,
    String kind,
    String group,
    String site,
    List<String> tags,
    boolean ofMany,
    String counter,
    Map<String, String> labels,
    Set<Integer> uses) {
  private static final String GROUP = "group:";
  private static final String SITE = "site:";
  private static final String TAG = "tag:";

  public Subject {
    tags = List.copyOf(tags);
    labels = Map.copyOf(labels);
    uses = Set.copyOf(uses);
  }

  /** Whether it is in a scope: the words of its parts, none for all there is. */
  public boolean isIn(List<String> scope) {
    return scope.isEmpty() || scope.stream().anyMatch(this::isIn);
  }

  private boolean isIn(String part) {
    return part.isEmpty()
        || !group.isEmpty() && part.equals(GROUP + group)
        || !site.isEmpty() && part.equals(SITE + site)
        || !ofMany
            && (part.equals(Integer.toString(instance))
                || part.startsWith(TAG) && tags.contains(part.substring(TAG.length())));
  }
}
