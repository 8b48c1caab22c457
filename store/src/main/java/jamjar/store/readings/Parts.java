package jamjar.store.readings;

import java.util.List;
import java.util.function.Predicate;
import org.apache.ibatis.exceptions.PersistenceException;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** The parts of tables that hold a stretch of time each. */
final class Parts {
  private final SqlSessionFactory factory;

  Parts(SqlSessionFactory factory) {
    this.factory = factory;
  }

  /** The names of those of a table, in their order. */
  List<String> of(String table) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(ReadingMapper.class).parts(table);
    }
  }

  /** How large some are together, in bytes. */
  long bytes(List<String> names) {
    try (SqlSession session = factory.openSession(true)) {
      ReadingMapper from = session.getMapper(ReadingMapper.class);
      return names.stream().mapToLong(from::partBytes).sum();
    }
  }

  /**
   * Drops one, unless somebody reads or writes it.
   *
   * @param still whether it may be dropped, asked once nobody can write it any more
   * @return whether it was
   */
  boolean drop(String table, String name, Predicate<SqlSession> still) {
    try (SqlSession session = factory.openSession(false)) {
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      rows.lockPart(table, name);
      if (!still.test(session)) {
        return false;
      }
      rows.dropPart(name);
      session.commit();
      return true;
    } catch (PersistenceException e) {
      // somebody is at it still: next time
      return false;
    }
  }
}
