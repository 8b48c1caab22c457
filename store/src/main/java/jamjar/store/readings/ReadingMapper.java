package jamjar.store.readings;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Readings, their layouts and the last raw totals. */
interface ReadingMapper {
  @Insert(
      """
      insert into reading (instance, at, source, layout, elapsed_ms, seq, arrived, vals)
      values (#{instance}, #{at}, #{source}, #{layout}, #{elapsedMs}, #{seq}, #{arrived}, #{vals})
      """)
  void add(ReadingRow row);

  @Insert(
      """
      insert into last_totals (instance, source, at, seq, source_us, start_token, layout, totals,
        epochs, nothing)
      values (#{instance}, #{source}, #{at}, #{seq}, #{sourceUs}, #{startToken}, #{layout},
        #{totals}, #{epochs}, #{nothing})
      on conflict (instance, source) do update set at = excluded.at, seq = excluded.seq,
        source_us = excluded.source_us, start_token = excluded.start_token,
        layout = excluded.layout, totals = excluded.totals, epochs = excluded.epochs,
        nothing = excluded.nothing
      """)
  void keepTotals(TotalsRow row);

  /**
   * A reading and its totals are lost together or not at all, so that none of them need wait for
   * the disk.
   */
  @Update("set local synchronous_commit = off")
  void needNotWait();

  @Select("select * from last_totals where instance = #{instance} and source = #{source}")
  Optional<TotalsRow> totals(@Param("instance") int instance, @Param("source") int source);

  @Select(
      affectData = true,
      value =
          """
      insert into layout (instance, source, interval_s, series, totals, counters, hash)
      values (#{instance}, #{source}, #{intervalS}, #{series}, #{totals}, #{counters}, #{hash})
      on conflict (hash) do update set hash = excluded.hash
      returning id
      """)
  int layout(LayoutRow row);

  @Select(
      """
      select * from layout
      where instance = #{instance} and series && #{ids}
      """)
  List<LayoutRow> layoutsWith(@Param("instance") int instance, @Param("ids") int[] ids);

  @Select("select * from layout where id = #{id}")
  LayoutRow layoutById(int id);

  @Select(
      """
      <script>
      select (extract(epoch from at) * 1000)::bigint as at, elapsed_ms,
        array[<foreach collection="places" item="place" separator=",">vals[${place}]</foreach>]
          as vals
      from reading
      where instance = #{instance} and source = #{source} and layout = #{layout}
        and at between #{from} and #{to} and not overlapped
      order by at
      </script>
      """)
  List<PlacedRow> placed(
      @Param("instance") int instance,
      @Param("source") int source,
      @Param("layout") int layout,
      @Param("places") List<Integer> places,
      @Param("from") Instant from,
      @Param("to") Instant to);

  @Select(
      """
      select at, arrived, elapsed_ms, layout, vals from reading
      where instance = #{instance} and at >= #{from} and at <= #{to} and not overlapped
      order by at, source
      """)
  List<StoredRow> stored(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  @Select("select min(at) from reading where instance = #{instance} and at >= #{from}")
  Instant firstAt(@Param("instance") int instance, @Param("from") Instant from);

  @Select("select count(*) from reading where instance = #{instance} and source = #{source}")
  long count(@Param("instance") int instance, @Param("source") int source);

  @Update(
      """
      create table if not exists ${name} partition of reading
        for values from ('${from}') to ('${to}')
      """)
  void partition(@Param("name") String name, @Param("from") String from, @Param("to") String to);

  @Select("select pg_advisory_xact_lock(hashtext('reading partitions'))::text")
  String lockPartitions();

  @Select("select to_regclass(#{name}) is not null")
  boolean exists(String name);
}
