package jamjar.store.threads;

import java.time.Instant;

/**
 * A thread dump that is there.
 *
 * @param why what was the cause to look
 * @param threads how many it tells of
 * @param blocked how many of them were blocked
 */
public record DumpRow(int instance, Instant at, String why, int threads, int blocked) {}
