package jamjar.standins.inbox;

/**
 * What a hook was sent.
 *
 * @param at epoch ms
 * @param name by which path it came
 * @param key what the sender calls it
 * @param time what the sender signed with it; empty for nothing
 * @param signature empty for none
 */
public record Hooked(
    long at, String name, String key, String time, String signature, String body) {}
