package jamjar.server.keeping;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * How large the store is, by how much it grows and how long what lies in it is kept. In bytes;
 * moments in epoch ms; what is null is not known.
 *
 * @param bytes the whole database
 * @param free on the disk where the private cluster lies
 * @param journal what is kept that is not in the database yet
 * @param behind how long ago all was kept that is in the database by now, in s
 * @param setAside entries of the journal that could not be brought
 * @param packedUntil up to when all is packed
 * @param sizes what it is made of, as it was found last; null until it was
 * @param measuring whether that is looked for just now
 * @param notMeasured why it could not be found the last time; empty where it could
 */
@Schema(name = "StoreView")
record StoreView(
    long bytes,
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
    @Schema(types = {"object", "null"}) Sizes sizes,
    boolean measuring,
    String notMeasured,
    List<KeepingClass> classes,
    List<InstanceSize> instances) {

  /**
   * What the store is made of.
   *
   * @param measuredAt of when this is
   * @param rows what was read and is not packed yet
   * @param packed what was read, packed
   * @param minutes steps of a minute
   * @param coarse steps of a quarter of an hour and of six hours
   * @param normals what is normal
   * @param days of so many whole days the growth is the mean
   * @param bytesADay how much comes in a day
   * @param fullInDays in how many days the disk is full if so much goes on to come; null also for
   *     never, with the growth known
   */
  @Schema(name = "StoreSizes")
  record Sizes(
      long measuredAt,
      long rows,
      long packed,
      long minutes,
      long coarse,
      long normals,
      int days,
      @Schema(types = {"number", "null"}) Double bytesADay,
      @Schema(types = {"number", "null"}) Double fullInDays) {}

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
   * @param bytes null until it was measured
   * @param bytesADay likewise, and until a whole day is packed
   */
  @Schema(name = "InstanceSize")
  record InstanceSize(
      int id,
      String name,
      boolean removed,
      int keep,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long bytes,
      @Schema(types = {"number", "null"}) Double bytesADay) {}
}
