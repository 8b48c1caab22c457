package jamjar.store.facts;

import java.time.Instant;

/**
 * What an instance said of itself.
 *
 * @param to until when it held; null while it holds
 */
public record FactRow(int instance, String name, String value, Instant from, Instant to) {}
