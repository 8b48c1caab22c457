package jamjar.core.log;

import java.time.Instant;
import java.util.List;

/**
 * What an engine logged since its log was read before: also where it logged nothing, so that it is
 * known for any time whether its log was read.
 *
 * @param at when it was read, by the clock here
 * @param file name of the log's file; empty where it can't be read
 * @param offset how far it was read, in bytes
 * @param thresholdMs what does not take so long is not logged; -1 where no durations are logged
 * @param lockWaits whether waits for locks are logged
 * @param left bytes that were left out, because there was more than is read at once
 */
public record Logged(
    Instant at,
    String file,
    long offset,
    long thresholdMs,
    boolean lockWaits,
    long left,
    List<LogEntry> entries) {}
