package jamjar.store.telling;

import java.time.Instant;

/**
 * A message to one recipient by one channel, as stored.
 *
 * @param key the same for the same alert, transition, recipient and channel
 * @param at when it was decided
 * @param kind rise, worse, over, digest or report
 * @param matter what belongs together
 * @param address at the channel; empty where that leads to one place only
 * @param others the ways that are left where it does not get through, each channel and address with
 *     a tabulator between
 * @param rule by which rule
 * @param alerts their keys
 * @param body as plain text
 * @param thread the key of the first message of the matter to the recipient; empty for that itself
 * @param picture a PNG; null for none
 */
public record MessageRow(
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
    byte[] picture) {}
