package jamjar.store.groups;

/**
 * A group of instances at a site.
 *
 * @param expected how many there should be
 * @param command what its JVMs on Jam Jar's machine run, or how that begins; empty where they are
 *     not looked for
 */
public record GroupRow(String name, String site, int expected, String command) {}
