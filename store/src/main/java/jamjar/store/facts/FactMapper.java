package jamjar.store.facts;

import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** What instances say of themselves, as changes. */
public interface FactMapper {
  String SELECT =
      "select instance, name, value, from_at as \"from\", to_at as \"to\" from instance_fact ";

  /** What holds now. */
  @Select(SELECT + "where instance = #{instance} and to_at is null order by name")
  List<FactRow> now(int instance);

  /** What holds now of one name, of all instances. */
  @Select(SELECT + "where name = #{name} and to_at is null order by instance")
  List<FactRow> named(String name);

  /**
   * What tells addresses now, of all instances: facts that are one, and texts that hold some. An
   * index holds just these.
   */
  @Select(
      SELECT
          + """
          where to_at is null and (name like 'leads to/%' or value like '%jdbc:%')
          order by instance, name
          """)
  List<FactRow> addresses();

  /** All that ever held, by name, the newest first. */
  @Select(SELECT + "where instance = #{instance} order by name, from_at desc")
  List<FactRow> all(int instance);

  /** All that ever held of one name, in order. */
  @Select(SELECT + "where instance = #{instance} and name = #{name} order by from_at")
  List<FactRow> of(@Param("instance") int instance, @Param("name") String name);

  @Insert(
      """
      insert into instance_fact (instance, name, value, from_at)
      values (#{instance}, #{name}, #{value}, #{at})
      on conflict (instance, name, from_at) do nothing
      """)
  void begin(
      @Param("instance") int instance,
      @Param("name") String name,
      @Param("value") String value,
      @Param("at") Instant at);

  /** What held for a time that is over. */
  @Insert(
      """
      insert into instance_fact (instance, name, value, from_at, to_at)
      values (#{instance}, #{name}, #{value}, #{from}, #{to})
      on conflict (instance, name, from_at) do nothing
      """)
  void add(FactRow row);

  @Update(
      """
      update instance_fact set to_at = #{at}
      where instance = #{instance} and name = #{name} and to_at is null
      """)
  void end(@Param("instance") int instance, @Param("name") String name, @Param("at") Instant at);
}
