package jamjar.store.normals;

import java.time.Instant;

/**
 * Baselines of an instance that are kept by a name.
 *
 * @param fromAt begin of the time that they were learned from
 * @param toAt its end
 */
public record FrozenRow(
    int id,
    int instance,
    String name,
    Instant fromAt,
    Instant toAt,
    Instant madeAt,
    String madeBy) {}
