package jamjar.store.telling;

import java.time.Instant;

/**
 * A message and what became of it, without its picture.
 *
 * @param lastAt when it was tried last; null for never
 */
public record MessageStateRow(
    String key,
    Instant at,
    String kind,
    String matter,
    String recipient,
    String channel,
    String address,
    String[] others,
    String rule,
    String severity,
    String[] alerts,
    String subject,
    String body,
    String thread,
    String state,
    int attempts,
    String answer,
    Instant lastAt) {}
