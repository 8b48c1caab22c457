package jamjar.store.groups;

import java.util.List;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Select;

/** How many instances of each group there should be. */
public interface GroupMapper {

  @Select("select name, site, expected from instance_group order by name, site")
  List<GroupRow> all();

  @Insert(
      """
      insert into instance_group (name, site, expected) values (#{name}, #{site}, #{expected})
      on conflict (name, site) do update set expected = excluded.expected
      """)
  void put(GroupRow row);
}
