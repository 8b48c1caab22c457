package jamjar.store.mapping;

import java.sql.CallableStatement;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.SortedMap;
import java.util.TreeMap;
import org.apache.ibatis.type.BaseTypeHandler;
import org.apache.ibatis.type.JdbcType;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Labels as {@code jsonb}. */
public final class LabelsHandler extends BaseTypeHandler<SortedMap<String, String>> {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  @Override
  public void setNonNullParameter(
      PreparedStatement to, int i, SortedMap<String, String> labels, JdbcType type)
      throws SQLException {
    to.setObject(i, text(labels), Types.OTHER);
  }

  /** As JSON. */
  public static String text(SortedMap<String, String> labels) {
    return JSON.writeValueAsString(labels);
  }

  @Override
  public SortedMap<String, String> getNullableResult(ResultSet rows, String column)
      throws SQLException {
    return read(rows.getString(column));
  }

  @Override
  public SortedMap<String, String> getNullableResult(ResultSet rows, int column)
      throws SQLException {
    return read(rows.getString(column));
  }

  @Override
  public SortedMap<String, String> getNullableResult(CallableStatement call, int column)
      throws SQLException {
    return read(call.getString(column));
  }

  private static SortedMap<String, String> read(String json) {
    return json == null
        ? null
        : JSON.readValue(json, new TypeReference<TreeMap<String, String>>() {});
  }
}
