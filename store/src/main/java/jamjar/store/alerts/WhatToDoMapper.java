package jamjar.store.alerts;

import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What a person is to do when something is wrong. */
public interface WhatToDoMapper {
  @Select("select reach, reach_of, words from what_to_do order by reach, reach_of")
  List<WhatToDoRow> all();

  @Select(
      """
      select reach, reach_of, words from what_to_do
      where reach = #{reach} and reach_of = #{of}
      """)
  Optional<WhatToDoRow> of(@Param("reach") String reach, @Param("of") String of);

  @Insert(
      """
      insert into what_to_do (reach, reach_of, words) values (#{reach}, #{reachOf}, #{words})
      on conflict (reach, reach_of) do update set words = excluded.words
      """)
  void put(WhatToDoRow row);

  @Delete("delete from what_to_do where reach = #{reach} and reach_of = #{of}")
  void remove(@Param("reach") String reach, @Param("of") String of);
}
