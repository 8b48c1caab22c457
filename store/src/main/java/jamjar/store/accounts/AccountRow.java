package jamjar.store.accounts;

import java.time.Instant;

/**
 * Who may sign in.
 *
 * @param id 0 before it is stored
 * @param name by which one signs in, whatever its case
 * @param password encoded; null for none: then one comes in by a key for once
 * @param role look, act, shape or administer
 * @param scope words for sites, groups and tags; none for all
 * @param off whether it is switched off
 * @param signedInAt null for never
 * @param issuer by whom its owner is known who comes by single sign-on; null for no other
 * @param subject as whom there; null likewise
 */
public record AccountRow(
    int id,
    String name,
    String password,
    String role,
    String[] scope,
    boolean off,
    Instant madeAt,
    Instant signedInAt,
    String issuer,
    String subject) {

  /** Without the password. */
  @Override
  public String toString() {
    return name + " (" + role + ")";
  }
}
