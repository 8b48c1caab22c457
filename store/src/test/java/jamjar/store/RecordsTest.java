package jamjar.store;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.ibatis.mapping.MappedStatement;
import org.apache.ibatis.mapping.ResultMap;
import org.apache.ibatis.mapping.ResultMapping;
import org.apache.ibatis.scripting.xmltags.DynamicSqlSource;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.transaction.jdbc.JdbcTransactionFactory;
import org.junit.jupiter.api.Test;
import org.postgresql.ds.PGSimpleDataSource;

/** Every statement that tells records tells all of their components. */
class RecordsTest {
  @Test
  void each_component_of_a_record_is_a_column_of_what_tells_it() throws Exception {
    TemporaryCluster cluster = TemporaryCluster.shared();
    String database = cluster.newDatabase();
    PGSimpleDataSource source = new PGSimpleDataSource();
    source.setUrl(cluster.cluster().url(database));
    source.setUser("postgres");
    source.setPassword(cluster.cluster().password());
    try (Store store = Store.open(source.getUrl(), "postgres", source.getPassword());
        Connection connection = source.getConnection()) {
      assertThat(store).isNotNull();
      Configuration configuration = Store.configuration(source, new JdbcTransactionFactory());
      List<String> looked = new ArrayList<>();
      // short names that are not one of a kind stand for nothing
      Set<Object> all = new HashSet<>(configuration.getMappedStatements());
      for (Object one : all) {
        if (!(one instanceof MappedStatement statement)) {
          continue;
        }
        for (ResultMap map : statement.getResultMaps()) {
          if (map.getType().isRecord() && !(statement.getSqlSource() instanceof DynamicSqlSource)) {
            String sql = statement.getBoundSql(Map.of()).getSql();
            assertThat(columns(connection, sql))
                .as(statement.getId())
                .containsAll(
                    map.getConstructorResultMappings().stream()
                        .map(ResultMapping::getColumn)
                        .toList());
            looked.add(statement.getId());
          }
        }
      }
      assertThat(looked).hasSizeGreaterThan(60);
    }
  }

  private static List<String> columns(Connection connection, String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      ResultSetMetaData told = statement.getMetaData();
      List<String> columns = new ArrayList<>();
      for (int i = 1; i <= told.getColumnCount(); i++) {
        columns.add(told.getColumnLabel(i));
      }
      return columns;
    }
  }
}
