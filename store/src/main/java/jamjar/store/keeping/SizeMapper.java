package jamjar.store.keeping;

import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** How large the store is, and of whom; looks at all of it. */
public interface SizeMapper {
  /**
   * In bytes, indexes and all.
   *
   * @param rows what is not packed yet
   * @param packed as it was read
   * @param minutes in steps of a minute
   * @param coarse in wider steps
   * @param normals what is normal
   */
  record Parts(long rows, long packed, long minutes, long coarse, long normals) {}

  @Select(
      """
      select
        (select coalesce(sum(pg_total_relation_size(relid)), 0)
         from pg_partition_tree('reading')) as rows,
        (select coalesce(sum(pg_total_relation_size(relid)), 0)
         from (select relid from pg_partition_tree('span')
               union all select relid from pg_partition_tree('chunk')) both_of_them) as packed,
        (select coalesce(sum(pg_total_relation_size(relid)), 0)
         from pg_partition_tree('step_1')) as minutes,
        pg_total_relation_size('step_15') + pg_total_relation_size('step_360')
          + pg_total_relation_size('step_month') as coarse,
        pg_total_relation_size('baseline') as normals
      """)
  Parts parts();

  /**
   * What of it is of an instance, in bytes: bodies alone; and of these what is of some days.
   *
   * @param packed as it was read
   * @param minutes in steps of a minute
   * @param coarse in wider steps
   */
  record OfInstance(
      int instance,
      long packed,
      long packedLately,
      long minutes,
      long minutesLately,
      long coarse,
      long coarseLately) {}

  @Select(
      """
      with sizes as (
        select series, sum(pg_column_size(body)) as packed,
          sum(pg_column_size(body)) filter (
            where day and from_at >= #{from} and from_at < #{to}) as packed_lately,
          null::bigint as minutes, null::bigint as minutes_lately, null::bigint as coarse,
          null::bigint as coarse_lately
        from chunk group by series
        union all
        select series, null, null,
          sum(pg_column_size(body)) filter (where minutes = 1),
          sum(pg_column_size(body)) filter (
            where minutes = 1 and from_at >= #{from} and from_at < #{to}),
          sum(pg_column_size(body)) filter (where minutes <> 1),
          sum(pg_column_size(body)) filter (
            where minutes <> 1 and from_at >= #{from} and from_at < #{to})
        from step group by series
        union all
        select series, null, null, null, null, sum(pg_column_size(body)), null
        from step_month group by series
      )
      select s.instance, coalesce(sum(packed), 0) as packed,
        coalesce(sum(packed_lately), 0) as packed_lately, coalesce(sum(minutes), 0) as minutes,
        coalesce(sum(minutes_lately), 0) as minutes_lately, coalesce(sum(coarse), 0) as coarse,
        coalesce(sum(coarse_lately), 0) as coarse_lately
      from sizes join series s on s.id = sizes.series
      group by s.instance order by s.instance
      """)
  List<OfInstance> ofInstances(@Param("from") Instant from, @Param("to") Instant to);

  /** How many days there are of which something is packed, from one on and before another. */
  @Select(
      """
      select count(distinct from_at) from span
      where day and from_at >= #{from} and from_at < #{to}
      """)
  int days(@Param("from") Instant from, @Param("to") Instant to);

  /**
   * The oldest day that is there of an instance as one class.
   *
   * @param readings as it was read; null where there is none
   * @param minutes in steps of a minute; likewise
   */
  record Oldest(int instance, int keep, Instant readings, Instant minutes) {}

  @Select(
      """
      select instance, keep, min(readings) as readings, min(minutes) as minutes
      from (
        select instance, keep, min(from_at) as readings, null::timestamptz as minutes
        from span where day group by instance, keep
        union all
        select s.instance, t.keep, null, min(t.from_at)
        from (select series, keep, min(from_at) as from_at from step
              where minutes = 1 group by series, keep) t
          join series s on s.id = t.series
        group by s.instance, t.keep) both_of_them
      group by instance, keep
      """)
  List<Oldest> oldest();
}
