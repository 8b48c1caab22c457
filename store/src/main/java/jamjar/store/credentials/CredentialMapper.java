package jamjar.store.credentials;

import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Credentials that several instances may use. */
public interface CredentialMapper {
  String SELECT = "select name, user_name, secret, changed_at from credential ";

  @Select(SELECT + "order by name")
  List<CredentialRow> all();

  @Select(SELECT + "where name = #{name}")
  Optional<CredentialRow> byName(String name);

  @Insert(
      """
      insert into credential (name, user_name, secret, changed_at)
      values (#{name}, #{userName}, #{secret}, #{changedAt})
      on conflict (name) do update set user_name = excluded.user_name, secret = excluded.secret,
        changed_at = excluded.changed_at
      """)
  void put(CredentialRow row);

  /** Those that use it, removed ones not counted. */
  @Select("select id from instance where credential = #{name} and removed_at is null order by name")
  List<Integer> usedBy(String name);

  /** What was removed does not keep it from being removed too. */
  @Delete(
      """
      with gone as (
        update instance set credential = null where credential = #{name} and removed_at is not null)
      delete from credential where name = #{name}
      """)
  int remove(String name);

  /** The same password, locked anew; nothing where it was changed meanwhile. */
  @Update("update credential set secret = #{now} where name = #{name} and secret = #{before}")
  int secret(@Param("name") String name, @Param("before") byte[] before, @Param("now") byte[] now);
}
