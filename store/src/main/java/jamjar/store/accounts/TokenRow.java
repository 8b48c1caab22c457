package jamjar.store.accounts;

import java.time.Instant;

/**
 * What a program is let in by.
 *
 * @param id 0 before it is stored
 * @param hash SHA-256 of it
 * @param role look, act, shape or administer
 * @param scope words for sites, groups and tags; none for all
 * @param usedAt null for never; to the minute
 */
public record TokenRow(
    int id,
    String name,
    byte[] hash,
    String role,
    String[] scope,
    String madeBy,
    Instant madeAt,
    Instant endsAt,
    Instant usedAt) {}
