package jamjar.store.changes;

import java.time.Instant;

/**
 * A change as stored.
 *
 * @param id 0 before it is stored
 * @param what limit, instance, group, recipe, marker or credential
 * @param ofWhat which of them
 * @param before as JSON; null for what was not there
 * @param after as JSON; null for what is gone
 */
public record ChangeRow(
    long id, Instant at, String who, String what, String ofWhat, String before, String after) {}
