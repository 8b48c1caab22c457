package jamjar.store.arrangements;

import java.util.List;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** How the charts of Now are arranged, where they are not as they began. */
public interface ArrangementMapper {

  @Select("select reach, of_what, charts from arrangement order by reach, of_what")
  List<ArrangementRow> all();

  @Insert(
      """
      insert into arrangement (reach, of_what, charts) values (#{reach}, #{ofWhat}, #{charts})
      on conflict (reach, of_what) do update set charts = excluded.charts
      """)
  void put(ArrangementRow row);

  @Delete("delete from arrangement where reach = #{reach} and of_what = #{ofWhat}")
  int remove(@Param("reach") String reach, @Param("ofWhat") String ofWhat);
}
