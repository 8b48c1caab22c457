package jamjar.server.security;

/** Where secrets are stored that are locked by the key of the passwords. */
public interface Locked {
  /**
   * Locks anew whatever is not locked as it would be now. What somebody changes meanwhile is left.
   *
   * @return how many were
   */
  int renewAll();
}
