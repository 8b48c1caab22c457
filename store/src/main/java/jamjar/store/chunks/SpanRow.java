package jamjar.store.chunks;

import java.time.Instant;

/**
 * The readings of one source from {@code fromAt} until before {@code toAt}.
 *
 * @param day whether it is a whole day, or two hours of one
 * @param revision 1, and one more each time it was sealed again
 * @param layouts numbers of the layouts of its readings, one after the other
 * @param counts how many readings have each of them
 * @param times {@link jamjar.core.chunk.ReadingTimes}
 * @param keep how long it is kept: the number of the class; of days only
 */
public record SpanRow(
    int instance,
    int source,
    boolean day,
    Instant fromAt,
    Instant toAt,
    int revision,
    int[] layouts,
    int[] counts,
    byte[] times,
    int keep) {}
