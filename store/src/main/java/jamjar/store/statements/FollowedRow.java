package jamjar.store.statements;

import java.time.Instant;

/**
 * Which statements of an instance are series of their own.
 *
 * @param filled whether what was counted of them before is in their series
 */
public record FollowedRow(int instance, long[] fingerprints, Instant chosenAt, boolean filled) {}
