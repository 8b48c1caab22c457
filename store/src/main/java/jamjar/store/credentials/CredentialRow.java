package jamjar.store.credentials;

import java.time.Instant;

/**
 * A user with its password, under a name.
 *
 * @param secret the password, encrypted
 */
public record CredentialRow(String name, String userName, byte[] secret, Instant changedAt) {}
