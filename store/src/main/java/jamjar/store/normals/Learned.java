package jamjar.store.normals;

import java.time.Instant;

/**
 * When an instance was learned last.
 *
 * @param zone of the week that was learned
 * @param minutes from so many it was learned, with those in which there was nothing
 */
public record Learned(int instance, Instant at, String zone, int minutes) {}
