package jamjar.core.telling;

/**
 * By what somebody is told.
 *
 * @param channel its name
 * @param address there; empty where the channel leads to one place only
 */
public record Way(String channel, String address) {}
