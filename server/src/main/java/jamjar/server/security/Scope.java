package jamjar.server.security;

import jamjar.store.instances.InstanceRow;
import java.util.List;

/**
 * Of which part of the estate somebody may see and change something.
 *
 * @param parts sites, groups and tags, of which each adds to the others; none for all there is
 */
public record Scope(List<Those> parts) {
  public static final Scope ALL = new Scope(List.of());

  public Scope {
    parts = List.copyOf(parts);
  }

  /**
   * @param words as {@link Those} reads them
   */
  public static Scope of(String... words) {
    return new Scope(List.of(words).stream().map(Those::new).toList());
  }

  public boolean isAll() {
    return parts.isEmpty();
  }

  /** As it is stored and told. */
  public List<String> words() {
    return parts.stream().map(Those::words).toList();
  }

  public boolean holds(InstanceRow row) {
    return isAll() || parts.stream().anyMatch(part -> part.holds(row));
  }

  /** Whether it is of all instances of a group at a site, also of those that are added. */
  public boolean holdsGroup(String group, String site) {
    return isAll() || parts.stream().anyMatch(part -> part.holdsGroup(group, site));
  }
}
