package jamjar.server.keeping;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * How large the store is, by how much it grows and how long what lies in it is kept. In bytes;
 * moments in epoch ms; what is null is not known.
 *
 * @param measuredAt of when the sizes are
 * @param bytes the whole database
 * @param rows what was read and is not packed yet
 * @param packed what was read, packed
 * @param minutes steps of a minute
 * @param coarse steps of a quarter of an hour and of six hours
 * @param normals what is normal
 * @param free on the disk where the private cluster lies
 * @param journal what is kept that is not in the database yet
 * @param behind how long ago all was kept that is in the database by now, in s
 * @param setAside entries of the journal that could not be brought
 * @param packedUntil up to when all is packed
 * @param days of so many whole days the growth is the mean
 * @param bytesADay how much comes in a day
 * @param fullInDays in how many days the disk is full if so much goes on to come; null also for
 *     never, with the growth known
 */
@Schema(name = "StoreView")
record StoreView(
    long measuredAt,
    long bytes,
    long rows,
    long packed,
    long minutes,
    long coarse,
    long normals,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long free,
    long journal,
    double behind,
    long setAside,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long packedUntil,
    int days,
    @Schema(types = {"number", "null"}) Double bytesADay,
    @Schema(types = {"number", "null"}) Double fullInDays,
    List<KeepingClass> classes,
    List<InstanceSize> instances) {

  /**
   * A class by how long what was read is kept.
   *
   * @param readingsDays as it was read
   * @param minutesDays in steps of a minute; null for ever
   * @param oldest the oldest day that is there as it was read
   */
  @Schema(name = "KeepingClass")
  record KeepingClass(
      int keep,
      String name,
      int readingsDays,
      @Schema(types = {"integer", "null"}) Integer minutesDays,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long oldest) {}

  /**
   * What of it is of an instance.
   *
   * @param keep number of its class
   * @param removed whether it is under watch no more
   */
  @Schema(name = "InstanceSize")
  record InstanceSize(
      int id, String name, boolean removed, int keep, long bytes, double bytesADay) {}
}
