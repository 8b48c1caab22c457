package jamjar.store.telling;

import java.time.Instant;

/**
 * By what is told, as stored.
 *
 * @param kind mail or hook
 * @param body its settings as JSON, without what is secret
 * @param secret encrypted; null for none
 */
public record ChannelRow(String name, String kind, String body, byte[] secret, Instant changedAt) {}
