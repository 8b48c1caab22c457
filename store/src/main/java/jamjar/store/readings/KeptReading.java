package jamjar.store.readings;

import jamjar.core.reading.Increases;
import jamjar.store.alerts.JudgedStore.Judged;
import java.time.Instant;

/**
 * A reading on its way into the store, with what the next one needs.
 *
 * @param source the code of the pace within the instance
 * @param intervalS seconds between two readings as set when it was taken
 * @param seq place in the order in which the source answered, from 1
 * @param arrived when it came here
 * @param judged what it changed in the states of limits
 */
public record KeptReading(
    int instance,
    int source,
    int intervalS,
    long seq,
    Instant arrived,
    Increases.Step step,
    Judged judged) {}
