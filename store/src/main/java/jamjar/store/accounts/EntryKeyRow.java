package jamjar.store.accounts;

import java.time.Instant;

/**
 * Lets in once.
 *
 * @param hash SHA-256 of it
 * @param account whose; null for making the first administrator
 */
public record EntryKeyRow(byte[] hash, Integer account, Instant endsAt) {}
