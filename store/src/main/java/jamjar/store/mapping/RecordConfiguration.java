package jamjar.store.mapping;

import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.mapping.ResultFlag;
import org.apache.ibatis.mapping.ResultMap;
import org.apache.ibatis.mapping.ResultMapping;
import org.apache.ibatis.session.Configuration;

/**
 * Maps each row to a record by the names of its components, found out once: a component {@code
 * offUntil} is the column {@code off_until}. By itself MyBatis compares all names with all columns
 * for each row, which takes longer than to read it.
 */
public final class RecordConfiguration extends Configuration {
  public RecordConfiguration(Environment environment) {
    super(environment);
  }

  @Override
  public void addResultMap(ResultMap map) {
    boolean isOpen = map.getType().isRecord() && map.getResultMappings().isEmpty();
    super.addResultMap(isOpen ? byComponents(map) : map);
  }

  private ResultMap byComponents(ResultMap map) {
    List<ResultMapping> columns =
        Arrays.stream(map.getType().getRecordComponents()).map(this::column).toList();
    return new ResultMap.Builder(this, map.getId(), map.getType(), columns, false).build();
  }

  private ResultMapping column(RecordComponent component) {
    return new ResultMapping.Builder(this, null, columnOf(component.getName()), component.getType())
        .flags(List.of(ResultFlag.CONSTRUCTOR))
        .build();
  }

  static String columnOf(String component) {
    return component.replaceAll("([A-Z])", "_$1").toLowerCase(Locale.ROOT);
  }
}
