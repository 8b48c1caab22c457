package jamjar.store.groups;

/**
 * A group of instances at a site.
 *
 * @param expected how many there should be
 */
public record GroupRow(String name, String site, int expected) {}
