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
      id, kind, title, note, from_at as from, to_at as to, reach, reach_of, made_at, made_by
      """;

  /** Those that touch a window, oldest first. */
  @Select(
      "select "
          + COLUMNS
          + """
          from marker where from_at <= #{to} and coalesce(to_at,
            case when kind in ('incident', 'maintenance') then 'infinity' else from_at end) >= #{from}
          order by from_at, id
          """)
  List<MarkerRow> touching(@Param("from") Instant from, @Param("to") Instant to);

  @Select("select " + COLUMNS + " from marker where kind = #{kind} order by from_at, id")
  List<MarkerRow> ofKind(String kind);

  @Select("select " + COLUMNS + " from marker where id = #{id}")
  Optional<MarkerRow> byId(int id);

  @Select(
      affectData = true,
      value =
          """
      insert into marker (kind, title, note, from_at, to_at, reach, reach_of, made_at, made_by)
      values (#{kind}, #{title}, #{note}, #{from}, #{to}, #{reach}, #{reachOf}, #{madeAt}, #{madeBy})
      returning id
      """)
  int add(MarkerRow row);

  @Update(
      """
      update marker set kind = #{kind}, title = #{title}, note = #{note}, from_at = #{from},
        to_at = #{to}, reach = #{reach}, reach_of = #{reachOf}
      where id = #{id}
      """)
  int change(MarkerRow row);

  @Delete("delete from marker where id = #{id}")
  int remove(int id);

  @Insert(
      """
      insert into marker_outcome (marker, span, instance, told_at, kept_since, better, worse, other,
        same, first)
      values (#{marker}, #{span}, #{instance}, #{toldAt}, #{keptSince}, #{better}, #{worse}, #{other},
        #{same}, #{first}::jsonb)
      on conflict (marker, span, instance) do update set told_at = excluded.told_at,
        kept_since = excluded.kept_since, better = excluded.better, worse = excluded.worse,
        other = excluded.other, same = excluded.same, first = excluded.first
      """)
  void keepOutcome(OutcomeRow row);

  /** What is told of some markers. */
  @Select(
      """
      select marker, span, instance, told_at as toldAt, kept_since as keptSince, better, worse, other,
        same, first::text as first
      from marker_outcome where marker = any(#{markers}) order by marker, instance
      """)
  List<OutcomeRow> outcomes(int[] markers);

  /** It is about something else now. */
  @Delete("delete from marker_outcome where marker = #{marker}")
  void forgetOutcomes(int marker);
}
