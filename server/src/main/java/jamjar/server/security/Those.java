package jamjar.server.security;

import jamjar.store.instances.InstanceRow;
import java.util.List;

/**
 * Which instances are meant: one by its number, a group by {@code group:} and its name, a site by
 * {@code site:} and its name, those of a tag by {@code tag:} and the tag; all where it is empty.
 */
public record Those(String words) {
  private static final String GROUP = "group:";
  private static final String SITE = "site:";
  private static final String TAG = "tag:";

  public boolean holds(InstanceRow row) {
    return words.isEmpty()
        || words.equals(Integer.toString(row.id()))
        || words.equals(GROUP + row.groupName())
        || words.equals(SITE + row.site())
        || words.startsWith(TAG) && List.of(row.tags()).contains(words.substring(TAG.length()));
  }

  /** Whether all of a group at a site are meant, however many there are. */
  boolean holdsGroup(String group, String site) {
    return words.isEmpty() || words.equals(GROUP + group) || words.equals(SITE + site);
  }
}
