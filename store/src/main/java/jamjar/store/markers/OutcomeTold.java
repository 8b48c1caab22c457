package jamjar.store.markers;

import java.time.Instant;

/** That an outcome is told, and of history that began when, see {@link OutcomeRow}. */
public record OutcomeTold(int marker, String span, int instance, Instant keptSince) {}
