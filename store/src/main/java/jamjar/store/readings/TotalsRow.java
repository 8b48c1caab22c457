package jamjar.store.readings;

import java.time.Instant;

/** The raw totals of the last reading of a source, in the order of its layout's totals. */
public record TotalsRow(
    int instance,
    int source,
    Instant at,
    long seq,
    long sourceUs,
    long startToken,
    int layout,
    long[] totals,
    long[] epochs,
    int[] nothing) {}
