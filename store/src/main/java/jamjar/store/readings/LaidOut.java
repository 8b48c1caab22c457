package jamjar.store.readings;

import jamjar.store.alerts.JudgedStore.Judged;

/**
 * A reading as it is stored.
 *
 * @param why per value the ordinal, from 1, of {@link jamjar.core.counter.WhyNothing}; 0 where
 *     there is a value
 * @param totals what the next reading needs
 * @param judged what it changed in the states of limits
 */
public record LaidOut(ReadingRow row, byte[] why, TotalsRow totals, Judged judged) {}
