package jamjar.store.cluster;

/**
 * A private cluster could not be made, started or stopped; the message says what was tried and what
 * answered.
 */
public final class ClusterFailed extends RuntimeException {
  ClusterFailed(String tried, String answered, Throwable cause) {
    super("PostgreSQL cluster: " + tried + ": " + answered, cause);
  }
}
