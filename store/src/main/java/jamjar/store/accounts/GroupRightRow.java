package jamjar.store.accounts;

/**
 * What the members of a group may who come in by single sign-on.
 *
 * @param name of the group, as it is told with them
 * @param role look, act, shape or administer
 * @param scope words for sites, groups and tags; none for all
 */
public record GroupRightRow(String name, String role, String[] scope) {}
