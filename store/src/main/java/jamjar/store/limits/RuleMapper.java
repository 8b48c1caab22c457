package jamjar.store.limits;

import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The rules of limits. At most one per counter, labels, reach and condition. */
public interface RuleMapper {
  String COLUMNS =
      """
      counter, labels, reach, reach_of, condition, warning, critical, hold_m, hold_n, critical_m,
        critical_n, clear, critical_clear, clear_s, against, is_on, off_reason, off_until, shipped, changed_at
      """;
  String VALUES =
      """
      #{counter}, #{labels,typeHandler=jamjar.store.mapping.LabelsHandler}, #{reach}, #{reachOf},
        #{condition}, #{warning}, #{critical}, #{holdM}, #{holdN}, #{criticalM}, #{criticalN},
        #{clear}, #{criticalClear}, #{clearS}, #{against}, #{isOn}, #{offReason}, #{offUntil},
        #{shipped}, #{changedAt}
      """;

  @Select("select id, " + COLUMNS + " from rule order by counter, reach, id")
  List<RuleRow> all();

  @Select("select id, " + COLUMNS + " from rule where counter = #{counter} order by reach, id")
  List<RuleRow> ofCounter(String counter);

  /**
   * Those of a counter that may be in force on some instances.
   *
   * @param groups of these
   * @param instances their numbers, in words
   */
  @Select(
      "select id, "
          + COLUMNS
          + """
          from rule where counter = #{counter} and (reach = 'KIND'
            or reach = 'GROUP' and reach_of = any(#{groups})
            or reach = 'INSTANCE' and reach_of = any(#{instances}))
          order by reach, id
          """)
  List<RuleRow> reaching(
      @Param("counter") String counter,
      @Param("groups") String[] groups,
      @Param("instances") String[] instances);

  @Select("select distinct counter from rule order by counter")
  List<String> counters();

  @Select("select id, " + COLUMNS + " from rule where id = #{id}")
  Optional<RuleRow> byId(int id);

  @Select(
      affectData = true,
      value = "insert into rule (" + COLUMNS + ") values (" + VALUES + ") returning id")
  int add(RuleRow row);

  /** Adds a shipped rule unless there is one like it, changed or not. */
  @Insert("insert into rule (" + COLUMNS + ") values (" + VALUES + ") on conflict do nothing")
  void ship(RuleRow row);

  @Update(
      """
      update rule set warning = #{warning}, critical = #{critical}, hold_m = #{holdM},
        hold_n = #{holdN}, critical_m = #{criticalM}, critical_n = #{criticalN}, clear = #{clear},
        critical_clear = #{criticalClear}, clear_s = #{clearS}, against = #{against}, is_on = #{isOn},
        off_reason = #{offReason}, off_until = #{offUntil}, shipped = #{shipped},
        changed_at = #{changedAt}
      where id = #{id}
      """)
  int change(RuleRow row);

  @Delete("delete from rule where id = #{id}")
  int remove(int id);
}
