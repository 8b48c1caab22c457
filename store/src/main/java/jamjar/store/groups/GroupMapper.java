package jamjar.store.groups;

import java.util.List;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Select;

/** How many instances of each group there should be. */
public interface GroupMapper {

  @Select("select name, site, expected, command from instance_group order by name, site")
  List<GroupRow> all();

  @Insert(
      """
      insert into instance_group (name, site, expected, command)
      values (#{name}, #{site}, #{expected}, #{command})
      on conflict (name, site) do update
        set expected = excluded.expected, command = excluded.command
      """)
  void put(GroupRow row);
}
