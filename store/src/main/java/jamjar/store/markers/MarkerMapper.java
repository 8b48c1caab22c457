package jamjar.store.markers;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Markers. */
public interface MarkerMapper {
  String COLUMNS =
      """
      id, kind, title, note, from_at as from, to_at as to, reach, reach_of, made_at, made_by,
        repeats, zone, ends_at, first_at
      """;

  /** Those that touch a window, oldest first. */
  @Select(
      "select "
          + COLUMNS
          + """
          from marker_time where from_at <= #{to} and coalesce(to_at,
            case when kind in ('incident', 'maintenance') then 'infinity' else from_at end) >= #{from}
          order by from_at, id
          """)
  List<MarkerRow> touching(@Param("from") Instant from, @Param("to") Instant to);

  @Select("select " + COLUMNS + " from marker_time where kind = #{kind} order by from_at, id")
  List<MarkerRow> ofKind(String kind);

  /** The first time that it holds. */
  @Select("select " + COLUMNS + " from marker_time where id = #{id} and from_at = first_at")
  Optional<MarkerRow> byId(int id);

  @Select(
      affectData = true,
      value =
          """
      insert into marker (kind, title, note, from_at, to_at, reach, reach_of, made_at, made_by,
        repeats, zone, ends_at)
      values (#{kind}, #{title}, #{note}, #{from}, #{to}, #{reach}, #{reachOf}, #{madeAt},
        #{madeBy}, #{repeats}, #{zone}, #{endsAt})
      returning id
      """)
  int add(MarkerRow row);

  @Update(
      """
      update marker set kind = #{kind}, title = #{title}, note = #{note}, from_at = #{from},
        to_at = #{to}, reach = #{reach}, reach_of = #{reachOf}, repeats = #{repeats},
        zone = #{zone}, ends_at = #{endsAt}
      where id = #{id}
      """)
  int change(MarkerRow row);

  @Delete("delete from marker where id = #{id}")
  int remove(int id);

  /** Of what a marker is about, and was when it was looked at: of what is removed, none. */
  String ABOUT =
      """
      join marker m on m.id = o.marker join instance i on i.id = o.instance and i.removed_at is null
        and case m.reach when 'all' then true when 'site' then i.site = m.reach_of
          when 'group' then i.group_name = m.reach_of else i.id::text = m.reach_of end
      """;

  /** Nothing where the marker is not any more as it was when this was told. */
  @Insert(
      """
      insert into marker_outcome (marker, span, instance, told_at, kept_since, better, worse, other,
        same, first)
      select id, #{row.span}, #{row.instance}, #{row.toldAt}, #{row.keptSince}, #{row.better},
        #{row.worse}, #{row.other}, #{row.same}, #{row.first}::jsonb
      from marker where id = #{of.id} and kind = #{of.kind} and from_at = #{of.from}
        and to_at is not distinct from #{of.to}::timestamptz for share
      on conflict (marker, span, instance) do update set told_at = excluded.told_at,
        kept_since = excluded.kept_since, better = excluded.better, worse = excluded.worse,
        other = excluded.other, same = excluded.same, first = excluded.first
      """)
  int keepOutcome(@Param("of") MarkerRow of, @Param("row") OutcomeRow row);

  /** What is told of a marker. */
  @Select(
      """
      select o.marker, o.span, o.instance, i.name as instance_name, o.told_at,
        o.kept_since, o.better, o.worse, o.other, o.same, o.first::text as first
      from marker_outcome o
      """
          + ABOUT
          + "where o.marker = #{marker} order by o.worse desc, o.better desc, i.name")
  List<OutcomeRow> outcomes(int marker);

  /**
   * What is told of some markers, of instances together, by how long after it.
   *
   * @param of the instances; null for all
   */
  @Select(
      """
      select o.marker, o.span, sum(o.better) as better, sum(o.worse) as worse, sum(o.other) as other
      from marker_outcome o
      """
          + ABOUT
          + """
          where o.marker = any(#{markers}) and (#{of}::int[] is null or o.instance = any(#{of}))
          group by o.marker, o.span
          """)
  List<OutcomeSum> sums(@Param("markers") int[] markers, @Param("of") Integer[] of);

  /** When what is told of some markers was told of history that began then. */
  @Select(
      """
      select marker, span, instance, kept_since
      from marker_outcome where marker = any(#{markers})
      """)
  List<OutcomeTold> told(int[] markers);

  /** It is about something else now. */
  @Delete("delete from marker_outcome where marker = #{marker}")
  void forgetOutcomes(int marker);
}
