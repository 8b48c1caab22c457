package jamjar.store.accounts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Who may come in, and by what. */
public interface AccountMapper {
  String ACCOUNT =
      """
      select id, name, password, role, scope, off, made_at, signed_in_at, issuer, subject
      from account
      """;
  String TOKEN =
      """
      select id, name, hash, role, scope, made_by, made_at, ends_at, used_at from token
      """;

  @Select(ACCOUNT + "order by lower(name)")
  List<AccountRow> all();

  @Select(ACCOUNT + "where id = #{id}")
  Optional<AccountRow> byId(int id);

  /** Whatever its case. */
  @Select(ACCOUNT + "where lower(name) = lower(#{name})")
  Optional<AccountRow> byName(String name);

  /** As they are known elsewhere. */
  @Select(ACCOUNT + "where issuer = #{issuer} and subject = #{subject}")
  Optional<AccountRow> bySubject(@Param("issuer") String issuer, @Param("subject") String subject);

  /** What groups may whose members come by single sign-on. */
  @Select("select name, role, scope from sign_on_group order by lower(name)")
  List<GroupRightRow> groupRights();

  @Insert(
      """
      insert into sign_on_group (name, role, scope) values (#{name}, #{role}, #{scope})
      on conflict (name) do update set role = excluded.role, scope = excluded.scope
      """)
  void putGroupRight(GroupRightRow row);

  @Delete("delete from sign_on_group where name = #{name}")
  int removeGroupRight(String name);

  /** Until this transaction ends nobody else adds or changes any. */
  @Update("lock table account in exclusive mode")
  void alone();

  /**
   * Those who may administer and are not off; until this transaction ends nobody else changes them,
   * so that the last of them is not lost by two who take each other away.
   */
  @Select("select id from account where role = 'administer' and not off order by id for update")
  List<Integer> administrators();

  @Select(
      affectData = true,
      value =
          """
      insert into account (name, password, role, scope, off, made_at, issuer, subject)
      values (#{name}, #{password}, #{role}, #{scope}, #{off}, #{madeAt}, #{issuer}, #{subject})
      returning id
      """)
  int add(AccountRow row);

  @Update(
      """
      update account set name = #{name}, role = #{role}, scope = #{scope},
        off = #{off}
      where id = #{id}
      """)
  int change(
      @Param("id") int id,
      @Param("name") String name,
      @Param("role") String role,
      @Param("scope") String[] scope,
      @Param("off") boolean off);

  @Update("update account set password = #{password} where id = #{id}")
  int password(@Param("id") int id, @Param("password") String password);

  @Update("update account set signed_in_at = #{at} where id = #{id}")
  void signedIn(@Param("id") int id, @Param("at") Instant at);

  @Select("select theme, keys_act, first_view, zone from account_likes where account = #{id}")
  Optional<LikesRow> likes(int id);

  /** Changes what is not null; what was never said is as at first. */
  @Insert(
      """
      insert into account_likes (account, theme, keys_act, first_view, zone)
      values (#{id}, coalesce(#{theme}, ''), coalesce(#{keysAct}, true),
        coalesce(#{firstView}, 'shelf'), coalesce(#{zone}, ''))
      on conflict (account) do update set
        theme = coalesce(#{theme}, account_likes.theme),
        keys_act = coalesce(#{keysAct}, account_likes.keys_act),
        first_view = coalesce(#{firstView}, account_likes.first_view),
        zone = coalesce(#{zone}, account_likes.zone)
      """)
  void putLikes(
      @Param("id") int id,
      @Param("theme") String theme,
      @Param("keysAct") Boolean keysAct,
      @Param("firstView") String firstView,
      @Param("zone") String zone);

  @Delete("delete from account where id = #{id}")
  int remove(int id);

  @Select(TOKEN + "order by lower(name)")
  List<TokenRow> tokens();

  @Select(TOKEN + "where hash = #{hash}")
  Optional<TokenRow> token(byte[] hash);

  @Select(
      affectData = true,
      value =
          """
      insert into token (name, hash, role, scope, made_by, made_at, ends_at)
      values (#{name}, #{hash}, #{role}, #{scope}, #{madeBy}, #{madeAt},
        #{endsAt})
      returning id
      """)
  int addToken(TokenRow row);

  @Update("update token set used_at = #{at} where id = #{id}")
  void tokenUsed(@Param("id") int id, @Param("at") Instant at);

  @Delete("delete from token where id = #{id}")
  int removeToken(int id);

  /** Those that have ended go at the same time. */
  @Insert(
      """
      with ended as (delete from entry_key where ends_at < now())
      insert into entry_key (hash, account, ends_at) values (#{hash}, #{account}, #{endsAt})
      """)
  void addKey(EntryKeyRow row);

  @Select("select hash, account, ends_at from entry_key where hash = #{hash}")
  Optional<EntryKeyRow> key(byte[] hash);

  /** Whoever takes it first has it. */
  @Delete("delete from entry_key where hash = #{hash}")
  int takeKey(byte[] hash);

  @Delete("delete from entry_key where account is null")
  void dropFirstKeys();
}
