package jamjar.store.telling;

import java.time.Instant;

/**
 * What became of a message.
 *
 * @param state waiting, sent or failed
 * @param attempts how often it was tried
 * @param answer what the other side said last
 * @param at when that was
 */
public record SentRow(String key, String state, int attempts, String answer, Instant at) {
  public static final String WAITING = "waiting";
  public static final String SENT = "sent";
  public static final String FAILED = "failed";
}
