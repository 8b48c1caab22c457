package jamjar.store.readings;

import jamjar.store.chunks.ChunkMapper;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Readings, their layouts and the last raw totals; columns as in {@link ChunkMapper}. */
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

  @Insert(
      """
      insert into layout (id, instance, source, interval_s, series, totals, counters, hash)
      overriding system value
      values (#{id}, #{instance}, #{source}, #{intervalS}, #{series}, #{totals}, #{counters},
        #{hash})
      """)
  void addLayout(LayoutRow row);

  /**
   * Numbers of layouts that nobody else gets. An earlier copy of the database may count on from
   * where it was, while what the journal brought since has its numbers.
   */
  @Select(
      affectData = true,
      value =
          """
      select number from (
        select nextval(pg_get_serial_sequence('layout', 'id')) as number
        from generate_series(1, #{n})) drawn
      where number > (select coalesce(max(id), 0) from layout)
      """)
  int[] reserveLayouts(int n);

  /** The layouts of an instance that were made last. */
  @Select("select * from layout where instance = #{instance} order by id desc limit #{most}")
  List<LayoutRow> latestLayouts(@Param("instance") int instance, @Param("most") int most);

  @Select("select * from layout where id = any(#{ids})")
  List<LayoutRow> layouts(@Param("ids") int[] ids);

  @Select("select * from layout where id = #{id}")
  LayoutRow layoutById(int id);

  /**
   * No day is dropped until the transaction ends. To be asked first: what it sees is what was there
   * by then, and the tables are still those.
   */
  @Update("lock table reading in access share mode")
  void holdDays();

  /** How the rows of a window are laid out. */
  @Select(
      """
      select distinct layout from reading
      where instance = #{instance} and at between #{from} and #{to}
      """)
  int[] layoutsOf(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  @Select(
      """
      <script>
      select (extract(epoch from at) * 1000000)::bigint as at, elapsed_ms,
        array[<foreach collection="places" item="place" separator=",">vals[${place}]</foreach>]
          as vals
      from reading
      where instance = #{instance} and source = #{source} and layout = #{layout}
        and at between #{from} and #{to} and not overlapped
      order by at
      </script>
      """)
  @Arg(column = "at", javaType = long.class)
  @Arg(column = "elapsed_ms", javaType = int.class)
  @Arg(column = "vals", javaType = double[].class)
  List<PlacedRow> placed(
      @Param("instance") int instance,
      @Param("source") int source,
      @Param("layout") int layout,
      @Param("places") List<Integer> places,
      @Param("from") Instant from,
      @Param("to") Instant to);

  @Select(
      """
      select at, source, layout, elapsed_ms, seq, arrived, overlapped, vals from reading
      where instance = #{instance} and at between #{from} and #{to}
      order by at, source
      """)
  @Results(id = "raw")
  @Arg(column = "at", javaType = Instant.class)
  @Arg(column = "source", javaType = int.class)
  @Arg(column = "layout", javaType = int.class)
  @Arg(column = "elapsed_ms", javaType = int.class)
  @Arg(column = "seq", javaType = long.class)
  @Arg(column = "arrived", javaType = Instant.class)
  @Arg(column = "overlapped", javaType = boolean.class)
  @Arg(column = "vals", javaType = double[].class)
  List<RawRow> rows(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  /** As above, of one source and without the end. */
  @Select(
      """
      select at, source, layout, elapsed_ms, seq, arrived, overlapped, vals from reading
      where instance = #{instance} and source = #{source} and at >= #{from} and at < #{to}
      order by at
      """)
  @ResultMap("raw")
  List<RawRow> rowsOf(
      @Param("instance") int instance,
      @Param("source") int source,
      @Param("from") Instant from,
      @Param("to") Instant to);

  @Select(
      """
      select min(at) from reading
      where instance = #{instance} and source = #{source} and at >= #{from}
      """)
  Instant firstRow(
      @Param("instance") int instance, @Param("source") int source, @Param("from") Instant from);

  /** No reading since then was taken before this; null where there is none. */
  @Select(
      """
      select least(
        (select min(at) from reading where instance = #{instance} and at >= #{from}),
        (select greatest(min(from_at), #{from}) from span
         where instance = #{instance} and to_at > #{from} having count(*) > 0))
      """)
  Instant firstAt(@Param("instance") int instance, @Param("from") Instant from);

  @Select(
      """
      select (select coalesce(sum(part), 0) from span, unnest(counts) part
              where instance = #{instance} and source = #{source})
        + (select count(*) from reading r join sealed s using (instance, source)
           where instance = #{instance} and source = #{source} and r.at >= s.until_at)
      """)
  long count(@Param("instance") int instance, @Param("source") int source);

  /** A source that is read for the first time: nothing of it is sealed. */
  @Insert(
      """
      insert into sealed (instance, source, until_at) values (#{instance}, #{source}, #{at})
      on conflict (instance, source) do nothing
      """)
  void begins(
      @Param("instance") int instance, @Param("source") int source, @Param("at") Instant at);

  /** Made apart and attached then: nobody who reads or writes waits for it. */
  @Update(
      """
      create table if not exists ${name} (like reading including all);
      alter table reading attach partition ${name} for values from ('${from}') to ('${to}')
      """)
  void partition(@Param("name") String name, @Param("from") String from, @Param("to") String to);

  @Select("select pg_advisory_xact_lock(hashtext('reading partitions'))::text")
  String lockPartitions();

  /** The parts of a table, by their names. */
  @Select(
      """
      select c.relname from pg_inherits i join pg_class c on c.oid = i.inhrelid
      where i.inhparent = #{of}::regclass order by 1
      """)
  List<String> parts(String of);

  /** How large one is, indexes and all, in bytes; 0 where there is none. */
  @Select("select coalesce(pg_total_relation_size(to_regclass(#{name})), 0)")
  long partBytes(String name);

  /**
   * Waits for who reads or writes a part of a table, but not for long: whoever comes after waits as
   * well.
   */
  @Update(
      """
      set local lock_timeout = '100ms';
      lock table only ${of} in access exclusive mode;
      lock table ${name} in access exclusive mode
      """)
  void lockPart(@Param("of") String of, @Param("name") String name);

  @Update("drop table ${name}")
  void dropPart(@Param("name") String name);

  /** Before this no reading is kept as it was; null where none is packed. */
  @Select("select min(from_at) from span where instance = #{instance}")
  Instant firstSpan(int instance);

  /**
   * From when on anything of some instances is kept, in whatever form; null where nothing is. Looks
   * at a few series of each: what is kept of one is kept of all.
   */
  @Select(
      """
      select least(min(m.from_at), min(d.from_at), min(p.from_at)) from (
        select id, instance from (
          select id, instance, row_number() over (partition by instance order by id) as place
          from series where instance = any(#{instances})) numbered
        where place <= 3) s
      left join lateral (select from_at from step_month
        where series = s.id and minutes = 15 order by from_at limit 1) m on true
      left join lateral (select from_at from step_15
        where series = s.id and minutes = 15 order by from_at limit 1) d on true
      left join lateral (select from_at from span
        where instance = s.instance order by from_at limit 1) p on true
      """)
  Instant first(@Param("instances") int[] instances);

  /** From when on the newest packed span is; null where there is none. */
  @Select(
      """
      select max(newest) from sealed i, lateral (
        select greatest(
          (select max(from_at) from span s where s.instance = i.instance and not day),
          (select max(from_at) from span s where s.instance = i.instance and day)) as newest) of_it
      """)
  Instant newestSpan();

  /**
   * Has those days packed again of which a series has no steps.
   *
   * @param keep the number of the class
   * @param month as the names of its tables end
   * @return how many, of one source each
   */
  @Update(
      """
      insert into unsealed (instance, source, from_at, to_at, overlapped)
      select distinct s.instance, c.source, c.from_at, c.from_at, false
      from chunk_days_${keep}_${month} c join series s on s.id = c.series
      where not exists (
        select 1 from step_15 t
        where t.series = c.series and t.minutes = 15 and t.from_at = c.from_at
          and t.source = c.source)
        and not exists (
          select 1 from step_month t
          where t.series = c.series and t.minutes = 15 and t.source = c.source
            and t.from_at = date_trunc('month', c.from_at, 'UTC'))
      on conflict (instance, source, from_at) where not overlapped
      do update set to_at = excluded.to_at
      """)
  int packAgainToStep(@Param("keep") int keep, @Param("month") String month);

  @Select("select count(*) from set_aside")
  long setAside();

  @Select("select pg_database_size(current_database())")
  long bytes();

  @Select(
      "select coalesce(sum(pg_total_relation_size(relid)), 0) from pg_partition_tree('reading')")
  long rowBytes();

  /** Whether a part is there; as of now, where a look by its name may tell of a moment ago. */
  @Select("select exists (select 1 from pg_class where relname = #{name} and relispartition)")
  boolean exists(String name);
}
