package jamjar.server.telling;

import java.util.List;

/**
 * What goes out by a channel.
 *
 * @param key tells it from all others, also where it is sent again
 * @param address empty where the channel leads to one place only
 * @param thread the key of the first of its matter; empty for that itself
 * @param link where it is looked at; empty for nowhere
 * @param picture a PNG; null for none
 * @param at when it was decided, epoch ms
 */
record Letter(
    String key,
    String kind,
    String severity,
    String matter,
    String recipient,
    String address,
    List<String> alerts,
    String subject,
    String body,
    String thread,
    String link,
    byte[] picture,
    long at) {}
