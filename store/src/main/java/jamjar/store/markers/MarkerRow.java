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
 * @param repeats day or week for maintenance that comes again; else empty
 * @param zone in which it comes again at the same time of the day
 * @param endsAt when it comes for the last time at most; null for ever
 * @param firstAt when it came first
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
    String madeBy,
    String repeats,
    String zone,
    Instant endsAt,
    Instant firstAt) {

  /** One that comes once. */
  public static MarkerRow once(
      int id,
      String kind,
      String title,
      String note,
      Instant from,
      Instant to,
      String reach,
      String reachOf,
      Instant madeAt,
      String madeBy) {
    return new MarkerRow(
        id, kind, title, note, from, to, reach, reachOf, madeAt, madeBy, "", "UTC", null, from);
  }
}
