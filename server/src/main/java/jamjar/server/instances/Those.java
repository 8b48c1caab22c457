package jamjar.server.instances;

import jamjar.store.instances.InstanceRow;

/**
 * Which instances are meant: one by its number, a group by {@code group:} and its name, a site by
 * {@code site:} and its name; all where it is empty.
 */
public record Those(String words) {
  private static final String GROUP = "group:";
  private static final String SITE = "site:";

  public boolean holds(InstanceRow row) {
    return words.isEmpty()
        || words.equals(Integer.toString(row.id()))
        || words.equals(GROUP + row.groupName())
        || words.equals(SITE + row.site());
  }
}
