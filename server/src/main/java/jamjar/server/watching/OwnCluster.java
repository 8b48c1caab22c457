package jamjar.server.watching;

/**
 * The private database cluster, as far as it is kept running; one elsewhere is not ours to start.
 */
public interface OwnCluster {
  /** Whether its server process is there, or it is not ours. */
  boolean runs();

  void startAgain();
}
