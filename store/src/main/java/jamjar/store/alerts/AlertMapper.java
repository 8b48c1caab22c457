package jamjar.store.alerts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Alerts, their transitions and notes. */
public interface AlertMapper {
  @Select("select * from alert where ended_at is null order by since desc, id desc")
  List<AlertRow> open();

  /** The open ones of an instance. */
  @Select("select * from alert where ended_at is null and instance = #{instance}")
  List<AlertRow> openOf(int instance);

  /**
   * Those that were open at some time of a window, newest first.
   *
   * @param of the instances; null for all
   */
  @Select(
      """
      select * from alert where since <= #{to} and coalesce(ended_at, 'infinity') >= #{from}
        and (#{of}::int[] is null or instance = any(#{of}))
      order by since desc, id desc limit #{most}
      """)
  List<AlertRow> touching(
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("of") Integer[] of,
      @Param("most") int most);

  /** Whom they were given to is called otherwise now. */
  @Update("update alert set assigned = #{now} where assigned = #{before}")
  void assignedCalled(@Param("before") String before, @Param("now") String now);

  @Update("update alert set assigned = #{to} where id = #{id}")
  void assign(@Param("id") long id, @Param("to") String to);

  @Select("select * from alert where id = #{id}")
  Optional<AlertRow> byId(long id);

  /** The alert of a series that rose by a transition that arrived then. */
  @Select(
      """
      select a.id from alert a join alert_transition t on t.alert = a.id
      where a.instance = #{instance} and a.series = #{series} and a.condition = #{condition}
        and t.arrived between #{arrived} and #{arrived}::timestamptz + interval '1 ms'
      order by a.id limit 1
      """)
  Optional<Long> risen(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition,
      @Param("arrived") Instant arrived);

  @Select("select * from alert_transition where alert = any(#{ids}) order by id")
  List<TransitionRow> transitions(@Param("ids") long[] ids);

  @Select("select alert, at, who, note from alert_note where alert = any(#{ids}) order by id")
  List<NoteRow> notes(@Param("ids") long[] ids);

  /**
   * What rang of one limit on one series.
   *
   * @param atNight how many began from 22 to 6 o'clock where the instance is
   * @param seconds how long they were open in all
   * @param acknowledged how many somebody acknowledged
   * @param untilAcknowledged how long that took in all, s
   */
  record Noise(
      int rule,
      int instance,
      int series,
      String counter,
      SortedMap<String, String> labels,
      String condition,
      int alerts,
      int atNight,
      long seconds,
      int acknowledged,
      long untilAcknowledged) {}

  /** What rang since then, by limit and series. */
  @Select(
      """
      select a.rule, a.instance, a.series, a.counter, a.labels, a.condition,
        count(*)::int as alerts,
        (count(*) filter (where extract(hour from a.since at time zone i.zone) >= 22
          or extract(hour from a.since at time zone i.zone) < 6))::int as at_night,
        coalesce(sum(extract(epoch from coalesce(a.ended_at, #{now}) - a.since)), 0)::bigint
          as seconds,
        count(a.seen_at)::int as acknowledged,
        coalesce(sum(extract(epoch from a.seen_at - a.since)), 0)::bigint as until_acknowledged
      from alert a join instance i on i.id = a.instance
      where a.since >= #{from}
      group by 1, 2, 3, 4, 5, 6 order by alerts desc, rule, instance, series
      """)
  List<Noise> noise(@Param("from") Instant from, @Param("now") Instant now);

  /** How often an alert of this kind rose since then, and for how many seconds in all. */
  @Select(
      """
      select count(*) as times,
        coalesce(sum(extract(epoch from coalesce(ended_at, #{now}) - since)), 0)::bigint as seconds
      from alert
      where instance = #{instance} and series = #{series} and condition = #{condition}
        and since >= #{from}
      """)
  Rang rang(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition,
      @Param("from") Instant from,
      @Param("now") Instant now);

  /**
   * How often a limit rang.
   *
   * @param seconds in all
   */
  record Rang(int times, long seconds) {}

  @Update(
      """
      update alert set seen_at = #{at}, seen_by = #{who}, seen_note = #{note},
        seen_until = #{until}, seen_severity = #{severity}
      where id = #{id}
      """)
  int acknowledge(
      @Param("id") long id,
      @Param("at") Instant at,
      @Param("who") String who,
      @Param("note") String note,
      @Param("until") Instant until,
      @Param("severity") String severity);

  /** Those of which it is not known yet what they belong to, in the order in which they began. */
  @Select("select * from alert where bundle is null order by since, id limit #{most}")
  List<AlertRow> unbundled(int most);

  /** All of the bundles whose first alert began in a time, in the order in which they began. */
  @Select(
      """
      select * from alert
      where bundle in (select id from alert where bundle = id and since between #{from} and #{to})
      order by since, id
      """)
  List<AlertRow> bundled(@Param("from") Instant from, @Param("to") Instant to);

