package jamjar.server.watch;

/** What Jam Jar tells of its own watching, as a managed bean like any other. */
public interface WatchMXBean {
  /** The worst lateness since this was asked last. */
  double getLateSeconds();

  /** Readings before the store. */
  int getQueued();

  long getReadings();

  long getDropped();

  long getSkipped();

  int getInstances();

  int getSilent();
}
