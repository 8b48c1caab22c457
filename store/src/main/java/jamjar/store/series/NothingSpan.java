package jamjar.store.series;

import java.time.Instant;

/**
 * A span in which a series has no value.
 *
 * @param to null while it lasts
 * @param why a name of {@link jamjar.core.counter.WhyNothing}
 */
public record NothingSpan(int series, Instant from, Instant to, String why) {}
