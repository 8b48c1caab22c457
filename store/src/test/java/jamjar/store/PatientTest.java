package jamjar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.datasource.AbstractDataSource;

class PatientTest {
  private static final SQLException ALL_IN_USE =
      new SQLTransientConnectionException("asking - Connection is not available");
  private static final SQLException NOT_MADE =
      new SQLTransientConnectionException(
          "asking - Connection is not available", new SQLException("refused", "08001"));

  private final Connection connection =
      (Connection)
          Proxy.newProxyInstance(
              getClass().getClassLoader(),
              new Class<?>[] {Connection.class},
              (proxy, method, arguments) -> method.getName().equals("toString") ? "one" : null);
  private final Deque<SQLException> failures = new ArrayDeque<>();
  private final Patient patient = new Patient(pool());

  /** Fails as told, then hands out a connection. */
  private DataSource pool() {
    return new AbstractDataSource() {
      @Override
      public Connection getConnection() throws SQLException {
        SQLException failure = failures.poll();
        if (failure != null) {
          throw failure;
        }
        return connection;
      }

      @Override
      public Connection getConnection(String user, String password) throws SQLException {
        return getConnection();
      }
    };
  }

  @Test
  void where_all_connections_are_in_use_it_waits_on_until_there_is_one() throws Exception {
    failures.addAll(List.of(ALL_IN_USE, ALL_IN_USE, ALL_IN_USE));
    assertThat(patient.getConnection()).isSameAs(connection);
  }

  @Test
  void where_the_database_does_not_answer_it_does_not_wait() throws Exception {
    patient.answers(false);
    failures.addAll(List.of(ALL_IN_USE, ALL_IN_USE));
    assertThatThrownBy(patient::getConnection).isSameAs(ALL_IN_USE);
    patient.answers(true);
    assertThat(patient.getConnection()).isSameAs(connection);
  }

  @Test
  void to_be_let_in_may_take_longer_than_anybody_waits_for_it() throws Exception {
    Connections connections = new Connections("jdbc:postgresql://127.0.0.1/none", Map.of());
    // as the pool sets it
    connections.setLoginTimeout(1);
    assertThat(connections.getLoginTimeout()).isEqualTo(5);
  }

  @Test
  void where_none_can_be_made_it_does_not_wait() {
    failures.addAll(List.of(ALL_IN_USE, NOT_MADE));
    assertThatThrownBy(patient::getConnection).isSameAs(NOT_MADE);
    failures.add(new SQLException("the pool is closed"));
    assertThatThrownBy(patient::getConnection).hasMessage("the pool is closed");
  }
}
