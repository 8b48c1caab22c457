package jamjar.store.instances;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The instances under watch. Removing one keeps its readings. */
public interface InstanceMapper {
  String COLUMNS =
      """
      id, name, kind, group_name, site, machine, tags, host, port, database, tls, ca, user_name,
      secret, recipe, interval_s, zone, created_at, credential, paused, uses
      """;

  @Select(
      "select "
          + COLUMNS
          + " from instance where removed_at is null order by kind = '"
          + InstanceRow.OWN
          + "', name")
  List<InstanceRow> all();

  @Select("select " + COLUMNS + " from instance where id = #{id} and removed_at is null")
  Optional<InstanceRow> byId(int id);

  /** By which recipe and how often an instance is read, be it removed since. */
  @Select("select recipe, interval_s from instance where id = #{id}")
  Optional<ReadBy> readBy(int id);

  /**
   * How an instance is read.
   *
   * @param recipe key of the recipe
   * @param intervalS seconds between two fast readings
   */
  record ReadBy(String recipe, int intervalS) {}

  @Select("select id from instance where name = #{name} and removed_at is null")
  Optional<Integer> idByName(String name);

  @Select(
      affectData = true,
      value =
          """
      insert into instance (name, kind, group_name, site, machine, tags, host, port, database, tls,
        ca, user_name, secret, recipe, interval_s, zone, created_at, credential, paused, uses)
      values (#{name}, #{kind}, #{groupName}, #{site}, #{machine}, #{tags}, #{host}, #{port},
        #{database}, #{tls}, #{ca}, #{userName}, #{secret}, #{recipe}, #{intervalS}, #{zone},
        #{createdAt}, #{credential}, #{paused}, #{uses})
      returning id
      """)
  int add(InstanceRow row);

  @Update(
      """
      update instance set name = #{name}, group_name = #{groupName}, site = #{site},
        machine = #{machine}, tags = #{tags}, host = #{host}, port = #{port},
        database = #{database}, tls = #{tls}, ca = #{ca}, user_name = #{userName},
        secret = #{secret}, recipe = #{recipe}, interval_s = #{intervalS}, zone = #{zone},
        credential = #{credential}, uses = #{uses}
      where id = #{id} and removed_at is null
      """)
  int change(InstanceRow row);

  /** The same password, locked anew; nothing where it was changed meanwhile. */
  @Update("update instance set secret = #{now} where id = #{id} and secret = #{before}")
  int secret(@Param("id") int id, @Param("before") byte[] before, @Param("now") byte[] now);

  @Update("update instance set paused = #{paused} where id = #{id} and removed_at is null")
  int pause(@Param("id") int id, @Param("paused") boolean paused);

  /**
   * It uses one more, whatever else is changed of it meanwhile.
   *
   * @param most so many are kept
   * @return 0 where it is known already, or there are so many
   */
  @Update(
      """
      update instance set uses = uses || #{use}::text
      where id = #{id} and removed_at is null and not (#{use} = any(uses))
        and cardinality(uses) < #{most}
      """)
  int use(@Param("id") int id, @Param("use") String use, @Param("most") int most);

  /** Another name for an instance that others use. */
  @Update(
      """
      update instance set uses = array(
        select case
          when u = #{before} then #{after}
          when right(u, length(#{before}) + 1) = '=' || #{before}
            then left(u, length(u) - length(#{before})) || #{after}
          else u end
        from unnest(uses) with ordinality as each(u, place) order by place)
      where removed_at is null and cardinality(uses) > 0
      """)
  int renamed(@Param("before") String before, @Param("after") String after);

  @Update("update instance set removed_at = #{at} where id = #{id} and removed_at is null")
  int remove(@Param("id") int id, @Param("at") Instant at);

  @Delete("delete from last_totals where instance = #{id} and source = #{source}")
  void forgetTotals(@Param("id") int id, @Param("source") int source);
}
