package jamjar.server.telling;

/** What Jam Jar tells of its own telling, as a managed bean like any other. */
public interface TellingMXBean {
  /** How many messages are not through. */
  int getWaiting();

  /** How many channels let nothing through. */
  long getFailingChannels();

  /** How many messages were given up or refused since the start. */
  long getGivenUp();
}
