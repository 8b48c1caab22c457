package jamjar.store.readings;

import java.time.Instant;
import java.util.Optional;

/**
 * How large the store is.
 *
 * @param bytes of the whole database, indexes and all
 * @param rowBytes of the readings in rows among them
 * @param setAside entries of the journal that could not be brought into it
 * @param sealedUntil up to when all sources are sealed; empty where nothing was read yet
 */
public record StoreSize(long bytes, long rowBytes, long setAside, Optional<Instant> sealedUntil) {}
