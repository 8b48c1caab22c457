package jamjar.store.markers;

import java.time.Instant;

/**
 * What was better and worse of an instance some time after a marker than before it.
 *
 * @param span how long after it: minutes, hour, day or week
 * @param instanceName empty before it is stored
 * @param keptSince what was kept then began here: of more it may have to be told anew
 * @param better how many counters, beyond what they change anyway
 * @param other how many that are neither better nor worse are higher or lower
 * @param same how many are as before
 * @param first JSON: what changed most
 */
public record OutcomeRow(
    int marker,
    String span,
    int instance,
    String instanceName,
    Instant toldAt,
    Instant keptSince,
    int better,
    int worse,
    int other,
    int same,
    String first) {}