  /** Whether there is one that began just then. */
  @Select(
      """
      select exists (select from alert where instance = #{instance} and series = #{series}
        and condition = #{condition} and since = #{since})
      """)
  boolean began(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition,
      @Param("since") Instant since);

  /** One that was judged afterwards; it is over. */
  @Select(
      affectData = true,
      value =
          """
          insert into alert (rule, instance, series, counter, labels, condition, state, severity,
            since, ended_at, value, normal_low, normal_high, number, worst, flapping, afterwards)
          values (#{rule}, #{instance}, #{series}, #{counter},
            #{labels,typeHandler=jamjar.store.mapping.LabelsHandler}, #{condition}, #{state},
            #{severity}, #{since}, #{endedAt}, #{value}, #{normalLow}, #{normalHigh}, #{number},
            #{worst}, #{flapping}, true)
          returning id
          """)
  long addAfterwards(AlertRow row);

  @Insert(
      """
      insert into alert_transition (alert, at, arrived, from_state, to_state, value, normal_low,
        normal, normal_high, number, distance)
      values (#{alert}, #{at}, #{arrived}, #{fromState}, #{toState}, #{value}, #{normalLow},
        #{normal}, #{normalHigh}, #{number}, #{distance})
      """)
  void addTransition(TransitionRow row);

  /** Forgets what was judged afterwards of an instance, but what somebody wrote to. */
  @Delete(
      """
      with gone as (
        select id from alert a where afterwards and instance = #{instance} and seen_at is null
          and not exists (select from alert_note n where n.alert = a.id)),
        passed as (delete from alert_transition where alert in (select id from gone))
      delete from alert where id in (select id from gone)
      """)
  void forgetAfterwards(int instance);

  /** Those of one counter that were open at some time of a window. */
  @Select(
      """
      select * from alert
      where counter = #{counter} and since <= #{to} and coalesce(ended_at, 'infinity') >= #{from}
      """)
  List<AlertRow> ofCounter(
      @Param("counter") String counter, @Param("from") Instant from, @Param("to") Instant to);

  /** All of a bundle, in the order in which they began. */
  @Select("select * from alert where bundle = #{bundle} order by since, id limit 200")
  List<AlertRow> ofBundle(long bundle);

  /** Those of one kind that began in a time and before another one, the newest first. */
  @Select(
      """
      select * from alert
      where instance = #{instance} and series = #{series} and condition = #{condition}
        and since >= #{from} and since < #{before}
      order by since desc limit #{most}
      """)
  List<AlertRow> before(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition,
      @Param("from") Instant from,
      @Param("before") Instant before,
      @Param("most") int most);

  @Update("update alert set bundle = #{bundle} where id = #{id} and bundle is null")
  void bundle(@Param("id") long id, @Param("bundle") long bundle);

  @Insert("insert into alert_note (alert, at, who, note) values (#{alert}, #{at}, #{who}, #{note})")
  void addNote(NoteRow note);

  @Insert(
      """
      insert into alert (rule, instance, series, counter, labels, condition, state, severity, since,
        value, normal_low, normal_high, number, worst, flapping)
      values (#{rule}, #{instance}, #{series}, #{counter},
        #{labels,typeHandler=jamjar.store.mapping.LabelsHandler}, #{condition}, #{state},
        #{severity}, #{since}, #{value}, #{normalLow}, #{normalHigh}, #{number}, #{worst},
        #{flapping})
      """)
  void rise(AlertRow row);

  @Update(
      """
      update alert set rule = case when #{rule} = 0 then rule else #{rule} end, state = #{state}, severity = #{severity},
        ended_at = #{endedAt}, value = coalesce(nullif(#{value}::float8, 'NaN'), value),
        normal_low = coalesce(nullif(#{normalLow}::float8, 'NaN'), normal_low),
        normal_high = coalesce(nullif(#{normalHigh}::float8, 'NaN'), normal_high),
        number = coalesce(nullif(#{number}::float8, 'NaN'), number),
        worst = coalesce(nullif(#{worst}::float8, 'NaN'), worst), flapping = #{flapping} or flapping
      where instance = #{instance} and series = #{series} and condition = #{condition}
        and ended_at is null
      """)
  void follow(AlertRow row);

  @Insert(
      """
      insert into alert_transition (alert, at, arrived, from_state, to_state, value, normal_low,
        normal, normal_high, number, distance)
      select id, #{row.at}, #{row.arrived}, #{row.fromState}, #{row.toState}, #{row.value},
        #{row.normalLow}, #{row.normal}, #{row.normalHigh}, #{row.number}, #{row.distance}
      from alert
      where instance = #{instance} and series = #{series} and condition = #{condition}
        and ended_at is null
      """)
  void pass(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition,
      @Param("row") TransitionRow row);
}
