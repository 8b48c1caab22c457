package jamjar.store.markers;

import java.time.Instant;

/**
 * A marker as stored.
 *
 * @param id 0 before it is stored
 * @param kind release, change, incident, noise, maintenance, new normal, holiday or note
 * @param to null for a moment, or for a span that lasts
 * @param reach all, site, group or instance
 * @param reachOf the site, the group, or the number of the instance; empty for all
 */
public record MarkerRow(
    int id,
    String kind,
    String title,
    String note,
    Instant from,
    Instant to,
    String reach,
    String reachOf,
    Instant madeAt,
    String madeBy) {}
