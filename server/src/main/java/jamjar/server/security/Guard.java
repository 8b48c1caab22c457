package jamjar.server.security;

import java.util.function.LongPredicate;

/**
 * Knows of things of one kind whether who asks may know of them, by their scope.
 *
 * @param of the kind, as {@link Permits} names it in its paths
 * @param sees asked of a number that may not be anything's
 */
public record Guard(String of, LongPredicate sees) {}
