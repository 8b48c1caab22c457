package jamjar.store.intake;

import java.time.Instant;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** How far the journal was brought into this database. */
public interface JournalMapper {
  /**
   * @param epoch tells of which journal
   */
  record Brought(String epoch, long position) {}

  @Select("select epoch, position from journal")
  Optional<Brought> brought();

  /** As above; nobody moves it until the transaction ends. */
  @Select("select position from journal for update")
  long lock();

  @Update("update journal set position = #{to}")
  void move(long to);

  @Insert(
      """
      insert into journal (epoch, position) values (#{epoch}, #{position})
      on conflict (one) do update set epoch = excluded.epoch, position = excluded.position
      """)
  void begin(Brought brought);

  /** The transaction may be lost, with the position in it. */
  @Update("set local synchronous_commit = off")
  void needNotWait();

  /** What is committed from now on, and all before it, is on the disk. */
  @Update("set local synchronous_commit = on")
  void waitForDisk();

  @Insert(
      """
      insert into set_aside (epoch, position, at, why, entry)
      select epoch, #{position}, #{at}, #{why}, #{entry} from journal
      """)
  void setAside(
      @Param("position") long position,
      @Param("at") Instant at,
      @Param("why") String why,
      @Param("entry") byte[] entry);
}
