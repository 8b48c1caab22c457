package jamjar.server.sealing;

/**
 * What Jam Jar tells of its own store, as a managed bean like any other; −1 where it is not known.
 */
public interface StoreMXBean {
  /** What the database takes on disk, indexes and all, in bytes. */
  long getSizeBytes();

  /** What of it are rows that are not sealed yet, or whose day is not over, in bytes. */
  long getRowBytes();

  /** What is free where the private cluster lies, in bytes. */
  long getFreeBytes();

  /** How old the oldest reading is that is not sealed, in s. */
  double getUnsealedSeconds();

  /** Entries of the journal that could not be brought into the database. */
  long getSetAside();

  /** Spans sealed since the start. */
  long getSealedSpans();
}
