package jamjar.server.watch;

/** What Jam Jar tells of its own watching, as a managed bean like any other. */
public interface WatchMXBean {
  /** The worst lateness since this was asked last. */
  double getLateSeconds();

  /** How long ago all was kept that is in the database by now, in s. */
  double getBehindSeconds();

  /** How much is kept that is not in the database yet, in bytes. */
  long getJournalBytes();

  long getReadings();

  long getDropped();

  long getSkipped();

  int getInstances();

  int getSilent();
}
